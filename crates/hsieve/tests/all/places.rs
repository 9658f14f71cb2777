//! The places of the names in a file.

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{TokenId, TokenKind};

use crate::ferry::Ferry;

/// The places of all names in a file, as the command line takes them.
pub fn names(ferry: &Ferry, language: Language, file: &str) -> Vec<String> {
    let text = Text::new(ferry.read(file));
    let tree = language.parse(&text);
    let tokens = tree.tokens_with_spans(0..tree.tokens().len() as TokenId);
    let named = tokens.filter(|(_, kind, span)| *kind == TokenKind::Name && text.slice(*span) != "_");
    let places = named.map(|(_, _, span)| text.place(span.start));
    places.map(|place| format!("{file}:{}:{}", place.line, place.column)).collect()
}
