//! JSONPath (RFC 9535) over the values of a file.

mod compare;
mod find;
mod function;
mod item;
mod parse;

use std::fmt;
use std::ops::Range;

use super::{Scalar, Steps, Value};

/// A path, which leads to values from the root of a document or from each other.
#[derive(Debug, Clone)]
pub struct Path {
    segments: Vec<Segment>,
}

/// `child-segment` or `descendant-segment`
#[derive(Debug, Clone)]
struct Segment {
    is_descendant: bool,
    selectors: Vec<Selector>,
}

#[derive(Debug, Clone)]
enum Selector {
    Name(String),
    Wildcard,
    Index(i64),
    Slice { start: Option<i64>, end: Option<i64>, step: i64 },
    Filter(Logical),
}

/// `logical-expr`
#[derive(Debug, Clone)]
enum Logical {
    Or(Vec<Logical>),
    And(Vec<Logical>),
    Not(Box<Logical>),
    /// Something is there.
    Exists(Query),
    Compare(Comparable, Comparison, Comparable),
    /// `match` or `search`: whether all of a string matches, or some of it.
    Matches {
        text: Comparable,
        pattern: Comparable,
        is_whole: bool,
    },
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Comparison {
    Equal,
    NotEqual,
    Less,
    LessOrEqual,
    Greater,
    GreaterOrEqual,
}

/// `comparable`, and what else has one value.
#[derive(Debug, Clone)]
enum Comparable {
    Literal(Scalar),
    Single(Query),
    Length(Box<Comparable>),
    Count(Query),
    ValueOf(Query),
}

/// `filter-query`: from the value at hand, or from the root.
#[derive(Debug, Clone)]
struct Query {
    is_absolute: bool,
    path: Path,
}

/// Why a text is no path.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PathError {
    /// Where, in bytes.
    pub place: Range<usize>,
    /// What is wrong.
    pub message: String,
}

impl fmt::Display for PathError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str(&self.message)
    }
}

impl std::error::Error for PathError {}

/// Looking for values took more steps than it may.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct TooManySteps {
    /// How many it may take.
    pub most: usize,
}

impl fmt::Display for TooManySteps {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "the path was not followed to its end: it takes more than {} steps in this file", self.most)
    }
}

impl std::error::Error for TooManySteps {}

impl Path {
    /// Reads a path, such as `$.paths.*.get`.
    ///
    /// # Errors
    /// When it is none, with the place.
    pub fn parse(source: &str) -> Result<Path, PathError> {
        parse::path(source)
    }

    /// The values that it leads to from a value, in their order; one that it leads to several times is there as often.
    ///
    /// # Errors
    /// When that takes more than so many steps.
    pub fn find<'d, 't>(&self, root: Value<'d, 't>, most: usize) -> Result<Vec<Value<'d, 't>>, TooManySteps> {
        find::find(self, root, None, &Steps::new(most))
    }

    /// The same with steps that others take from, too. Where a document is given, references in it are followed: what one stands for
    /// is looked into in its place.
    ///
    /// # Errors
    /// When that takes more steps than are left.
    pub fn find_with<'d, 't>(
        &self,
        from: Value<'d, 't>,
        references_in: Option<Value<'d, 't>>,
        steps: &Steps,
    ) -> Result<Vec<Value<'d, 't>>, TooManySteps> {
        find::find(self, from, references_in, steps)
    }

    /// Whether it leads to one value at most.
    fn is_single(&self) -> bool {
        self.segments.iter().all(|segment| {
            !segment.is_descendant && matches!(segment.selectors[..], [Selector::Name(_) | Selector::Index(_)])
        })
    }
}
