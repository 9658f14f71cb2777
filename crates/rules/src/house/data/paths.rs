//! Reads the paths of a data rule.

use sieve_meaning::data::path::Path;

use super::super::error::{HouseError, Part};
use crate::query::QueryError;

/// The path that a key has.
pub(super) fn one(key: &'static str, source: &str) -> Result<Path, HouseError> {
    Path::parse(source).map_err(|error| HouseError {
        part: Part::Data(key),
        error: QueryError::new(error.place, format!("{source}: {}", error.message)),
    })
}

/// The path of a key that a rule may leave out.
pub(super) fn optional(key: &'static str, source: Option<&str>) -> Result<Option<Path>, HouseError> {
    source.map(|source| one(key, source)).transpose()
}

/// The paths that a key has.
pub(super) fn all(key: &'static str, sources: &[String]) -> Result<Vec<Path>, HouseError> {
    sources.iter().map(|source| one(key, source)).collect()
}
