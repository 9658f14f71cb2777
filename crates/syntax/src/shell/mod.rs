//! The shell language: POSIX.1-2024 ("Shell & Utilities", chapter 2) and what bash 5.2 adds to it.
//!
//! What either allows is understood. Words keep their parts: quotes, expansions, substitutions with the commands in them.

mod lexer;
mod literal;
mod parser;

pub(crate) use literal::{number_value, string_value};

use crate::text::Text;
use crate::tree::Tree;

/// Parses a script.
pub(crate) fn parse(text: &Text) -> Tree {
    parse_source(text.source())
}

/// Parses a text that is alone, such as the words of a trap.
pub(crate) fn parse_source(source: &str) -> Tree {
    let (tokens, faults) = lexer::tokens(source);
    parser::script(source, tokens, faults)
}
