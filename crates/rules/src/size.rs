//! How large a piece of code is.

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::File;

/// The lines that hold code: blank lines, comments and lone texts, which describe what stands around them, do not count.
pub(crate) fn lines_of_code(file: File<'_>, node: NodeRef<'_>) -> u32 {
    let lines = file.text.lines();
    let described = node.children().next().filter(|first| is_lone_text(*first)).map(|first| first.token_range());
    let (mut count, mut counted) = (0, 0);
    for (token, kind) in node.solid_tokens() {
        if kind.is_layout() || described.as_ref().is_some_and(|range| range.contains(&token)) {
            continue;
        }
        let span = file.tree.token_span(token);
        let first = lines.line_of(span.start).max(counted + 1);
        let last =
            if kind == TokenKind::Newline { first } else { lines.line_of(span.end.saturating_sub(1).max(span.start)) };
        if last >= first {
            count += last - first + 1;
            counted = last;
        }
    }
    count
}

fn is_lone_text(statement: NodeRef<'_>) -> bool {
    let text = |value: NodeRef<'_>| matches!(value.kind(), Kind::String | Kind::Concatenation);
    statement.kind() == Kind::ExpressionStatement && statement.child(Role::Value).is_some_and(text)
}

/// The name of a function: its own, or that of the variable, field or key that it is bound to.
pub(crate) fn name_of(function: NodeRef<'_>) -> Option<NodeRef<'_>> {
    if function.kind() == Kind::Function {
        return function.child(Role::Name);
    }
    let holder = function.parent().filter(|_| function.role() == Role::Value)?;
    match holder.kind() {
        Kind::Assignment | Kind::AnnotatedAssignment => {
            holder.child(Role::Target).filter(|target| target.kind() == Kind::Name)
        }
        Kind::Field => holder.child(Role::Name),
        Kind::Pair => holder.child(Role::Key),
        _ => None,
    }
}
