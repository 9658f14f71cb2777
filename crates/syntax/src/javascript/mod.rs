//! JavaScript and TypeScript, with tags (JSX).
//!
//! Lexer and parser after "ECMAScript Language: Lexical Grammar", "Expressions", "Statements and Declarations", "Functions and Classes" and
//! "Scripts and Modules" of ECMAScript 2025 (ECMA-262, 16th edition) with the web's additions (annex B), after the JSX
//! specification of 2022, and after what TypeScript 5 adds to them. Whether a file is a script or a module shows in what it holds: what
//! either allows is understood. Of the early errors, those are reported that a single statement or function shows.

mod lexer;
mod literal;
mod parser;

pub(crate) use literal::{number_value, string_value};

use crate::text::Text;
use crate::tree::Tree;

/// What a file may hold besides plain JavaScript.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
struct Dialect {
    /// Types, and all else that TypeScript adds.
    types: bool,
    /// Tags.
    markup: bool,
}

const JAVASCRIPT: Dialect = Dialect { types: false, markup: true };
const TYPESCRIPT: Dialect = Dialect { types: true, markup: false };
const TYPESCRIPT_WITH_TAGS: Dialect = Dialect { types: true, markup: true };

/// Parses JavaScript, in which tags may be.
pub(crate) fn parse(text: &Text) -> Tree {
    parser::file(text.source(), JAVASCRIPT)
}

/// Parses TypeScript without tags.
pub(crate) fn parse_typescript(text: &Text) -> Tree {
    parser::file(text.source(), TYPESCRIPT)
}

/// Parses TypeScript with tags.
pub(crate) fn parse_tsx(text: &Text) -> Tree {
    parser::file(text.source(), TYPESCRIPT_WITH_TAGS)
}

/// Parses one expression that is alone.
pub(crate) fn parse_expression(source: &str) -> Tree {
    parser::lone_expression(source, JAVASCRIPT)
}

/// Parses one expression of TypeScript that is alone.
pub(crate) fn parse_typescript_expression(source: &str) -> Tree {
    parser::lone_expression(source, TYPESCRIPT)
}
