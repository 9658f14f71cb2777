//! What the parts of a document are called: the names of the definitions in its schema, each with the places that it is applied to.
//!
//! A schema says of each place what it must satisfy. Read the other way round, its definitions (`$defs`) name the places: where a
//! definition called `operation` is applied, there is an operation.

mod read;
mod walk;

use std::collections::BTreeMap;
use std::sync::Arc;

use regex::Regex;
use rustc_hash::FxHashMap;
use serde_json::Value as Json;
use sieve_meaning::data;

/// The parts of documents that a schema describes.
#[derive(Debug)]
pub(in crate::house) struct Shape {
    nodes: Vec<Node>,
    definitions: BTreeMap<Arc<str>, NodeId>,
}

/// A place in `nodes`.
type NodeId = usize;

/// The root of the schema.
const ROOT: NodeId = 0;

/// One schema within it, as far as it leads to parts.
#[derive(Debug, Default)]
struct Node {
    /// Its name, if it is a definition.
    name: Option<Arc<str>>,
    /// Schemas for the values of keys.
    keys: FxHashMap<String, NodeId>,
    /// Schemas for the values of keys that match.
    patterns: Vec<(Regex, NodeId)>,
    /// The schema for all other keys.
    rest: Option<NodeId>,
    /// The schema for elements of lists.
    elements: Option<NodeId>,
    /// Schemas that hold for the same value.
    also: Vec<NodeId>,
    /// Schemas that hold for it as the case may be.
    choices: Vec<Choice>,
}

/// `if`, `then`, `else`
#[derive(Debug)]
struct Choice {
    condition: Condition,
    then: Option<NodeId>,
    otherwise: Option<NodeId>,
}

/// What decides over a choice: the shape of the value, keys that are there, and what they are.
#[derive(Debug, Default)]
struct Condition {
    shape: Option<data::Shape>,
    keys: Vec<String>,
    values: Vec<(String, Vec<Json>)>,
}

impl Shape {
    /// The names of the parts, sorted.
    pub(super) fn names(&self) -> impl Iterator<Item = &str> + Clone {
        self.definitions.keys().map(|name| &**name)
    }
}
