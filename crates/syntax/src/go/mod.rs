//! Go, as its specification of version 1.22 has it.
//!
//! Where a line ends, a semicolon is meant after some tokens ("Semicolons"): there the end of the line is a token, elsewhere it is
//! whitespace. A type and an expression are often written alike; what is only known by what its names stand for is read as an expression.

mod lexer;
mod literal;
mod parser;

pub use literal::{number_value, string_value};

use crate::text::Text;
use crate::tree::Tree;

/// Parses a file.
pub fn parse(text: &Text) -> Tree {
    let source = text.source();
    let (tokens, faults) = lexer::tokens(source);
    parser::source_file(source, tokens, faults)
}

/// Parses an expression that stands alone.
pub fn parse_expression(source: &str) -> Tree {
    let (tokens, faults) = lexer::tokens(source);
    parser::lone_expression(source, tokens, faults)
}
