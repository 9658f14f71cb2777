//! The examples of the guide find what they say they find.

use std::collections::BTreeSet;

use sieve_rules::query::Query;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use crate::queries::bench::matches;

const GUIDE: &str = include_str!("../../../../../docs/query.md");

/// The fenced parts of the guide: what is behind the fence, and the text.
fn parts() -> Vec<(&'static str, &'static str)> {
    let mut parts = Vec::new();
    let mut rest = GUIDE;
    while let Some((_, after)) = rest.split_once("\n```") {
        let (word, after) = after.split_once('\n').expect("a line");
        let (text, after) = after.split_once("```").expect("a closing fence");
        parts.push((word, text));
        rest = after;
    }
    parts
}

#[test]
fn every_example_finds_the_lines_that_say_so() {
    let parts = parts();
    let mut tried = 0;
    for pair in parts.windows(2) {
        let [("query", query), (language, code)] = pair else { continue };
        let language = Language::named(language).unwrap_or_else(|| panic!("{query}: no language {language}"));
        let text = Text::new((*code).to_string());
        let tree = language.parse(&text);
        assert!(tree.faults().is_empty(), "{query}: {:?}", tree.faults());
        let asked = Query::new(query.trim(), &[language]).unwrap_or_else(|error| panic!("{query}: {error}"));
        let found = matches(&asked, "quays.py", language, &text);
        let found: BTreeSet<u32> =
            found.found.iter().map(|node| text.place(tree.node(*node).span().start).line).collect();
        let said = code.lines().zip(1..).filter(|(line, _)| line.ends_with(" found")).map(|(_, number)| number);
        assert_eq!(found, said.collect(), "{query}");
        assert!(!found.is_empty(), "{query}: an example shows something");
        tried += 1;
    }
    assert_eq!(tried, parts.iter().filter(|(word, _)| *word == "query").count(), "each query is followed by code");
    assert!(tried > 15);
}

#[test]
fn the_grammar_names_every_operator_and_function() {
    let (_, grammar) = parts().into_iter().find(|(word, _)| *word == "ebnf").expect("a grammar");
    for word in
        ["is", "in", "like", "matches", "starts", "ends", "refers", "inside", "holding", "after", "before", "directly"]
    {
        assert!(grammar.contains(&format!("\"{word}\"")), "{word}");
    }
    for function in ["count", "repeated", "lines", "complexity"] {
        assert!(GUIDE.contains(&format!("`{function}(path)`")), "{function}");
    }
}
