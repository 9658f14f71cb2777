//! Strings with parts of what a query matches in them: `{callee} reads the clock`.

use std::borrow::Cow;

use sieve_syntax::tree::NodeRef;

use super::braces::parts;
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

/// The most bytes of code that a fix takes over: of code in code in code, all would be taken again and again.
const LONGEST_TAKEN: usize = 2_000;

impl Template {
    /// Reads a string. Places of errors are bytes in it.
    pub(super) fn new(source: &str, query: &Query, languages: &[Language]) -> Result<Template, QueryError> {
        let parts = parts(source, Part::Text, |name, place| Part::named(name, place, query, languages))?;
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

    /// The same as code; nothing where a part is not there, or very long.
    pub(super) fn code(&self, matcher: &Matcher<'_>, node: NodeRef<'_>, slots: &Slots) -> Option<String> {
        let code = |part: &Part| match part {
            Part::Text(text) => Some(text.clone()),
            Part::Code(_) => {
                part.code(matcher, node, slots).filter(|code| code.len() <= LONGEST_TAKEN).map(Cow::into_owned)
            }
        };
        self.parts.iter().map(code).collect()
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

/// Code as a message shows it: no more of it is looked at than is shown.
fn shortened(code: Option<&str>) -> String {
    let Some(code) = code else { return "(none)".to_string() };
    let mut line = String::new();
    let mut room = LONGEST_SHOWN;
    for word in code.split_whitespace() {
        let space = usize::from(!line.is_empty());
        let head: String = word.chars().take(room.saturating_sub(space)).collect();
        let is_whole = head.len() == word.len();
        if room > space {
            line.extend(std::iter::repeat_n(' ', space));
            line += &head;
        }
        if !is_whole {
            line.push('…');
            break;
        }
        room = room.saturating_sub(space + head.chars().count());
    }
    line
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn code_is_shown_on_one_line_and_shortened() {
        assert_eq!(shortened(Some("moor(\n    boat,  quay\n)")), "moor( boat, quay )");
        assert_eq!(shortened(None), "(none)");
        let long = shortened(Some(&"é".repeat(200)));
        assert_eq!((long.chars().count(), long.ends_with('…')), (61, true));
        let words = shortened(Some(&"low ".repeat(100)));
        assert!(words.chars().count() <= 61 && words.ends_with('…'), "{words}");
        assert_eq!(shortened(Some(&"low ".repeat(15))), ["low"; 15].join(" "));
    }
}
