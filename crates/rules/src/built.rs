//! Strings that are put together from parts.

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;

/// What is known of an expression as a string.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Content {
    /// It is in the code as it is.
    Literal,
    /// It is put together from parts that are not all in the code.
    Built,
    /// Nothing.
    Unknown,
}

/// Whether an expression is a string put together from parts that are not all in the code.
pub(crate) fn is_built(file: File<'_>, node: NodeRef<'_>) -> bool {
    content(file, node) == Content::Built
}

/// Looks at each part once: long sums are nested as deep as they are long.
fn content(file: File<'_>, node: NodeRef<'_>) -> Content {
    match node.kind() {
        Kind::String | Kind::Bytes => Content::Literal,
        Kind::FormatString | Kind::TemplateString => {
            let has_parts = node.children().any(|part| part.kind() == Kind::Interpolation);
            if has_parts { Content::Built } else { Content::Literal }
        }
        Kind::Group => node.child(Role::Value).map_or(Content::Unknown, |inner| content(file, inner)),
        Kind::Concatenation => {
            let built = node.children().any(|part| content(file, part) == Content::Built);
            if built { Content::Built } else { Content::Literal }
        }
        Kind::Binary => {
            let (Some(left), Some(right)) = (node.child(Role::Left), node.child(Role::Right)) else {
                return Content::Unknown;
            };
            match (content(file, left), content(file, right)) {
                (Content::Literal, Content::Literal) => Content::Literal,
                (Content::Unknown, Content::Unknown) => Content::Unknown,
                _ => Content::Built,
            }
        }
        Kind::Call => {
            let callee = node.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member);
            let formats =
                callee.and_then(|callee| callee.child(Role::Name)).is_some_and(|name| file.node_text(name) == "format");
            let object = callee.and_then(|callee| callee.child(Role::Object));
            if formats && object.is_some_and(is_literal) { Content::Built } else { Content::Unknown }
        }
        _ => Content::Unknown,
    }
}

/// Whether an expression is a string that is in the code as it is.
pub(crate) fn is_literal(node: NodeRef<'_>) -> bool {
    match node.kind() {
        Kind::String | Kind::Bytes => true,
        Kind::FormatString | Kind::TemplateString => node.children().all(|part| part.kind() != Kind::Interpolation),
        Kind::Group => node.child(Role::Value).is_some_and(is_literal),
        Kind::Concatenation => node.children().all(is_literal),
        Kind::Binary => node.children().all(is_literal),
        _ => false,
    }
}

/// Where something is put into a string: the offset, and the expression, where it can be told which.
pub(crate) type Insertion<'t> = (u32, Option<NodeRef<'t>>);

/// What is put into a string that is put together from parts, in the order of the text. Sums are nested as deep as they are long: what is
/// left to look at is in a list.
pub(crate) fn insertions<'t>(file: File<'_>, string: NodeRef<'t>) -> Vec<Insertion<'t>> {
    let mut found = Vec::new();
    let mut open = vec![string];
    while let Some(node) = open.pop() {
        let (left, right) = (node.child(Role::Left), node.child(Role::Right));
        match node.kind() {
            Kind::String | Kind::Bytes => {}
            Kind::Interpolation => found.push((node.span().start, node.child(Role::Value))),
            Kind::FormatString | Kind::TemplateString | Kind::Concatenation | Kind::Group => {
                let first = open.len();
                open.extend(node.children());
                open[first..].reverse();
            }
            // Asked first: the left side of a long sum is nearly all of it.
            Kind::Binary if is_percent(file, node) && left.is_some_and(is_literal) => {
                let given: Vec<NodeRef> = match right {
                    Some(right) if right.kind() == Kind::Tuple => right.children().collect(),
                    right => right.into_iter().collect(),
                };
                add_marks(file, left, "%", &given, &mut found);
            }
            Kind::Binary => open.extend(right.into_iter().chain(left)),
            Kind::Call if is_built(file, node) => {
                let object = node.child(Role::Callee).and_then(|callee| callee.child(Role::Object));
                let given = node.child(Role::Arguments).into_iter().flat_map(|all| all.children());
                add_marks(file, object, "{", &given.collect::<Vec<_>>(), &mut found);
            }
            _ => found.push((node.span().start, Some(node))),
        }
    }
    found
}

/// The marks in a string that values are put in the place of, one after the other; a doubled mark is none.
fn add_marks<'t>(
    file: File<'_>,
    string: Option<NodeRef<'t>>,
    mark: &str,
    given: &[NodeRef<'t>],
    found: &mut Vec<Insertion<'t>>,
) {
    let Some(string) = string else { return };
    let text = file.node_text(string);
    let mut from = 0;
    let mut index = 0;
    while let Some(at) = text[from..].find(mark).map(|at| from + at) {
        from = at + mark.len();
        if text[from..].starts_with(mark) {
            from += mark.len();
            continue;
        }
        let value = given.get(index).map(|value| value.child_of(Kind::KeywordArgument, Role::Value).unwrap_or(*value));
        found.push((string.span().start + at as u32, value));
        index += 1;
    }
}

fn is_percent(file: File<'_>, operation: NodeRef<'_>) -> bool {
    let (Some(left), Some(right)) = (operation.child(Role::Left), operation.child(Role::Right)) else { return false };
    file.text.slice(Span::new(left.span().end, right.span().start)).contains('%')
}

/// The first argument of a call by position.
pub(crate) fn first_argument(call: NodeRef<'_>) -> Option<NodeRef<'_>> {
    let first = call.child(Role::Arguments)?.children().next()?;
    (!matches!(first.kind(), Kind::KeywordArgument | Kind::Spread)).then_some(first)
}

/// The value of an argument given by name.
pub(crate) fn named_argument<'t>(file: File<'_>, call: NodeRef<'t>, name: &str) -> Option<NodeRef<'t>> {
    let mut named = call.child(Role::Arguments)?.children().filter(|argument| argument.kind() == Kind::KeywordArgument);
    named
        .find(|argument| argument.child(Role::Name).is_some_and(|node| file.node_text(node) == name))?
        .child(Role::Value)
}
