//! What opens a scope, and which parts of it belong to the scope around it.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::names::{Collector, DeclarationKind, ScopeId, ScopeKind};

/// The name is bound around the function; decorators, defaults and types are evaluated there; parameters and body are its own.
pub(super) fn on_function<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let around = collector.current();
    bind_name(collector, around, node, DeclarationKind::Function);
    let outer = opt_type_parameters(collector, node, around);
    let scope = collector.open_scope(ScopeKind::Function, node, outer);
    bind_parameters(collector, node, scope);
    if let Some(body) = node.child(Role::Body) {
        collector.enter_at(body, scope);
    }
}

pub(super) fn on_lambda<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let scope = collector.open_scope(ScopeKind::Function, node, collector.current());
    bind_parameters(collector, node, scope);
    if let Some(body) = node.child(Role::Body) {
        collector.enter_at(body, scope);
    }
}

pub(super) fn on_class<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let around = collector.current();
    bind_name(collector, around, node, DeclarationKind::Class);
    let outer = opt_type_parameters(collector, node, around);
    let scope = collector.open_scope(ScopeKind::Class, node, outer);
    if let Some(body) = node.child(Role::Body) {
        collector.enter_at(body, scope);
    }
}

pub(super) fn on_type_alias<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let around = collector.current();
    bind_name(collector, around, node, DeclarationKind::TypeAlias);
    opt_type_parameters(collector, node, around);
}

/// Everything belongs to the comprehension but what its first loop runs over, which is evaluated around it.
pub(super) fn on_comprehension<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let around = collector.current();
    collector.open(ScopeKind::Comprehension, node);
    let first = node.child(Role::Clause).and_then(|clause| clause.child(Role::Iterable));
    if let Some(first) = first {
        collector.enter_at(first, around);
    }
}

/// `global` and `nonlocal`: the names live in the file, or in the nearest function around that has them.
pub(super) fn on_elsewhere<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let scope = collector.current();
    for name in node.children_in(Role::Name) {
        let text = collector.node_text(name);
        let other = if node.kind() == Kind::Global { ScopeId::FILE } else { function_with(collector, scope, text) };
        if scope != other {
            collector.declare_elsewhere(scope, text, other);
        }
        collector.bind(other, text, name, DeclarationKind::Elsewhere);
    }
}

/// The nearest function around a scope that binds a name; the nearest one at all if none does so far.
fn function_with<'t>(collector: &mut Collector<'t>, scope: ScopeId, name: &'t str) -> ScopeId {
    let mut functions = collector.outwards(scope);
    functions.remove(0);
    functions.retain(|outer| collector.scope(*outer).kind == ScopeKind::Function);
    let nearest = functions.first().copied().unwrap_or(ScopeId::FILE);
    functions.into_iter().find(|outer| collector.binds(*outer, name)).unwrap_or(nearest)
}

fn bind_name<'t>(collector: &mut Collector<'t>, scope: ScopeId, node: NodeRef<'t>, kind: DeclarationKind) {
    if let Some(name) = node.child(Role::Name) {
        collector.bind(scope, collector.node_text(name), name, kind);
    }
}

fn bind_parameters<'t>(collector: &mut Collector<'t>, function: NodeRef<'t>, scope: ScopeId) {
    let Some(parameters) = function.child(Role::Parameters) else { return };
    for parameter in parameters.children() {
        if let Some(name) = parameter.child(Role::Name) {
            collector.bind(scope, collector.node_text(name), name, DeclarationKind::Parameter);
        }
    }
}

/// Type parameters have a scope of their own around the rest of what they belong to.
fn opt_type_parameters<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, around: ScopeId) -> ScopeId {
    let Some(parameters) = node.child(Role::TypeParameters) else { return around };
    let scope = collector.open_scope(ScopeKind::TypeParameters, node, around);
    for parameter in parameters.children() {
        if let Some(name) = parameter.child(Role::Name) {
            collector.bind(scope, collector.node_text(name), name, DeclarationKind::TypeParameter);
        }
    }
    collector.enter(node, scope);
    scope
}
