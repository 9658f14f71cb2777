//! C#, as ECMA-334 and the language reference have it for version 13.
//!
//! Lines for the preprocessor are trivia. Of code that depends on them every branch is parsed where each is whole in itself; where one is not,
//! or what is in it is no code, one branch is parsed and the others are left out (`branch`).
//!
//! `>` is cut alone, and joined to an operator where the parser expects one: it may close type arguments. What is behind
//! tokens decides whether they are a type or a value, read ahead without building anything.

mod branch;
mod lexer;
mod literal;
mod parser;

pub use literal::{number_value, string_value};

use crate::text::Text;
use crate::tree::Tree;

/// Parses a file.
pub fn parse(text: &Text) -> Tree {
    let source = text.source();
    let mut best: Option<Tree> = None;
    for left_out in branch::choices(source) {
        let tree = parser::compilation_unit(source, left_out);
        if tree.faults().is_empty() {
            return tree;
        }
        best = match best {
            Some(before) if before.faults().len() <= tree.faults().len() => Some(before),
            _ => Some(tree),
        };
    }
    best.expect("one choice at least")
}

/// Parses an expression that stands alone.
pub fn parse_expression(source: &str) -> Tree {
    parser::lone_expression(source)
}
