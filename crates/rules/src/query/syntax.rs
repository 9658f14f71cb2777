//! A query as it is written. Printed, it reads the same.

use std::fmt;
use std::ops::Range;

/// A word with its place in the query, in bytes.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Word {
    pub(super) text: String,
    pub(super) place: Range<usize>,
}

/// A term and what else is where it is. The relations are all those of the first term.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Query {
    pub(super) first: Term,
    pub(super) relations: Vec<Relation>,
}

#[derive(Debug, Clone, PartialEq)]
pub(super) enum Term {
    Node {
        kind: Word,
        capture: Option<Word>,
        conditions: Vec<Condition>,
    },
    /// One of several queries, in brackets.
    Either(Vec<Query>),
}

#[derive(Debug, Clone, PartialEq)]
pub(super) struct Relation {
    pub(super) negated: bool,
    pub(super) way: Way,
    pub(super) term: Term,
}

/// Where the other node is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Way {
    Inside,
    DirectlyInside,
    Holding,
    DirectlyHolding,
    After,
    Before,
}

#[derive(Debug, Clone, PartialEq)]
pub(super) struct Condition {
    pub(super) negated: bool,
    pub(super) test: Test,
}

#[derive(Debug, Clone, PartialEq)]
pub(super) enum Test {
    Compare(Path, Operator, Value),
    Same(Path, Word),
    Function(Function, Path, Option<(Operator, Value)>),
    Exists(Path),
    Capture(Path, Word),
    Relation(Path, Relation),
    Either(Vec<Condition>),
}

/// Roles, kinds of children, and at the end perhaps an attribute.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Path {
    pub(super) steps: Vec<Word>,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Operator {
    Is,
    In,
    Like,
    Matches,
    Starts,
    Ends,
    Refers,
    Equal,
    Less,
    Greater,
    AtMost,
    AtLeast,
}

impl Operator {
    pub(super) const ALL: &'static [Operator] = &[
        Operator::Is,
        Operator::In,
        Operator::Like,
        Operator::Matches,
        Operator::Starts,
        Operator::Ends,
        Operator::Refers,
        Operator::Equal,
        Operator::Less,
        Operator::Greater,
        Operator::AtMost,
        Operator::AtLeast,
    ];

    pub(super) fn written(self) -> &'static str {
        match self {
            Operator::Is => "is",
            Operator::In => "in",
            Operator::Like => "like",
            Operator::Matches => "matches",
            Operator::Starts => "starts",
            Operator::Ends => "ends",
            Operator::Refers => "refers",
            Operator::Equal => "=",
            Operator::Less => "<",
            Operator::Greater => ">",
            Operator::AtMost => "<=",
            Operator::AtLeast => ">=",
        }
    }

    /// Whether it compares numbers.
    pub(super) fn is_numeric(self) -> bool {
        matches!(self, Operator::Equal | Operator::Less | Operator::Greater | Operator::AtMost | Operator::AtLeast)
    }
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Function {
    Count,
    Repeated,
    Lines,
    Complexity,
}

impl Function {
    pub(super) const ALL: &'static [Function] =
        &[Function::Count, Function::Repeated, Function::Lines, Function::Complexity];

    pub(super) fn written(self) -> &'static str {
        match self {
            Function::Count => "count",
            Function::Repeated => "repeated",
            Function::Lines => "lines",
            Function::Complexity => "complexity",
        }
    }
}

#[derive(Debug, Clone, PartialEq)]
pub(super) enum ValueKind {
    String(String),
    Number(f64),
    Regex(String),
    List(Vec<String>),
    /// The value of an option: `$limit`.
    Option(String),
    /// The lines of a file beside the pack: `list("quays.txt")`.
    Lines(String),
}

/// What a fix does, as it is written.
#[derive(Debug, Clone, PartialEq)]
pub(super) enum Verb {
    /// Replaces what a path leads to, or the node that is matched.
    Replace(Option<Path>, Word),
    /// Removes the node that is matched.
    Remove,
    /// Inserts code before the node that is matched, or after it.
    Insert(Word, bool),
}

/// A value with its place in the query, in bytes.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Value {
    pub(super) kind: ValueKind,
    pub(super) place: Range<usize>,
}

impl fmt::Display for Query {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "{}", self.first)?;
        self.relations.iter().try_for_each(|relation| write!(out, " {relation}"))
    }
}

impl fmt::Display for Term {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Term::Either(queries) => write!(out, "({})", joined(queries, " or ")),
            Term::Node { kind, capture, conditions } => {
                write!(out, "{}", kind.text)?;
                if let Some(capture) = capture {
                    write!(out, " as {}", capture.text)?;
                }
                if !conditions.is_empty() {
                    write!(out, " {{ {} }}", joined(conditions, ", "))?;
                }
                Ok(())
            }
        }
    }
}

impl fmt::Display for Relation {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        let way = match self.way {
            Way::Inside => "inside",
            Way::DirectlyInside => "directly inside",
            Way::Holding => "holding",
            Way::DirectlyHolding => "directly holding",
            Way::After => "after",
            Way::Before => "before",
        };
        write!(out, "{}{way} {}", not(self.negated), self.term)
    }
}

impl fmt::Display for Condition {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "{}", not(self.negated))?;
        match &self.test {
            Test::Compare(path, operator, value) => write!(out, "{path} {} {value}", operator.written()),
            Test::Same(path, name) => write!(out, "{path} same {}", name.text),
            Test::Function(function, path, None) => write!(out, "{}({path})", function.written()),
            Test::Function(function, path, Some((operator, value))) => {
                write!(out, "{}({path}) {} {value}", function.written(), operator.written())
            }
            Test::Exists(path) => write!(out, "{path} exists"),
            Test::Capture(path, name) => write!(out, "{path} as {}", name.text),
            Test::Relation(path, relation) => write!(out, "{path} {relation}"),
            Test::Either(conditions) => write!(out, "({})", joined(conditions, " or ")),
        }
    }
}

impl fmt::Display for Path {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        let steps: Vec<&str> = self.steps.iter().map(|step| step.text.as_str()).collect();
        out.write_str(&steps.join("."))
    }
}

impl fmt::Display for Value {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match &self.kind {
            ValueKind::String(text) => out.write_str(&quoted(text)),
            ValueKind::Number(number) => write!(out, "{number}"),
            ValueKind::Regex(pattern) => write!(out, "/{}/", pattern.replace('/', "\\/")),
            ValueKind::List(texts) => {
                let texts: Vec<String> = texts.iter().map(|text| quoted(text)).collect();
                write!(out, "[{}]", texts.join(", "))
            }
            ValueKind::Option(name) => write!(out, "${name}"),
            ValueKind::Lines(path) => write!(out, "list({})", quoted(path)),
        }
    }
}

fn not(negated: bool) -> &'static str {
    if negated { "not " } else { "" }
}

fn joined<T: fmt::Display>(parts: &[T], between: &str) -> String {
    parts.iter().map(T::to_string).collect::<Vec<_>>().join(between)
}

/// A string as a query writes it.
pub(super) fn quoted(text: &str) -> String {
    let escaped = text.replace('\\', "\\\\").replace('"', "\\\"").replace('\n', "\\n").replace('\t', "\\t");
    format!("\"{escaped}\"")
}
