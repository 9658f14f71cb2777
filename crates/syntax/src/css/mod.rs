//! Style sheets: CSS Syntax Level 3 (Candidate Recommendation Draft of 24 December 2021, with CSS Nesting), Selectors Level 4.
//!
//! A sheet is made of [`Kind::StyleRule`]s, [`Kind::AtRule`]s and, in a `style` attribute, [`Kind::StyleDeclaration`]s alone. A selector
//! holds its simple selectors side by side: between two that are apart stands a combinator, or whitespace that is one. A value
//! holds its component values in order; commas and slashes between them are tokens. What browsers drop is a fault, and goes no further than
//! what they drop. Old ways to speak to one browser (`*zoom: 1`, `_height: 1px`) are declarations.

mod lexer;
mod literal;
mod parser;
mod selector;
mod value;

pub use literal::{dimension, name_value, number_value, string_value};

use crate::text::Text;
use crate::tree::Tree;

/// Parses a style sheet.
pub fn parse(text: &Text) -> Tree {
    let source = text.source();
    let (tokens, faults) = lexer::tokens(source);
    parser::style_sheet(source, tokens, faults)
}

/// Parses what a `style` attribute holds: declarations alone.
pub fn parse_declarations(text: &Text) -> Tree {
    let source = text.source();
    let (tokens, faults) = lexer::tokens(source);
    parser::declarations(source, tokens, faults)
}

#[cfg(doc)]
use crate::tree::Kind;
