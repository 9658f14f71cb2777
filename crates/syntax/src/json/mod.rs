//! JSON (RFC 8259), and the dialect with comments and commas before a closing bracket that many programs read their settings in.
//!
//! An object is a [`Kind::Dictionary`] of [`Kind::Pair`]s, an array a [`Kind::List`]. One mistake is one fault, and the rest of the file is
//! understood all the same: a missing or doubled comma, a name without quotes, quotes of the wrong sort, a comment where there is none.

mod lexer;
mod literal;
mod parser;

pub use literal::{number_value, string_value};

use crate::text::Text;
use crate::tree::Tree;

/// Which of the two is read.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Dialect {
    /// RFC 8259 to the letter.
    Strict,
    /// Comments as in ECMAScript, and a comma after the last element.
    Commented,
}

/// Parses a document.
pub fn parse(text: &Text, dialect: Dialect) -> Tree {
    let source = text.source();
    let (tokens, faults) = lexer::tokens(source, dialect);
    parser::document(source, tokens, faults, dialect)
}

#[cfg(doc)]
use crate::tree::Kind;
