//! House rules about data: places that a path leads to, and what must hold for each of them.

mod check;
mod message;
mod written;

use std::fmt;
use std::sync::Arc;

use serde_json::Value as Json;
use sieve_meaning::data::path::Path;

use super::error::{HouseError, Part};
use crate::interface::NameStyle;
use crate::query::QueryError;
use crate::schema::Schema;
use message::DataMessage;

pub(crate) use written::written;

/// What a pack says of such a rule, as it is written.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct DataDefinition {
    /// The document is concerned if this path leads to something.
    pub when: Option<String>,
    /// The path to the places.
    pub at: String,
    /// A schema that each place satisfies.
    pub must: Option<Json>,
    /// A schema that no place satisfies.
    pub must_not: Option<Json>,
    /// What is different in all places: a path from each.
    pub unique: Option<String>,
    /// A reference at each place leads to something within the document, which is one of what this path leads to.
    pub refers_to: Option<String>,
    /// The value at each place is one of those that this path leads to.
    pub listed_in: Option<String>,
    /// The style of the name at each place: of its key, or of the string that it is.
    pub name_style: Option<NameStyle>,
}

/// The checks of a data rule, ready to be used.
pub(crate) struct DataCheck {
    when: Option<Path>,
    at: Path,
    must: Option<Schema>,
    must_not: Option<Schema>,
    unique: Option<Path>,
    refers_to: Option<Path>,
    listed_in: Option<Path>,
    name_style: Option<NameStyle>,
    message: DataMessage,
    advice: Option<DataMessage>,
}

impl fmt::Debug for DataCheck {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.debug_struct("DataCheck").field("at", &self.at).finish_non_exhaustive()
    }
}

impl DataCheck {
    /// Reads what a pack says.
    pub(super) fn new(
        definition: &DataDefinition,
        message: &str,
        advice: Option<&str>,
    ) -> Result<Arc<DataCheck>, HouseError> {
        let path = |key: &'static str, source: &str| {
            Path::parse(source).map_err(|error| HouseError {
                part: Part::Data(key),
                error: QueryError::new(error.place, error.message),
            })
        };
        let opt_path =
            |key: &'static str, source: &Option<String>| source.as_ref().map(|source| path(key, source)).transpose();
        let schema = |key: &'static str, schema: &Option<Json>| {
            let made = schema.as_ref().map(Schema::new).transpose();
            made.map_err(|message| HouseError { part: Part::Data(key), error: QueryError::new(0..0, message) })
        };
        let words = |part: Part| move |error: QueryError| HouseError { part, error };
        Ok(Arc::new(DataCheck {
            when: opt_path("when", &definition.when)?,
            at: path("at", &definition.at)?,
            must: schema("must", &definition.must)?,
            must_not: schema("must-not", &definition.must_not)?,
            unique: opt_path("unique", &definition.unique)?,
            refers_to: opt_path("refers-to", &definition.refers_to)?,
            listed_in: opt_path("listed-in", &definition.listed_in)?,
            name_style: definition.name_style,
            message: DataMessage::new(message).map_err(words(Part::Message))?,
            advice: advice.map(DataMessage::new).transpose().map_err(words(Part::Advice))?,
        }))
    }
}
