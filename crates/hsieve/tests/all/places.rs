//! The places of the names in a file, and the renaming of each.

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{TokenId, TokenKind};

use crate::ferry::Ferry;

/// The places of all names in a file, as the command line takes them.
fn names(ferry: &Ferry, language: Language, file: &str) -> Vec<String> {
    let text = Text::new(ferry.read(file));
    let tree = language.parse(&text);
    let tokens = tree.tokens_with_spans(0..tree.tokens().len() as TokenId);
    let named = tokens.filter(|(_, kind, span)| *kind == TokenKind::Name && text.slice(*span) != "_");
    let places = named.map(|(_, _, span)| text.place(span.start));
    places.map(|place| format!("{file}:{}:{}", place.line, place.column)).collect()
}

/// Renames every `step`th name of the files of a program, each in a copy of its own. `check` is given the copy, and what was renamed; nothing
/// where that was refused, which is said and leaves all files as they are.
pub fn rename_each(
    program: fn() -> Ferry,
    language: Language,
    files: &[&str],
    step: usize,
    mut check: impl FnMut(Ferry, Option<String>),
) {
    let before = program();
    for place in files.iter().flat_map(|file| names(&before, language, file)).step_by(step) {
        let ferry = program();
        let new = if place.len() % 2 == 0 { "harbour" } else { "Harbour" };
        let run = ferry.run(&["rename", &place, new]);
        if run.status == 0 {
            check(ferry, Some(format!("{place} to {new}:\n{}", run.out)));
            continue;
        }
        assert!(!run.err.is_empty(), "{place} is refused without a word");
        assert!(files.iter().all(|file| ferry.read(file) == before.read(file)), "{place}: something changed");
        check(ferry, None);
    }
}
