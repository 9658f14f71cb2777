//! What a pack says of a rule about data, as it is written.

use std::sync::Arc;

use serde_json::Value as Json;

use super::DocumentKind;
use crate::interface::NameStyle;

/// The places that a rule is about, and what is asked of each.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct DataDefinition {
    /// The kinds of documents that the pack describes.
    pub documents: Vec<Arc<DocumentKind>>,
    /// The document is concerned if this path leads to something.
    pub when: Option<String>,
    /// The rule is about every part that the schemas of the documents define under this name.
    pub each: Option<String>,
    /// Such a part is concerned if this path leads to something from it.
    pub only_where: Option<String>,
    /// The paths to the places, from the document or from each such part.
    pub at: Vec<String>,
    /// What is asked.
    pub requirements: Vec<Requirement>,
}

/// One thing that is asked of each place.
#[derive(Debug, Clone, PartialEq)]
pub enum Requirement {
    /// The document satisfies the schema of its kind.
    Structure,
    /// A schema that each place satisfies.
    Must(Json),
    /// A schema that no place satisfies.
    MustNot(Json),
    /// One of these paths leads to something from each place.
    Has(Vec<String>),
    /// None of these paths leads to anything from a place.
    HasNo(Vec<String>),
    /// What is different in all places: a path from each.
    Unique(String),
    /// A reference at each place leads to something within the document, which is one of what this path leads to.
    RefersTo(String),
    /// A reference at each place leads to something.
    Resolves,
    /// The file that the value at each place names is there: its path, with `{value}` and `{key}` in it.
    MatchesFile(String),
    /// The value at each place is one of those that these paths lead to.
    ListedIn(Vec<String>),
    /// The key of each place is that of a value that these paths lead to.
    KeyListedIn(Vec<String>),
    /// Values of each place satisfy a schema that is in the document itself.
    Fits {
        /// The paths to the values.
        values: Vec<String>,
        /// The path to the schema.
        schema: String,
    },
    /// The style of the name at each place: of its key, or of the string that it is. Nothing: that which most of them have.
    NameStyle(Option<NameStyle>),
    /// The names in braces in the key of the object around an operation, and the parameters that describe them.
    PathParameters,
}

impl Requirement {
    /// The key that says it.
    pub fn key(&self) -> &'static str {
        match self {
            Requirement::Structure => "structure",
            Requirement::Must(_) => "must",
            Requirement::MustNot(_) => "must-not",
            Requirement::Has(_) => "has",
            Requirement::HasNo(_) => "has-no",
            Requirement::Unique(_) => "unique",
            Requirement::RefersTo(_) => "refers-to",
            Requirement::Resolves => "resolves",
            Requirement::MatchesFile(_) => "matches-file",
            Requirement::ListedIn(_) => "listed-in",
            Requirement::KeyListedIn(_) => "key-listed-in",
            Requirement::Fits { .. } => "fits",
            Requirement::NameStyle(_) => "name-style",
            Requirement::PathParameters => "path-parameters",
        }
    }

    /// What it says, in one line.
    fn written(&self) -> String {
        match self {
            Requirement::Structure | Requirement::Resolves | Requirement::PathParameters => "true".to_string(),
            Requirement::Must(schema) | Requirement::MustNot(schema) => schema.to_string(),
            Requirement::Unique(path) | Requirement::RefersTo(path) | Requirement::MatchesFile(path) => path.clone(),
            Requirement::Has(paths)
            | Requirement::HasNo(paths)
            | Requirement::ListedIn(paths)
            | Requirement::KeyListedIn(paths) => paths.join(", "),
            Requirement::Fits { values, schema } => format!("{} by {schema}", values.join(", ")),
            Requirement::NameStyle(style) => style.map_or(CONSISTENT, NameStyle::word).to_string(),
        }
    }
}

/// The word for the style that most names have.
pub const CONSISTENT: &str = "consistent";

impl DataDefinition {
    /// Its keys with their values, a line each, for those who read what it checks.
    pub(crate) fn written(&self) -> String {
        let said = [("when", &self.when), ("each", &self.each), ("where", &self.only_where)];
        let said = said.into_iter().filter_map(|(key, value)| Some((key, value.clone()?)));
        let at = Some(("at", self.at.join(", "))).filter(|(_, at)| !at.is_empty());
        let asked = self.requirements.iter().map(|one| (one.key(), one.written()));
        said.chain(at).chain(asked).map(|(key, value)| format!("{key:<10} {value}\n")).collect()
    }
}
