use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "ambiguous-scalar",
    concern: Concern::Mistake,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Yaml],
    fix: None,
    what: "a value without quotes that readers of YAML 1.1 and of YAML 1.2 take for different things",
    why: "The country \"no\" is false for one reader and a word for the next; 0644 is 420 or 644, 22:30 a number of minutes or a time, 1_000 a number or a word.",
    silent: "Keys, values with a tag, and dates.",
    standards: &["YAML 1.1, Tag Repository", "YAML 1.2.2, section 10.3"],
    options: &[],
    examples: &[Examples {
        language: Language::Yaml,
        wrong: &[
            Wrong { code: "country: no\nmode: 0644\n", at: &["1:10", "2:7"], fixed: None },
            Wrong { code: "- 22:30\n- 1_000\n- 0b11\n- 0o17\n", at: &["1:3", "2:3", "3:3", "4:3"], fixed: None },
        ],
        right: &["on: push\ncountry: \"no\"\nopen: true\nsince: 2027-03-01\nfare: 450\nport: 80:80\nkind: !!str yes\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::String, Kind::Number], check),
};

fn check(context: &mut Context, scalar: NodeRef) {
    if scalar.first_token_kind() != TokenKind::PlainScalar || scalar.role() == Role::Key {
        return;
    }
    let Some((older, newer)) = readings(context.text(scalar)) else { return };
    if scalar.previous_sibling().is_some_and(|before| before.kind() == Kind::Tag) {
        return;
    }
    context
        .report(scalar.span(), format!("this is {older} in YAML 1.1 and {newer} in YAML 1.2"))
        .advice("put quotes around a word; write true or false, and numbers without a leading zero");
}

/// What readers of the older version and of the newer one take a value for, where they differ.
fn readings(scalar: &str) -> Option<(String, &'static str)> {
    if scalar.len() > LONGEST {
        return None;
    }
    let is = |words: &[&str]| {
        let capital = |word: &str| word[..1].to_ascii_uppercase() + &word[1..];
        words.iter().any(|word| scalar == *word || scalar == capital(word) || scalar == word.to_ascii_uppercase())
    };
    if is(&["yes", "on"]) {
        return Some(("true".to_string(), "a string"));
    }
    if is(&["no", "off"]) {
        return Some(("false".to_string(), "a string"));
    }
    let digits = scalar.strip_prefix(['-', '+']).unwrap_or(scalar);
    if !digits.starts_with(|first: char| first.is_ascii_digit()) {
        return None;
    }
    let all = |digits: &str, is_digit: fn(&u8) -> bool| !digits.is_empty() && digits.as_bytes().iter().all(is_digit);
    let octal = |byte: &u8| matches!(byte, b'0'..=b'7' | b'_');
    if digits.len() > 1 && digits.starts_with('0') && all(digits, octal) {
        let value = i64::from_str_radix(&digits.replace('_', ""), 8).ok()?;
        return (value > 7).then(|| {
            (format!("the number {value}"), if digits.contains('_') { "a string" } else { "a decimal number" })
        });
    }
    if let Some(rest) = digits.strip_prefix("0o") {
        return all(rest, octal).then(|| ("a string".to_string(), "a number"));
    }
    if let Some(rest) = digits.strip_prefix("0b") {
        return all(rest, |byte| matches!(byte, b'0' | b'1' | b'_')).then(|| ("a number".to_string(), "a string"));
    }
    if digits.contains('_') && all(digits, |byte| byte.is_ascii_digit() || *byte == b'_') {
        return Some(("a number".to_string(), "a string"));
    }
    is_of_sixty(digits).then(|| ("a number to the base of 60".to_string(), "a string"))
}

/// Longer values are no numbers.
const LONGEST: usize = 40;

/// `[1-9][0-9_]*(:[0-5]?[0-9])+`
fn is_of_sixty(digits: &str) -> bool {
    let mut groups = digits.split(':');
    let first = groups.next().unwrap_or_default();
    let is_group = |group: &str| {
        !group.is_empty()
            && group.len() <= 2
            && group.parse::<u8>().is_ok_and(|value| value < 60)
            && !group.starts_with('+')
    };
    let mut others = groups.peekable();
    others.peek().is_some()
        && !first.starts_with('0')
        && first.bytes().all(|byte| byte.is_ascii_digit())
        && others.all(is_group)
}
