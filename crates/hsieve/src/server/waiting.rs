//! Requests that wait for news.

use std::collections::BTreeMap;
use std::path::PathBuf;

use serde_json::Value;

use super::wire::Id;

/// A request for everything, which is answered when there is something to tell that the client does not know.
pub struct Waiting {
    /// What its answer carries.
    pub id: Id,
    /// What it knows, by file.
    pub known: BTreeMap<PathBuf, String>,
    /// Where parts of the answer go, if the client takes parts.
    pub part: Option<Value>,
}
