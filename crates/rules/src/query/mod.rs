//! Queries: what to look for in code, written as a kind of node, conditions on it, and where it is.
//!
//! A query is read (`parse`), checked against the tables of kinds and roles and made into a plan (`check`), and asked of the nodes of a file
//! (`matcher`). The language is described in `docs/query.md`.

mod around;
mod check;
mod error;
mod ladder;
mod lex;
mod matcher;
mod parse;
mod plan;
#[cfg(test)]
mod promises;
mod refers;
mod steps;
mod syntax;
mod tri;

use std::fmt;

use sieve_syntax::language::Language;
use sieve_syntax::text::Span;

pub use error::QueryError;
pub use matcher::Matches;

use crate::interface::File;
use crate::run::Input;
use matcher::Matcher;
use plan::{Plan, Shape};

/// A query, checked for some languages.
#[derive(Debug)]
pub struct Query {
    written: syntax::Query,
    plan: Plan,
}

impl Query {
    /// Reads a query that is to be asked in some languages.
    ///
    /// # Errors
    /// When it is not written as queries are, or could not match anything in these languages.
    pub fn new(source: &str, languages: &[Language]) -> Result<Query, QueryError> {
        let written = parse::parse(source)?;
        let plan = check::check(&written, languages)?;
        Ok(Query { written, plan })
    }

    /// Whether it asks what names refer to.
    pub fn needs_names(&self) -> bool {
        self.plan.needs_names
    }

    /// Whether it could match anything in a language.
    pub fn is_for(&self, language: Language) -> bool {
        match &self.plan.terms[0].shape {
            Shape::Node { kind, .. } => kind.is_none_or(|kind| language.produces(kind)),
            Shape::Either(_) => true,
        }
    }

    /// Whether it could match anything in a text with these bytes: a quick look before the text is parsed.
    pub fn may_match(&self, source: &[u8]) -> bool {
        self.plan.literals.iter().all(|literal| memchr::memmem::find(source, literal.as_bytes()).is_some())
    }

    /// What it matches in a file.
    pub fn matches(&self, input: &Input<'_>) -> Matches {
        input.with_file(|file| self.matches_in(file))
    }

    pub(crate) fn matches_in(&self, file: File<'_>) -> Matches {
        Matcher::new(&self.plan, file).matches(0)
    }
}

/// Queries that match the code at a place, from general to exact: what is there is the innermost node that covers it, or the statement or
/// call that this one is a part of.
pub fn ladder(input: &Input<'_>, place: Span) -> Vec<String> {
    input.with_file(|file| ladder::ladder(file, ladder::meant(file.tree.covering(place))))
}

impl fmt::Display for Query {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.written.fmt(out)
    }
}
