//! A query as it is run: kinds, roles and patterns instead of words.

use globset::{GlobMatcher, GlobSet};
use regex::Regex;
use sieve_syntax::tree::{Kind, Role};

use super::syntax::{Function, Operator, Way};

/// The index of a term in its plan. Terms come before those that they are made of.
pub(super) type TermId = usize;

/// The index of a captured node.
pub(super) type Slot = usize;

#[derive(Debug)]
pub(super) struct Plan {
    pub(super) terms: Vec<Term>,
    /// The names of the captured nodes.
    pub(super) captures: Vec<String>,
    /// Whether it asks what names refer to.
    pub(super) needs_names: bool,
}

#[derive(Debug)]
pub(super) struct Term {
    pub(super) shape: Shape,
    pub(super) relations: Vec<Relation>,
    /// What the nodes that it matches are written with, word for word.
    pub(super) literals: Vec<Literal>,
    /// Whether it asks nothing of captured nodes and captures none: then what it matches is the same wherever it is asked.
    pub(super) is_free: bool,
}

/// Something that the nodes which a term matches are written with.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Literal {
    pub(crate) text: String,
    /// The last name of what they refer to: where the file gives it another name, they are not written with it.
    pub(crate) is_referred: bool,
}

#[derive(Debug)]
pub(super) enum Shape {
    /// Nodes of a kind, or of any.
    Node {
        kind: Option<Kind>,
        capture: Option<Slot>,
        conditions: Vec<Condition>,
    },
    Either(Vec<TermId>),
}

#[derive(Debug)]
pub(super) struct Relation {
    pub(super) negated: bool,
    pub(super) way: Way,
    pub(super) term: TermId,
}

#[derive(Debug)]
pub(super) struct Condition {
    pub(super) negated: bool,
    pub(super) test: Test,
}

#[derive(Debug)]
pub(super) enum Test {
    Compare(Path, Compare),
    Same(Path, Slot),
    Function(Function, Path, Option<(Operator, f64)>),
    Exists(Path),
    Capture(Path, Slot),
    Relation(Path, Relation),
    Either(Vec<Condition>),
}

#[derive(Debug, Clone)]
pub(super) struct Path {
    pub(super) steps: Vec<Step>,
}

/// One step of a path: to the children in a role, else to those of a kind, else, at the end, to an attribute.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(super) struct Step {
    pub(super) role: Option<Role>,
    pub(super) kind: Option<Kind>,
    pub(super) attribute: Option<Attribute>,
    /// Only the part at this position, from 1.
    pub(super) position: Option<usize>,
}

/// What is known of a node besides its children.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Attribute {
    /// The name of its kind.
    Kind,
    /// Its source.
    Text,
    /// The value of a literal, quotes and escapes resolved.
    Value,
    /// The path of its file.
    Path,
    Language,
    /// How many lines it is on.
    Lines,
    /// How many blocks are around it.
    Depth,
    /// There if it is exported.
    Exported,
    /// What documents it.
    Doc,
}

impl Attribute {
    pub(super) const ALL: &'static [Attribute] = &[
        Attribute::Kind,
        Attribute::Text,
        Attribute::Value,
        Attribute::Path,
        Attribute::Language,
        Attribute::Lines,
        Attribute::Depth,
        Attribute::Exported,
        Attribute::Doc,
    ];

    pub(super) fn named(name: &str) -> Option<Attribute> {
        Attribute::ALL.iter().copied().find(|attribute| attribute.name() == name)
    }

    pub(super) fn name(self) -> &'static str {
        match self {
            Attribute::Kind => "kind",
            Attribute::Text => "text",
            Attribute::Value => "value",
            Attribute::Path => "path",
            Attribute::Language => "language",
            Attribute::Lines => "lines",
            Attribute::Depth => "depth",
            Attribute::Exported => "exported",
            Attribute::Doc => "doc",
        }
    }
}

#[derive(Debug)]
pub(super) enum Compare {
    OneOf(Vec<String>),
    Like(GlobMatcher),
    LikeOneOf(GlobSet),
    Matches(Regex),
    Starts(String),
    Ends(String),
    Refers(String),
    Number(Operator, f64),
}
