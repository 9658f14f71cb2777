//! Variables: those of `let`, of parameters, and of patterns that fit or not.

use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::condition::open_where;
use crate::names::{Collector, DeclarationKind, ScopeId, ScopeKind};

/// Scopes within scopes up to here; variables beyond share the scope around them.
const DEEPEST: usize = 400;

/// Whether a name is bound by a pattern. One that begins with a capital is a constant or a variant where something else may fit as well.
pub(super) fn is_binding(collector: &Collector<'_>, name: NodeRef<'_>) -> bool {
    let Some(parent) = name.parent() else { return false };
    match (parent.kind(), name.role()) {
        (Kind::CapturePattern, Role::Name) | (Kind::Parameter, Role::Name | Role::Pattern) => true,
        (Kind::Assignment | Kind::AnnotatedAssignment, Role::Target) | (Kind::Declaration, Role::Item) => {
            parent.kind() == Kind::Declaration || parent.role() == Role::Item
        }
        (Kind::KeywordPattern, Role::Name) => parent.child(Role::Pattern).is_none(),
        (Kind::For, Role::Target) => true,
        (kind, Role::Pattern) => is_pattern(kind) && !begins_with_capital(collector, name),
        _ => false,
    }
}

/// Whether names directly in a node may be those of variables that it binds.
fn is_pattern(kind: Kind) -> bool {
    matches!(
        kind,
        Kind::Case
            | Kind::LetCondition
            | Kind::ClassPattern
            | Kind::KeywordPattern
            | Kind::SequencePattern
            | Kind::GroupPattern
            | Kind::OrPattern
            | Kind::ReferencePattern
            | Kind::CapturePattern
    )
}

fn begins_with_capital(collector: &Collector<'_>, name: NodeRef<'_>) -> bool {
    collector.text.slice(name.span()).starts_with(|first: char| first.is_uppercase())
}

/// The names that a pattern binds.
fn names_in<'t>(collector: &Collector<'t>, pattern: NodeRef<'t>) -> Vec<NodeRef<'t>> {
    let all = std::iter::once(pattern).chain(pattern.descendants());
    all.filter(|node| node.kind() == Kind::Name && is_binding(collector, *node)).collect()
}

fn bind_all<'t>(
    collector: &mut Collector<'t>,
    pattern: NodeRef<'t>,
    scope: ScopeId,
    kind: DeclarationKind,
    from: NodeId,
) {
    for name in names_in(collector, pattern) {
        collector.bind_from(scope, name, kind, from);
    }
}

/// The parameters of a function or a closure are seen in its body.
pub(super) fn bind_parameters<'t>(collector: &mut Collector<'t>, function: NodeRef<'t>) {
    let scope = collector.current();
    let from = function.child(Role::Body).map_or(function.end(), NodeRef::id);
    for parameter in function.child(Role::Parameters).into_iter().flat_map(NodeRef::children) {
        let pattern = parameter.child(Role::Pattern).or_else(|| parameter.child(Role::Name));
        let Some(pattern) = pattern.filter(|pattern| collector.node_text(*pattern) != "self") else { continue };
        bind_all(collector, pattern, scope, DeclarationKind::Parameter, from);
    }
}

/// `let`: its names are seen from its end to that of the block, where another variable of the name is no longer.
pub(super) fn on_let<'t>(collector: &mut Collector<'t>, declaration: NodeRef<'t>) {
    let Some(item) = declaration.child(Role::Item) else { return };
    let is_target = |item: &NodeRef<'t>| matches!(item.kind(), Kind::Assignment | Kind::AnnotatedAssignment);
    let pattern = Some(item).filter(is_target).and_then(|item| item.child(Role::Target)).unwrap_or(item);
    let names = names_in(collector, pattern);
    let kind = if pattern.kind() == Kind::Name || pattern.kind() == Kind::CapturePattern {
        DeclarationKind::Assignment
    } else {
        DeclarationKind::Unpacking
    };
    let around = collector.current();
    let is_taken = names.iter().any(|name| {
        let text = collector.node_text(*name);
        collector.binds(around, text)
    });
    // Where attributes choose one of several, all are the same variable.
    let is_chosen = declaration.children_in(Role::Decorator).next().is_some();
    let rest = declaration.next_sibling().zip(declaration.parent()).map(|(next, block)| next.id()..block.end());
    let scope = match rest.filter(|_| is_taken && !is_chosen && collector.depth(around) < DEEPEST) {
        Some(rest) => {
            let scope = collector.open_scope(ScopeKind::Block, declaration, around);
            collector.enter_within(rest, scope);
            scope
        }
        None => around,
    };
    for name in names {
        collector.bind_from(scope, name, kind, declaration.end());
    }
}

/// `for quay in quays { … }`
pub(super) fn on_for<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let scope = collector.open(ScopeKind::Block, node);
    let from = node.child(Role::Body).map_or(node.end(), NodeRef::id);
    if let Some(target) = node.child(Role::Target) {
        bind_all(collector, target, scope, DeclarationKind::LoopTarget, from);
    }
}

/// An arm of a `match`: its names are seen in its guard and its body.
pub(super) fn on_case<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let scope = collector.open(ScopeKind::Block, node);
    for pattern in node.children_in(Role::Pattern) {
        bind_all(collector, pattern, scope, DeclarationKind::Pattern, pattern.id());
    }
}

/// `let` in a condition: its names are seen where the pattern is known to fit.
pub(super) fn on_condition<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(pattern) = node.child(Role::Pattern) else { return };
    let around = collector.current();
    let scope = if collector.depth(around) < DEEPEST { open_where(collector, node) } else { around };
    bind_all(collector, pattern, scope, DeclarationKind::Pattern, pattern.id());
}
