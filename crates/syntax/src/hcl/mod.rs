//! Infrastructure files: HCL native syntax (its specification of version 2, with names of functions in namespaces).
//!
//! A body holds [`Kind::Assignment`]s and [`Kind::ConfigBlock`]s, each of these with its type, labels and a body of its own. Where a line
//! ends is part of the grammar, but for lines in round and square brackets and in `${ }`. One mistake is one fault, and goes no further than
//! its line.

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
    parser::config_file(source, tokens, faults)
}

#[cfg(doc)]
use crate::tree::Kind;
