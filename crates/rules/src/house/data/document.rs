//! Kinds of documents that a pack describes: how one is recognised, and the schema that defines its parts.

use std::fmt;

use serde_json::Value as Json;
use sieve_meaning::data::path::Path;

use super::shape::Shape;
use crate::query::QueryError;
use crate::schema::Schema;

/// A kind of document.
pub struct DocumentKind {
    /// Its name, such as `OpenAPI 3.1`.
    pub name: String,
    /// A document is of it if this path leads to something.
    pub(super) when: Path,
    /// What each satisfies.
    pub(super) schema: Schema,
    /// What its parts are called.
    pub(super) shape: Shape,
    /// What tells it from others.
    pub(super) digest: u128,
}

impl fmt::Debug for DocumentKind {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "{} {:x}", self.name, self.digest)
    }
}

impl PartialEq for DocumentKind {
    fn eq(&self, other: &DocumentKind) -> bool {
        self.digest == other.digest
    }
}

/// What is wrong with what a pack says of a kind of document.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum DocumentError {
    /// The path by which one is recognised.
    When(QueryError),
    /// Its schema, in words.
    Schema(String),
}

impl DocumentKind {
    /// Reads what a pack says: a path, and a schema whose definitions name the parts. The digest stands for both.
    ///
    /// # Errors
    /// When the path is none, or the schema none, or one that defines no parts.
    pub fn new(name: String, when: &str, schema: &Json, digest: u128) -> Result<DocumentKind, DocumentError> {
        Ok(DocumentKind {
            when: Path::parse(when)
                .map_err(|error| DocumentError::When(QueryError::new(error.place, error.message)))?,
            schema: Schema::new(schema).map_err(DocumentError::Schema)?,
            shape: Shape::read(schema).map_err(DocumentError::Schema)?,
            name,
            digest,
        })
    }

    /// The names of its parts, sorted.
    pub fn parts(&self) -> impl Iterator<Item = &str> + Clone {
        self.shape.names()
    }
}
