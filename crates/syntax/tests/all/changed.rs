//! Code that is nearly right: real code with a token changed, or cut off.

use std::path::PathBuf;

use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{TokenKind, Tree};

use crate::random::Random;

/// Drops, doubles, swaps, replaces or adds a token, or cuts the rest off.
pub fn changed(language: Language, source: &str, tokens: &[&str], random: &mut Random) -> String {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    let mut pieces: Vec<&str> =
        (0..tree.tokens().len() as u32).map(|token| text.slice(tree.token_span(token))).collect();
    let solid: Vec<usize> = (0..pieces.len())
        .filter(|index| !tree.token_kind(*index as u32).is_trivia() && !pieces[*index].is_empty())
        .filter(|index| tree.token_kind(*index as u32) != TokenKind::EndOfFile)
        .collect();
    if solid.len() < 2 {
        return source.to_string();
    }
    let at = solid[random.below(solid.len())];
    let other = solid[random.below(solid.len())];
    let added = tokens[random.below(tokens.len())];
    match random.below(6) {
        0 => pieces[at] = "",
        1 => pieces.insert(at, pieces[at]),
        2 => pieces.swap(at, other),
        3 => pieces[at] = added,
        4 => pieces.insert(at, added),
        _ => pieces.truncate(at),
    }
    pieces.concat()
}

/// Which pieces of code are changed.
pub struct Choice {
    /// Each how many files.
    pub step: usize,
    /// How many of a file at most.
    pub most: usize,
    /// Which stretches of a tree.
    pub spans: fn(&Tree) -> Vec<Span>,
    /// Whether a stretch is short enough to be changed noticeably, and says something.
    pub is_telling: fn(&str) -> bool,
}

/// Pieces of evenly chosen files that have no faults.
pub fn pieces(language: Language, files: &[PathBuf], choice: &Choice) -> Vec<String> {
    let mut found = Vec::new();
    for path in files.iter().step_by(choice.step) {
        let Ok(source) = std::fs::read_to_string(path) else { continue };
        let text = Text::new(source);
        let tree = language.parse(&text);
        if !tree.faults().is_empty() {
            continue;
        }
        let texts = (choice.spans)(&tree).into_iter().map(|span| text.slice(span));
        let telling = texts.filter(|text| (choice.is_telling)(text));
        found.extend(telling.take(choice.most).map(|text| format!("{text}\n")));
    }
    found
}
