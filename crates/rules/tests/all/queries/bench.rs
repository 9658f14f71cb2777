//! Asks a query of code in which what it is to match is marked.

use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_rules::Input;
use sieve_rules::query::{Matches, Query};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// What comes before the first character of each match.
const MARK: char = '«';

/// What a query matches in a text.
pub fn matches(query: &Query, path: &str, language: Language, text: &Text) -> Matches {
    let tree = language.parse(text);
    let names = names_of(language, text, &tree);
    query.matches(&Input { path, language, text, tree: &tree, names: Some(&names), others: &Alone })
}

/// Asserts that a query matches at the marks, and nowhere else.
#[track_caller]
pub fn finds(source: &str, language: Language, marked: &str) {
    finds_in(source, &format!("booking/fares.{}", language.spec().extensions[0]), language, marked);
}

/// The same in a file of another name.
#[track_caller]
pub fn finds_in(source: &str, path: &str, language: Language, marked: &str) {
    let query = Query::new(source, &[language]).unwrap_or_else(|error| panic!("{source}: {error}"));
    let text = Text::new(marked.replace(MARK, ""));
    let tree = language.parse(&text);
    assert!(tree.faults().is_empty(), "the code is broken: {:?}", tree.faults());
    let found = matches(&query, path, language, &text);
    let mut starts: Vec<u32> = found.found.iter().map(|node| tree.node(*node).span().start).collect();
    starts.sort_unstable();
    let mut shown = String::new();
    let mut from = 0;
    for start in starts {
        shown += &text.source()[from..start as usize];
        shown.push(MARK);
        from = start as usize;
    }
    shown += &text.source()[from..];
    assert_eq!(shown, marked, "{source}: found instead of marked");
    assert!(query.may_match(text.source().as_bytes()) || found.found.is_empty(), "{source}: the quick look is wrong");
}
