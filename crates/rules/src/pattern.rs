//! What is wrong with a regular expression, whatever the flavour: brackets that do not match, and repetitions of nothing.
//!
//! What both "Regular Expression Syntax" (The Python Standard Library 3.14, `re`) and "Patterns" (ECMAScript 2026, 22.2.1) refuse; where
//! one of them takes it, nothing is said.

/// The first thing that no flavour can compile.
pub(crate) fn pattern_problem(pattern: &str) -> Option<&'static str> {
    let characters: Vec<char> = pattern.chars().collect();
    let mut open = 0_usize;
    // Whether there is something before that could be repeated.
    let mut has_atom = false;
    let mut at = 0;
    while at < characters.len() {
        match characters[at] {
            '\\' if at + 1 == characters.len() => return Some("it ends with a backslash"),
            '\\' => {
                at += 1;
                has_atom = true;
            }
            '[' => {
                at = class_end(&characters, at)?;
                if at >= characters.len() {
                    return Some("a [ is never closed");
                }
                has_atom = true;
            }
            '(' => {
                open += 1;
                has_atom = false;
                // `(?` belongs to the bracket.
                if characters.get(at + 1) == Some(&'?') {
                    at += 1;
                    // The verbose form may hold comments with any signs.
                    if characters[at..]
                        .iter()
                        .take(10)
                        .take_while(|next| **next != ')')
                        .any(|next| matches!(next, 'x' | '#'))
                    {
                        return None;
                    }
                }
            }
            ')' if open == 0 => return Some("a ) closes nothing"),
            ')' => {
                open -= 1;
                has_atom = true;
            }
            '*' | '+' | '?' if !has_atom => return Some("there is nothing to repeat"),
            '*' | '+' | '?' => {
                // One sign more makes it lazy or possessive.
                if matches!(characters.get(at + 1), Some('?' | '+')) {
                    at += 1;
                }
            }
            '|' | '^' => has_atom = false,
            _ => has_atom = true,
        }
        at += 1;
    }
    (open > 0).then_some("a ( is never closed")
}

/// Where a class of characters ends; behind the last character if it does not. Nothing where the flavours differ.
fn class_end(characters: &[char], open: usize) -> Option<usize> {
    let mut at = open + 1;
    if characters.get(at) == Some(&'^') {
        at += 1;
    }
    // A `]` that comes first is a character in one flavour, and the end in the other.
    if characters.get(at) == Some(&']') {
        return None;
    }
    while at < characters.len() && characters[at] != ']' {
        // A class in a class is a warning in one flavour, and one with a flag in the other.
        if characters[at] == '[' && matches!(characters.get(at + 1), Some(':' | '.' | '=')) {
            return None;
        }
        at += if characters[at] == '\\' { 2 } else { 1 };
    }
    Some(at)
}

#[cfg(test)]
mod tests {
    use std::io::Write as _;
    use std::process::{Command, Stdio};

    use super::*;

    #[test]
    fn only_what_no_flavour_takes_is_wrong() {
        for right in [
            "",
            "a*",
            "(a|b)+?",
            "[a-z]{2,3}",
            r"\(",
            "(?:a)",
            "(?P<n>a)",
            "a|",
            "(|a)",
            "x{",
            "[]a]",
            "(?x) a ( # b",
            "^a$",
            "a++",
        ] {
            assert_eq!(pattern_problem(right), None, "{right}");
        }
        for wrong in ["(a", "a)", "*a", "a|*", "(?:", "[a", r"a\", "(+a)", "(a))"] {
            assert!(pattern_problem(wrong).is_some(), "{wrong}");
        }
    }

    /// Whatever is called wrong is refused by the language's own compilers, in thousands of random patterns.
    #[test]
    fn what_is_wrong_is_refused_by_the_compilers_of_both_languages() {
        let mut state = 7_u32;
        let mut next = |below: usize| {
            state = state.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            (state >> 16) as usize % below
        };
        let parts = [
            "a", "b", "(", ")", "[", "]", "*", "+", "?", "|", "^", "$", ".", "\\(", "\\d", "(?:", "[^a]", "{2}", "-",
            "\\",
        ];
        let patterns: Vec<String> =
            (0..6000).map(|_| (0..=next(7)).map(|_| parts[next(parts.len())]).collect()).collect();
        let wrong: Vec<&String> = patterns.iter().filter(|pattern| pattern_problem(pattern).is_some()).collect();
        assert!(wrong.len() > 500, "{} of {}", wrong.len(), patterns.len());
        let input: String = wrong.iter().map(|pattern| format!("{pattern}\n")).collect();
        let python = "import re, sys, warnings\nwarnings.simplefilter('ignore')\nfor line in sys.stdin.read().split('\\n')[:-1]:\n    try: re.compile(line)\n    except re.error: continue\n    print(line)\n";
        let node = "for (const line of require('fs').readFileSync(0, 'utf8').split('\\n').slice(0, -1)) { try { new RegExp(line); } catch { continue; } console.log(line); }";
        for (program, option, code) in [("python3", "-c", python), ("node", "-e", node)] {
            let Some(taken) = answer(program, option, code, &input) else {
                assert!(std::env::var_os("CI").is_none(), "a reference is missing: {program}");
                eprintln!("0 references: {program} is not there; no pattern was compared");
                continue;
            };
            assert_eq!(taken, "", "{program} takes these");
        }
    }

    fn answer(program: &str, option: &str, code: &str, input: &str) -> Option<String> {
        let child = Command::new(program).args([option, code]).stdin(Stdio::piped()).stdout(Stdio::piped()).spawn();
        let mut child = child.ok()?;
        child.stdin.take()?.write_all(input.as_bytes()).ok()?;
        let output = child.wait_with_output().ok()?;
        assert!(output.status.success(), "{program} failed");
        String::from_utf8(output.stdout).ok()
    }
}
