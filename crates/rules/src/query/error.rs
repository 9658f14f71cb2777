//! What is wrong with a query, and where.

use std::fmt;
use std::ops::Range;

/// What is wrong with a query.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct QueryError {
    /// The place in the query, in bytes.
    pub place: Range<usize>,
    /// What is wrong there.
    pub message: String,
    /// What would be right, where that can be guessed.
    pub advice: Option<String>,
}

impl QueryError {
    pub(crate) fn new(place: Range<usize>, message: impl Into<String>) -> QueryError {
        QueryError { place, message: message.into(), advice: None }
    }

    /// The same with the nearest of the right words, if one is near.
    pub(super) fn nearest<'w>(mut self, word: &str, right: impl Iterator<Item = &'w str>) -> QueryError {
        let near = right
            .map(|one| (strsim::damerau_levenshtein(one, word), one))
            .filter(|(distance, _)| *distance <= word.len().div_ceil(3))
            .min();
        self.advice = near.map(|(_, one)| format!("did you mean \"{one}\"?"));
        self
    }
}

impl fmt::Display for QueryError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "{}", self.message)?;
        self.advice.as_ref().map_or(Ok(()), |advice| write!(out, "; {advice}"))
    }
}

impl std::error::Error for QueryError {}
