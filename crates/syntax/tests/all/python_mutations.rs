//! The parser against CPython on code that is nearly right: real statements with a token changed.

use serde_json::Value;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use crate::random::Random;
use crate::reference;

/// How many changed statements are compared.
const CASES: usize = 20_000;

#[test]
fn python_agrees_with_its_reference_on_mutated_code() {
    let pythons = reference::pythons();
    // The newest one knows the most of what we understand.
    let Some(python) = pythons.iter().max_by_key(|python| reference::version(python)) else { return };
    let version = reference::version(python);
    let sources = mutated(&statements(python), CASES);
    let verdicts = reference::of_sources(python, &sources);
    assert_eq!(verdicts.len(), sources.len());
    let mut refused = 0;
    let mut differences = Vec::new();
    for (source, verdict) in sources.iter().zip(&verdicts) {
        let Some(accepted) = verdict["accepted"].as_bool() else { continue };
        refused += usize::from(!accepted);
        let text = Text::new(source.clone());
        let tree = Language::Python.parse(&text);
        if accepted != tree.faults().is_empty() && !is_version_difference(version, source, verdict) {
            let ours = tree.faults().first().map(|fault| fault.problem.to_string());
            differences.push(format!("--- there {:?}, here {ours:?}\n{source}", verdict["message"]));
        }
    }
    eprintln!("{} changed statements compared, {refused} of them refused there", sources.len());
    assert!(refused > CASES / 4, "the changes do too little");
    assert!(differences.is_empty(), "{} differences:\n{}", differences.len(), differences.join("\n"));
}

/// What this version refuses and a newer one allows, or the reverse in what it says of format strings.
fn is_version_difference(version: (u32, u32), source: &str, verdict: &Value) -> bool {
    let message = verdict["message"].as_str().unwrap_or_default();
    let unparenthesised = version < (3, 14) && message.contains("multiple exception types must be parenthesized");
    let format_strings = version < (3, 12) && (source.contains("f'") || source.contains("f\""));
    unparenthesised || format_strings || message.contains("unknown Unicode character name")
}

/// Top-level statements of the library, short enough to be changed noticeably.
fn statements(python: &str) -> Vec<String> {
    let mut found = Vec::new();
    for entry in reference::of_library(python) {
        let path = entry["path"].as_str().unwrap_or_default();
        let grammar_test =
            ["test_grammar", "test_patma", "test_fstring", "test_syntax", "test_named", "test_type_params"];
        if found.len() > 40_000 && !grammar_test.iter().any(|name| path.contains(name)) {
            continue;
        }
        let Ok(text) = Language::Python.decode(std::fs::read(path).unwrap_or_default()) else { continue };
        let tree = Language::Python.parse(&text);
        for node in tree.nodes().filter(|node| node.kind().is_statement()) {
            let span = node.span();
            let at_line_start = text.place(span.start).column == 1;
            if at_line_start && (20..900).contains(&span.len()) {
                found.push(format!("{}\n", text.slice(span)));
            }
        }
    }
    found
}

fn mutated(statements: &[String], count: usize) -> Vec<String> {
    let mut random = Random::new(99);
    (0..count)
        .map(|_| {
            let index = random.below(statements.len());
            mutate(&statements[index], &mut random)
        })
        .collect()
}

/// Leaves out, doubles, swaps or replaces a token, or cuts the text off.
fn mutate(source: &str, random: &mut Random) -> String {
    let text = Text::new(source.to_string());
    let tree = Language::Python.parse(&text);
    let count = tree.tokens().len() as u32;
    let mut pieces: Vec<&str> = (0..count).map(|token| text.slice(tree.token_span(token))).collect();
    let at = random.below(pieces.len());
    let replacements = [
        "(", ")", "[", "]", "{", "}", ",", ":", "=", "*", "**", ".", "if", "else", "for", "in", "not", "lambda",
        "await", "yield", "async", "1", "x", "'s'", "f'{x}'", "b'b'", "None", "as", "is", ":=", "->", "@", ";", "\n",
        "    ", "...",
    ];
    match random.below(5) {
        0 => {
            pieces.remove(at);
        }
        1 => pieces.insert(at, pieces[at]),
        2 => {
            let other = random.below(pieces.len());
            pieces.swap(at, other);
        }
        3 => pieces[at] = replacements[random.below(replacements.len())],
        _ => pieces.insert(at, replacements[random.below(replacements.len())]),
    }
    pieces.concat()
}
