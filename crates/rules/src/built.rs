//! Strings that are put together from parts.

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
