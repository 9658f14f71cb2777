//! Texts that are put together from parts.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;

/// Whether an expression is a text put together from parts that are not all in the code.
pub(crate) fn is_built(file: File<'_>, node: NodeRef<'_>) -> bool {
    match node.kind() {
        Kind::FormatString | Kind::TemplateString => node.children().any(|part| part.kind() == Kind::Interpolation),
        Kind::Group => node.child(Role::Value).is_some_and(|inner| is_built(file, inner)),
        Kind::Concatenation => node.children().any(|part| is_built(file, part)),
        Kind::Binary => {
            let (Some(left), Some(right)) = (node.child(Role::Left), node.child(Role::Right)) else { return false };
            let is_text = |side: NodeRef<'_>| is_literal(side) || is_built(file, side);
            (is_text(left) || is_text(right)) && !(is_literal(left) && is_literal(right))
        }
        Kind::Call => {
            let callee = node.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member);
            let formats =
                callee.and_then(|callee| callee.child(Role::Name)).is_some_and(|name| file.node_text(name) == "format");
            formats && callee.and_then(|callee| callee.child(Role::Object)).is_some_and(is_literal)
        }
        _ => false,
    }
}

/// Whether an expression is a text that stands in the code as it is.
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
