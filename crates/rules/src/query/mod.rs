//! Queries: what to look for in code, written as a kind of node, conditions on it, and where it is.
//!
//! A query is read (`parse`), checked against the tables of kinds and roles and made into a plan (`check`), and asked of the nodes of a file
//! (`matcher`). The language is described in `docs/query.md`.

mod around;
mod braces;
mod check;
mod error;
mod given;
mod kinds;
mod ladder;
mod lex;
mod matcher;
mod parse;
mod plan;
#[cfg(test)]
mod promises;
mod refers;
mod removal;
mod repair;
mod steps;
mod syntax;
mod template;
mod tri;
mod words;

use std::fmt;

use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::NodeId;

pub use error::QueryError;
pub use matcher::Matches;

pub(crate) use braces::parts;
pub(crate) use given::Given;
pub(crate) use matcher::{Matcher, Shared};
pub(crate) use repair::Repair;
pub(crate) use template::Template;
pub(crate) use words::{Wanted, WordPlaces};

use crate::input::Input;
use crate::interface::Edit;
pub(crate) use plan::Literal;
use plan::{Plan, Shape, TermId};

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
        Query::with(source, languages, &Given::default())
    }

    /// The same with values from outside.
    pub(crate) fn with(source: &str, languages: &[Language], given: &Given<'_>) -> Result<Query, QueryError> {
        let written = parse::parse(source)?;
        let plan = check::check(&written, languages, given)?;
        Ok(Query { written, plan })
    }

    /// A string with parts of what it matches in it. Places of errors are bytes in the string.
    pub(crate) fn template(&self, source: &str, languages: &[Language]) -> Result<Template, QueryError> {
        Template::new(source, self, languages)
    }

    /// A fix of what it matches. Places of errors are bytes in what is read.
    pub(crate) fn repair(&self, source: &str, languages: &[Language]) -> Result<Repair, QueryError> {
        Repair::new(source, self, languages)
    }

    /// For each term of it, what the nodes are written with that it can match.
    pub(crate) fn literals(&self) -> Vec<&[Literal]> {
        self.plan.literals()
    }

    /// The query, ready to be asked of a file, where the places of its words may be known.
    pub(crate) fn of<'m>(&'m self, shared: &'m Shared<'m>, words: Option<WordPlaces<'m>>) -> Matcher<'m> {
        Matcher::new(&self.plan, shared, words)
    }

    /// Whether it asks what names refer to.
    pub fn needs_names(&self) -> bool {
        self.plan.needs_names
    }

    /// Whether it could match anything in a language.
    pub fn is_for(&self, language: Language) -> bool {
        self.term_is_for(0, language)
    }

    fn term_is_for(&self, term: TermId, language: Language) -> bool {
        match &self.plan.terms[term].shape {
            Shape::Node { kind, .. } => kind.is_none_or(|kind| language.produces(kind)),
            Shape::Either(options) => options.iter().any(|option| self.term_is_for(*option, language)),
        }
    }

    /// Whether it could match anything in a text with these bytes: a quick look before the text is parsed.
    pub fn may_match(&self, source: &[u8]) -> bool {
        let is_there = |literal: &Literal| memchr::memmem::find(source, literal.text.as_bytes()).is_some();
        self.plan.may_match(0, &|term| self.plan.terms[term].literals.iter().all(is_there))
    }

    /// The same where it is known where its words are.
    pub(crate) fn may_match_at(&self, words: &WordPlaces<'_>) -> bool {
        self.plan.may_match(0, &|term| words.are_there(term))
    }

    /// What it matches in a file.
    pub fn matches(&self, input: &Input<'_>) -> Matches {
        input.with_file(|file| self.of(&Shared::new(file), None).all())
    }
}

/// The names of the files of lists that a query asks for.
pub(crate) fn lists_in(source: &str) -> Result<Vec<String>, QueryError> {
    let tokens = lex::tokens(source)?;
    let lists = tokens.windows(3).filter_map(|three| match three {
        [(lex::Token::Word(word), _), (lex::Token::Sign("("), _), (lex::Token::String(path), _)] if word == "list" => {
            Some(path.clone())
        }
        _ => None,
    });
    Ok(lists.collect())
}

impl<'m> Matcher<'m> {
    /// What the query matches.
    pub(crate) fn all(&self) -> Matches {
        self.matches(0)
    }

    /// A message about a node that is matched.
    pub(crate) fn message(&self, template: &Template, node: NodeId) -> String {
        let node = self.node(node);
        template.shown(self, node, &self.captured(node))
    }

    /// The edits of a fix at a node that is matched.
    pub(crate) fn repaired(&self, repair: &Repair, node: NodeId) -> Option<Vec<Edit>> {
        let node = self.node(node);
        repair.edits(self, node, &self.captured(node))
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
