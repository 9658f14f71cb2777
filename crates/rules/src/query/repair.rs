//! What a fix of a rule in a pack does to the code that is matched.

use sieve_syntax::tree::NodeRef;

use super::check::check_path;
use super::error::QueryError;
use super::matcher::{Matcher, Slots};
use super::parse::parse_verb;
use super::plan::Path;
use super::removal::removal;
use super::syntax::{Verb, Word};
use super::template::Template;
use super::{Language, Query};
use crate::interface::Edit;

/// A fix: what it does, read and checked against its query.
#[derive(Debug, Clone)]
pub(crate) struct Repair(Work);

#[derive(Debug, Clone)]
enum Work {
    Replace(Option<Path>, Template),
    Remove,
    Insert(Template, bool),
}

impl Repair {
    /// Reads a fix. Places of errors are bytes in it.
    pub(super) fn new(source: &str, query: &Query, languages: &[Language]) -> Result<Repair, QueryError> {
        let template = |code: &Word| {
            Template::new(&code.text, query, languages)
                .map_err(|error| QueryError { place: code.place.clone(), ..error })
        };
        Ok(Repair(match parse_verb(source)? {
            Verb::Remove => Work::Remove,
            Verb::Insert(code, is_before) => Work::Insert(template(&code)?, is_before),
            Verb::Replace(None, code) => Work::Replace(None, template(&code)?),
            Verb::Replace(Some(path), code) => {
                let checked = check_path(&path, &query.plan, languages)?;
                if checked.steps.last().is_some_and(|last| last.role.is_none() && last.kind.is_none()) {
                    let place = path.steps.last().map_or(0..source.len(), |last| last.place.clone());
                    return Err(QueryError::new(place, "an attribute is no part of the code that could be replaced"));
                }
                Work::Replace(Some(checked), template(&code)?)
            }
        }))
    }

    /// The edits at a node that is matched; nothing where it is not there or cannot be taken away.
    pub(super) fn edits(&self, matcher: &Matcher<'_>, node: NodeRef<'_>, slots: &Slots) -> Option<Vec<Edit>> {
        let node = matcher.node(node.id());
        match &self.0 {
            Work::Remove => removal(matcher.file(), node),
            Work::Replace(path, template) => {
                let replaced = path.as_ref().map_or(Some(node), |path| matcher.part(path, node))?;
                Some(vec![Edit::replace(replaced.span(), template.code(matcher, node, slots)?)])
            }
            Work::Insert(template, is_before) => {
                let span = node.span();
                let offset = if *is_before { span.start } else { span.end };
                Some(vec![Edit::insert(offset, template.code(matcher, node, slots)?)])
            }
        }
    }
}
