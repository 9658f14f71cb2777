//! Local variables, and what gives them values.

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::{scope, word};
use crate::names::{Collector, DeclarationKind};

/// A field, or a local variable: that is seen from its declaration on, one of a loop in its body.
pub(super) fn on_declared<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, parent: NodeRef<'t>) {
    let declaration = if parent.kind() == Kind::Assignment { parent.parent() } else { Some(parent) };
    let Some(declaration) = declaration else { return };
    let (kind, from) = match (declaration.kind(), declaration.role()) {
        (Kind::Field, _) => return scope::bind_member(collector, declaration, node, DeclarationKind::Field),
        (_, Role::Target) => {
            let body = declaration.parent().and_then(|holder| holder.child_at_end(Role::Body));
            (DeclarationKind::LoopTarget, body.map_or(node.id(), NodeRef::id))
        }
        (_, Role::Item) => (DeclarationKind::WithTarget, node.id()),
        _ if is_resource(declaration) => (DeclarationKind::WithTarget, node.id()),
        _ => (DeclarationKind::Assignment, node.id()),
    };
    word::bind_from(collector, collector.current(), node, kind, from);
}

/// `using var boat = …`, which is closed at the end of its block.
fn is_resource(declaration: NodeRef<'_>) -> bool {
    let mut words = declaration.significant_tokens().take(2);
    words.any(|(_, kind)| kind == TokenKind::Using)
}

/// A variable gets another value. `_` alone is given away.
pub(super) fn write<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if collector.node_text(node) != "_" {
        word::use_value(collector, node);
        collector.last_writes();
    }
}

/// Whether the parts of a tuple are given values.
pub(super) fn is_target(tuple: NodeRef<'_>) -> bool {
    let is_tuple = |whole: &NodeRef<'_>| whole.kind() == Kind::Tuple;
    let outermost = std::iter::successors(Some(tuple), |part| part.parent().filter(is_tuple)).last().unwrap_or(tuple);
    outermost.role() == Role::Target
}

/// Whether nothing reads the value of an expression.
pub(super) fn is_dropped(expression: NodeRef<'_>) -> bool {
    matches!(expression.role(), Role::Step | Role::Start)
        || expression.parent().is_some_and(|parent| parent.kind() == Kind::ExpressionStatement)
}
