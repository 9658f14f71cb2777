//! Python 3.8 to 3.14.
//!
//! Lexer after "Lexical analysis" and parser after "Full Grammar specification" of the Python Language Reference 3.14. What any
//! of these versions allows is understood; checks that CPython leaves to its later compile step (a `return` outside a
//! function, say) are not made here.

mod encoding;
mod lexer;
mod literal;
mod parser;

pub(crate) use encoding::declared_encoding;
pub(crate) use literal::{number_value, string_value};

use crate::text::Text;
use crate::tree::Tree;

/// Parses a module.
pub(crate) fn parse(text: &Text) -> Tree {
    let (tokens, faults) = lexer::tokens(text.source());
    parser::module(text.source(), tokens, faults)
}

/// Parses one expression, as the text of a string annotation holds it.
pub(crate) fn parse_expression(source: &str) -> Tree {
    let (tokens, faults) = lexer::tokens(source);
    parser::lone_expression(source, tokens, faults)
}
