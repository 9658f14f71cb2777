//! What is wrong with a house rule, and in which of its parts.

use std::fmt;

use crate::query::QueryError;

/// The part of a rule in which something is wrong, by its key in the pack.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Part {
    /// `find`
    Find,
    /// `message`
    Message,
    /// `advice`
    Advice,
    /// `fix`
    Fix,
    /// Another key, of a rule about data.
    Data(&'static str),
}

/// What is wrong with a house rule.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct HouseError {
    /// The part.
    pub part: Part,
    /// What is wrong in it; its place is in bytes of the part.
    pub error: QueryError,
}

impl fmt::Display for HouseError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.error.fmt(out)
    }
}

impl std::error::Error for HouseError {}
