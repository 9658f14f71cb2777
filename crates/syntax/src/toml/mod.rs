//! TOML 1.0.
//!
//! The root is a [`Kind::Dictionary`], whatever is in the file: [`Kind::Pair`]s, and after them [`Kind::Table`]s with their headers. A key is a
//! [`Kind::Name`] or a [`Kind::String`], or several of them in a [`Kind::DottedKey`]. That a key is given once is no matter of the grammar
//! ("Keys", TOML 1.0): who looks at values sees it. One mistake is one fault, and goes no further than its line.

mod lexer;
mod literal;
mod parser;
mod scalar;

pub use literal::{number_value, string_value};

use crate::text::Text;
use crate::tree::Tree;

/// Parses a document.
pub fn parse(text: &Text) -> Tree {
    let source = text.source();
    let (tokens, faults) = lexer::tokens(source);
    parser::document(source, tokens, faults)
}

#[cfg(doc)]
use crate::tree::Kind;
