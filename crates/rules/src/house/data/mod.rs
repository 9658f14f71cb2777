//! House rules about data: places that paths lead to, and what must hold for each of them.

mod check;
mod definition;
mod document;
mod message;
mod paths;
mod shape;

use std::fmt;
use std::sync::Arc;

use sieve_meaning::data::path::Path;

use super::error::{HouseError, Part};
use crate::query::QueryError;
use check::Check;
use message::DataMessage;
use paths::{all, one, optional};

pub use definition::{CONSISTENT, DataDefinition, Requirement};
pub use document::{DocumentError, DocumentKind};

/// The checks of a data rule, ready to be used.
pub(crate) struct DataCheck {
    documents: Vec<Arc<DocumentKind>>,
    when: Option<Path>,
    each: Option<String>,
    only_where: Option<Path>,
    at: Vec<Path>,
    checks: Vec<Check>,
    message: DataMessage,
    advice: Option<DataMessage>,
}

impl fmt::Debug for DataCheck {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.debug_struct("DataCheck").field("each", &self.each).field("at", &self.at).finish_non_exhaustive()
    }
}

impl DataCheck {
    /// Reads what a pack says.
    pub(super) fn new(
        definition: &DataDefinition,
        message: &str,
        advice: Option<&str>,
    ) -> Result<Arc<DataCheck>, HouseError> {
        let words = |part: Part| move |error: QueryError| HouseError { part, error };
        Ok(Arc::new(DataCheck {
            documents: definition.documents.clone(),
            when: optional("when", definition.when.as_deref())?,
            each: definition.each.clone(),
            only_where: optional("where", definition.only_where.as_deref())?,
            at: all("at", &definition.at)?,
            checks: definition.requirements.iter().map(Check::new).collect::<Result<_, _>>()?,
            message: DataMessage::new(message).map_err(words(Part::Message))?,
            advice: advice.map(DataMessage::new).transpose().map_err(words(Part::Advice))?,
        }))
    }

    /// Whether other files decide over what it finds.
    pub(super) fn asks_files(&self) -> bool {
        self.checks.iter().any(|check| matches!(check, Check::Resolves | Check::MatchesFile(_)))
    }
}
