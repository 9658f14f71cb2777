//! Rust, as The Rust Reference has it for the edition of 2024, with the words that older editions leave free.
//!
//! `>` is cut alone, and joined to an operator where the parser expects one: it may close type arguments. What is given to a macro is
//! a tree of tokens, which is not looked into: only the macro knows what it means.

mod lexer;
mod literal;
mod parser;

pub use literal::{number_value, string_value};

use crate::text::Text;
use crate::tree::Tree;

/// Parses a file.
pub fn parse(text: &Text) -> Tree {
    parser::source_file(text.source())
}

/// Parses an expression that stands alone.
pub fn parse_expression(source: &str) -> Tree {
    parser::lone_expression(source)
}
