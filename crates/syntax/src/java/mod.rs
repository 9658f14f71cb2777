//! Java, as the Java Language Specification has it for version 21.
//!
//! `>` is cut alone, and joined to an operator where the parser expects one: it may close type arguments. Whether a name begins a type or a value
//! is told by what is behind it, read ahead without building anything.

mod lexer;
mod literal;
mod parser;

pub use literal::{number_value, string_value};

use crate::text::Text;
use crate::tree::Tree;

/// Parses a file.
pub fn parse(text: &Text) -> Tree {
    parser::compilation_unit(text.source())
}

/// Parses an expression that stands alone.
pub fn parse_expression(source: &str) -> Tree {
    parser::lone_expression(source)
}
