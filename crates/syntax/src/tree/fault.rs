//! What is wrong with a text, as data; the words are made only when it is shown.

use std::fmt;

use super::TokenKind;
use crate::text::Span;

/// One mistake in a text that its language does not allow.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Fault {
    /// Where.
    pub span: Span,
    /// What.
    pub problem: Problem,
}

/// What is wrong at a place.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Problem {
    /// Something else should be here: `what` was expected, `found` is there.
    Expected {
        /// What should be here.
        what: &'static str,
        /// What is here.
        found: TokenKind,
    },
    /// A bracket that nothing closes.
    Unclosed(TokenKind),
    /// A closing bracket that does not fit the open one.
    Mismatched {
        /// The bracket that is open.
        open: TokenKind,
        /// The bracket that is here.
        close: TokenKind,
    },
    /// A closing bracket without an open one.
    Unopened(TokenKind),
    /// Nested deeper than this many levels.
    TooDeep(u32),
    /// Cannot be assigned to, deleted or bound.
    NotATarget {
        /// What was to be done with it.
        doing: &'static str,
        /// What it is.
        what: &'static str,
    },
    /// A rule of the language that no single token breaks.
    Rule(&'static str),
}

impl fmt::Display for Problem {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Problem::Expected { what, found } => write!(out, "expected {what}, found {}", found.describe()),
            Problem::Unclosed(bracket) => write!(out, "{} is never closed", bracket.describe()),
            Problem::Mismatched { open, close } => {
                write!(out, "{} does not close {}", close.describe(), open.describe())
            }
            Problem::Unopened(bracket) => write!(out, "{} closes nothing", bracket.describe()),
            Problem::TooDeep(limit) => write!(out, "nested deeper than {limit} levels"),
            Problem::NotATarget { doing, what } => write!(out, "{what} cannot be {doing}"),
            Problem::Rule(text) => out.write_str(text),
        }
    }
}
