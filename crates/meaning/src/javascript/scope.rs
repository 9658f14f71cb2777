//! What opens a scope, and which parts of it belong to the scope around it.

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::module;
use crate::names::{Collector, DeclarationKind, ScopeId, ScopeKind, Unknown};

/// A function or method. A declared one binds its name around it; parameters, result and body have a scope of their own.
pub(super) fn on_function<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let around = collector.current();
    if is_declared(node) {
        bind_name(collector, around, node, DeclarationKind::Function);
    }
    let scope = collector.open_scope(ScopeKind::Function, node, around);
    for role in [Role::Body, Role::Returns, Role::Parameters, Role::TypeParameters] {
        if let Some(part) = node.child(role) {
            collector.enter_at(part, scope);
        }
    }
}

/// Whether a function is a statement, and not a member of a class, object or type.
fn is_declared(function: NodeRef<'_>) -> bool {
    function.parent().is_some_and(|holder| match holder.kind() {
        Kind::Block => holder
            .parent()
            .is_none_or(|outer| !matches!(outer.kind(), Kind::Class | Kind::ClassExpression | Kind::Interface)),
        Kind::Dictionary | Kind::ObjectType | Kind::MappedType => false,
        _ => true,
    })
}

/// A function whose text is asked for most likely runs somewhere else, a worker say, among other names.
pub(super) fn mark_functions_made_text(collector: &mut Collector<'_>, names: &[&str]) {
    for scope in collector.scope_ids() {
        let node = collector.tree.node(collector.scope(scope).node);
        let own_name = node.child(Role::Name).filter(|_| node.kind().is_function());
        let holder = node.parent().filter(|_| node.kind() == Kind::Lambda);
        let held = holder.and_then(|holder| holder.child(Role::Target)).and_then(last_name);
        if [own_name, held].into_iter().flatten().any(|name| names.contains(&collector.node_text(name))) {
            collector.mark_may_bind(scope, Unknown::MadeAtRunTime);
        }
    }
}

/// A name, or the last one of a path of members.
pub(super) fn last_name(node: NodeRef<'_>) -> Option<NodeRef<'_>> {
    match node.kind() {
        Kind::Name => Some(node),
        Kind::Member => node.child(Role::Name),
        _ => None,
    }
}

/// A function as an expression: its own name is seen only in it.
pub(super) fn on_lambda<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let scope = collector.open(ScopeKind::Function, node);
    bind_name(collector, scope, node, DeclarationKind::Function);
}

/// A class binds its name around it, or, as an expression, in it.
pub(super) fn on_class<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let around = collector.current();
    if node.kind() == Kind::Class {
        bind_name(collector, around, node, DeclarationKind::Class);
        if node.child(Role::TypeParameters).is_none() {
            return;
        }
    }
    let scope = collector.open(ScopeKind::TypeParameters, node);
    if node.kind() == Kind::ClassExpression {
        bind_name(collector, scope, node, DeclarationKind::Class);
    }
}

/// An interface or the name of a type.
pub(super) fn on_type<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    bind_name(collector, collector.current(), node, DeclarationKind::TypeAlias);
    collector.open(ScopeKind::TypeParameters, node);
}

/// The members of an enumeration see each other by their names.
pub(super) fn on_enum<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    bind_name(collector, collector.current(), node, DeclarationKind::Class);
    let scope = collector.open(ScopeKind::Block, node);
    for member in node.child(Role::Body).into_iter().flat_map(|body| body.children()) {
        if let Some(name) = member.child(Role::Name).filter(|name| name.kind() == Kind::PropertyName) {
            collector.bind(scope, collector.node_text(name), name, DeclarationKind::Parameter);
        }
    }
}

/// A namespace binds the first part of its name. What a module that is only described holds, others use.
pub(super) fn on_namespace<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let around = collector.current();
    let mut first = node.child(Role::Name);
    while let Some(object) = first.and_then(|name| name.child(Role::Object)) {
        first = Some(object);
    }
    if let Some(name) = first.filter(|name| name.kind() == Kind::Name) {
        collector.bind(around, collector.node_text(name), name, DeclarationKind::Class);
        collect_exports(collector, around, node, name);
    }
    let scope = collector.open_scope(ScopeKind::Block, node, around);
    collector.mark_may_use(scope, Unknown::OtherFile);
    // Several namespaces of one name, here or in other files, share what they export.
    collector.mark_may_bind(scope, Unknown::OtherFile);
    if let Some(body) = node.child(Role::Body) {
        collector.enter_at(body, scope);
    }
}

pub(super) fn on_static_block<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    collector.open(ScopeKind::Function, node);
}

/// A block has a scope of its own, unless what it is the body of has one.
pub(super) fn on_block<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let has_scope = node.role() == Role::Body
        && node.parent().is_some_and(|holder| {
            matches!(
                holder.kind(),
                Kind::Function
                    | Kind::Lambda
                    | Kind::Class
                    | Kind::ClassExpression
                    | Kind::Interface
                    | Kind::Enum
                    | Kind::Namespace
                    | Kind::StaticBlock
                    | Kind::Case
            )
        });
    if !has_scope {
        enter_block(collector, node);
    }
}

pub(super) fn enter_block<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    collector.open(ScopeKind::Block, node);
}

/// All cases of a choice share one scope.
pub(super) fn on_match<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let scope = collector.open_scope(ScopeKind::Block, node, collector.current());
    let cases: Vec<NodeRef<'t>> = node.children_in(Role::Case).collect();
    for case in cases.into_iter().rev() {
        collector.enter_at(case, scope);
    }
}

/// A type that binds names for its own parts.
pub(super) fn enter_type<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    collector.open(ScopeKind::TypeParameters, node);
}

fn bind_name<'t>(collector: &mut Collector<'t>, scope: ScopeId, node: NodeRef<'t>, kind: DeclarationKind) {
    if let Some(name) = node.child(Role::Name).filter(|name| name.kind() == Kind::Name) {
        collector.bind(scope, collector.node_text(name), name, kind);
        collect_exports(collector, scope, node, name);
    }
}

/// What is exported to other modules, or declared for them, counts as used.
fn collect_exports<'t>(collector: &mut Collector<'t>, scope: ScopeId, node: NodeRef<'t>, name: NodeRef<'t>) {
    if module::is_handed_out(node) || is_ambient(collector, node) {
        collector.use_text(scope, collector.node_text(name), name, name.span(), None);
    }
}

/// Whether a declaration says `declare`: it tells of what is elsewhere.
pub(super) fn is_ambient<'t>(collector: &Collector<'t>, declaration: NodeRef<'t>) -> bool {
    declaration.first_token_kind() == TokenKind::Name && collector.node_text(declaration).starts_with("declare")
}
