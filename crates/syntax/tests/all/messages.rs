//! What the tests of messages share.

use std::path::Path;

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// Checks the first fault of each source: its place, and its words.
pub fn assert_messages<'c>(cases: impl Iterator<Item = (Language, &'c str, &'c str, &'c str)>) {
    let mut wrong = Vec::new();
    for (language, source, place, message) in cases {
        let text = Text::new(source.to_string());
        let tree = language.parse(&text);
        let found = tree.faults().first().map(|fault| {
            let start = text.place(fault.span.start);
            (format!("{}:{}", start.line, start.column), fault.problem.to_string())
        });
        if found != Some((place.to_string(), message.to_string())) {
            wrong.push(format!("{source:?}: {found:?}, not {place} {message:?}"));
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// Checks that each rule that the parser of a language names in its source is among the messages.
pub fn assert_no_rule_is_missing<'m>(folder: &str, messages: impl Iterator<Item = &'m str>) {
    let messages: Vec<&str> = messages.collect();
    let mut rules = Vec::new();
    collect_rules(&Path::new(env!("CARGO_MANIFEST_DIR")).join("src").join(folder), &mut rules);
    assert!(rules.len() > 2, "no rules were found in {folder}");
    rules.retain(|rule| !NOT_REACHED.contains(&rule.as_str()) && !messages.contains(&rule.as_str()));
    assert!(rules.is_empty(), "no source breaks these rules:\n{}", rules.join("\n"));
}

/// Rules that guard against mistakes of the lexer itself, and that no source breaks.
const NOT_REACHED: &[&str] = &["the lexer stands still"];

fn collect_rules(folder: &Path, rules: &mut Vec<String>) {
    for entry in std::fs::read_dir(folder).expect("a folder") {
        let path = entry.expect("an entry").path();
        if path.is_dir() {
            collect_rules(&path, rules);
            continue;
        }
        let code = std::fs::read_to_string(&path).expect("a source");
        for found in code.split("Problem::Rule(").skip(1) {
            let Some(literal) = found.trim_start().strip_prefix('"') else { continue };
            let end = literal.match_indices('"').find(|(at, _)| !literal[..*at].ends_with('\\')).expect("an end").0;
            rules.push(literal[..end].replace("\\\\", "\\"));
        }
    }
}
