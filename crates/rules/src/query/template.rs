//! Strings with parts of what a query matches in them: `{callee} reads the clock`.

use std::borrow::Cow;

use sieve_syntax::tree::NodeRef;

use super::check::check_path;
use super::error::QueryError;
use super::matcher::{Matcher, Slots};
use super::parse::parse_path;
use super::plan::{Path, Slot};
use super::{Language, Query};

/// A string with parts of what is matched. Doubled braces are braces.
#[derive(Debug, Clone)]
pub(crate) struct Template {
    parts: Vec<Part>,
}

#[derive(Debug, Clone)]
enum Part {
    Text(String),
    /// The first of some that is there.
    Code(Vec<Source>),
}

/// Where code comes from.
#[derive(Debug, Clone)]
enum Source {
    /// What a path from the matched node leads to.
    Path(Path),
    Captured(Slot),
}

/// The most characters of code in a message.
const LONGEST_SHOWN: usize = 60;

impl Template {
    /// Reads a string. Places of errors are bytes in it.
    pub(super) fn new(source: &str, query: &Query, languages: &[Language]) -> Result<Template, QueryError> {
        let mut parts = Vec::new();
        let mut text = String::new();
        let mut rest = source;
        while let Some(at) = rest.find(['{', '}']) {
            let (before, sign) = (&rest[..at], &rest[at..=at]);
            let place = source.len() - rest.len() + at;
            text += before;
            rest = &rest[at + 1..];
            if let Some(after) = rest.strip_prefix(sign) {
                text += sign;
                rest = after;
                continue;
            }
            let inner = if sign == "{" { rest.split_once('}') } else { None };
            let Some((name, after)) = inner else {
                let message = format!("a lone {sign} means nothing: double it to write one");
                return Err(QueryError::new(place..place + 1, message));
            };
            parts.push(Part::Text(std::mem::take(&mut text)));
            parts.push(Part::named(name, place + 1, query, languages)?);
            rest = after;
        }
        text += rest;
        parts.push(Part::Text(text));
        Ok(Template { parts })
    }

    /// The string for a node that is matched, as it is shown to people: code on one line, and shortened.
    pub(super) fn shown(&self, matcher: &Matcher<'_>, node: NodeRef<'_>, slots: &Slots) -> String {
        let parts = self.parts.iter().map(|part| match part {
            Part::Text(text) => text.clone(),
            _ => shortened(part.code(matcher, node, slots).as_deref()),
        });
        parts.collect()
    }

    /// The same as code; nothing where a part is not there.
    pub(super) fn code(&self, matcher: &Matcher<'_>, node: NodeRef<'_>, slots: &Slots) -> Option<String> {
        self.parts.iter().map(|part| part.code(matcher, node, slots)).collect()
    }
}

impl Part {
    /// What is between braces: `{name}`, or `{name or target}` for the first that is there.
    fn named(inner: &str, place: usize, query: &Query, languages: &[Language]) -> Result<Part, QueryError> {
        let mut sources = Vec::new();
        let mut at = place;
        for name in inner.split(" or ") {
            sources.push(Source::named(name, at, query, languages)?);
            at += name.len() + " or ".len();
        }
        Ok(Part::Code(sources))
    }

    fn code<'m>(&'m self, matcher: &'m Matcher<'_>, node: NodeRef<'_>, slots: &Slots) -> Option<Cow<'m, str>> {
        match self {
            Part::Text(text) => Some(text.as_str().into()),
            Part::Code(sources) => sources.iter().find_map(|source| source.code(matcher, node, slots)),
        }
    }
}

impl Source {
    /// A captured node, or else a path.
    fn named(name: &str, place: usize, query: &Query, languages: &[Language]) -> Result<Source, QueryError> {
        if let Some(slot) = query.plan.captures.iter().position(|known| known == name) {
            return Ok(Source::Captured(slot));
        }
        let shifted = |mut error: QueryError| {
            error.place = error.place.start + place..error.place.end + place;
            error
        };
        let path = parse_path(name).map_err(shifted)?;
        check_path(&path, &query.plan, languages).map(Source::Path).map_err(shifted)
    }

    fn code<'m>(&'m self, matcher: &'m Matcher<'_>, node: NodeRef<'_>, slots: &Slots) -> Option<Cow<'m, str>> {
        let node = matcher.node(node.id());
        match self {
            Source::Path(path) => matcher.written(path, node),
            Source::Captured(slot) => slots[*slot].map(|captured| matcher.code(captured).into()),
        }
    }
}

/// Code as a message shows it.
fn shortened(code: Option<&str>) -> String {
    let Some(code) = code else { return "(none)".to_string() };
    let line = code.split_whitespace().collect::<Vec<_>>().join(" ");
    match line.char_indices().nth(LONGEST_SHOWN) {
        Some((end, _)) => format!("{}…", &line[..end]),
        None => line,
    }
}
