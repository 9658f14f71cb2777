//! What opens a scope: types with their members, functions, statements.

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::names::{Collector, DeclarationKind, Namespace, ScopeId, ScopeKind, Unknown};

/// A type binds its name around it; its parameters are seen in all of it, its members in its body.
pub(super) fn on_type<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let around = collector.current();
    let name = node.child(Role::Name);
    let binding = name.map(|name| {
        let text = collector.node_text(name);
        collector.bind_in(Namespace::Types, around, text, name, DeclarationKind::Class)
    });
    if node.child(Role::TypeParameters).is_some() {
        collector.open(ScopeKind::TypeParameters, node);
    }
    let members = collector.open_scope(ScopeKind::Members, node, collector.current());
    if let Some(binding) = binding {
        collector.has_members(binding, members);
    }
    if node.kind() == Kind::Enum {
        collector.mark_may_bind(members, Unknown::OtherFile);
    }
    for heritage in node.children_in(Role::Arguments) {
        // What a type permits is made after it.
        if heritage.first_token_kind() != TokenKind::Name {
            heritage.children_in(Role::Type).for_each(|base| inherit(collector, members, base));
        }
    }
    // The components of a record are fields of it, with a function each.
    for component in node.child(Role::Parameters).into_iter().flat_map(NodeRef::children) {
        if let Some(name) = component.child(Role::Name).filter(|name| name.kind() == Kind::Name) {
            let text = collector.node_text(name);
            let field = collector.bind_in(Namespace::Values, members, text, name, DeclarationKind::Field);
            collector.bind_too(Namespace::Functions, field, text);
        }
    }
    for part in [Role::Parameters, Role::Body] {
        if let Some(part) = node.child(part) {
            collector.enter_at(part, members);
        }
    }
}

/// Whether a parameter is a component of a record.
pub(super) fn is_component(parameter: NodeRef<'_>) -> bool {
    let owner = parameter.parent().and_then(|list| list.parent());
    owner.is_some_and(|owner| owner.kind() == Kind::Class)
}

/// An object with a body of its own, or a constant of an enumeration.
pub(super) fn on_nameless<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let around = collector.current();
    if let Some(name) = node.child_of(Kind::EnumMember, Role::Name) {
        collector.bind(around, collector.node_text(name), name, DeclarationKind::Field);
    }
    let Some(body) = node.child(Role::Body) else { return };
    let members = collector.open_scope(ScopeKind::Members, node, around);
    match node.child(Role::Callee) {
        Some(made) => inherit(collector, members, made),
        // Members of the enumeration are seen around it anyway.
        None => collector.mark_may_bind(members, Unknown::OtherFile),
    }
    collector.enter_at(body, members);
}

/// A type has the members of another one, whose name may be that of a type of this file.
fn inherit<'t>(collector: &mut Collector<'t>, members: ScopeId, base: NodeRef<'t>) {
    let mut path = Vec::new();
    let mut next = base.child(Role::Name);
    while let Some(part) = next {
        let is_path = matches!(part.kind(), Kind::Member | Kind::Instantiation);
        let own = if is_path { part.child(Role::Name) } else { Some(part) };
        if let Some(name) = own.filter(|own| own.kind() == Kind::Name) {
            path.push(collector.node_text(name));
        }
        next = if part.kind() == Kind::Instantiation { own } else { part.child(Role::Object) };
    }
    path.reverse();
    collector.inherit(members, &path);
}

/// A method binds its name in its type. That of a constructor is the name of its type.
pub(super) fn on_function<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if let Some(name) = node.child(Role::Name) {
        let (scope, text) = (collector.current(), collector.node_text(name));
        if node.child(Role::Returns).is_some() {
            collector.bind_in(Namespace::Functions, scope, text, name, DeclarationKind::Function);
        } else {
            collector.use_in(Namespace::Types, name);
            // A type is not used by its having one.
            collector.last_writes();
        }
    }
    collector.open(ScopeKind::Function, node);
}

/// Whether a block has the names of what it is the body of.
pub(super) fn is_body(block: NodeRef<'_>) -> bool {
    let is_body = block.role() == Role::Body;
    block.parent().is_some_and(|parent| match parent.kind() {
        Kind::Function
        | Kind::Lambda
        | Kind::StaticBlock
        | Kind::Class
        | Kind::Interface
        | Kind::Enum
        | Kind::New
        | Kind::EnumMember
        | Kind::Namespace
        | Kind::Catch => is_body,
        // Statements behind a colon see what is declared for other cases.
        Kind::Case => is_body && block.kind_before() != TokenKind::Arrow,
        _ => false,
    })
}

/// Resources are seen by those behind them and in the body.
pub(super) fn on_try<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if node.child(Role::Item).is_none() {
        return;
    }
    let scope = collector.open_scope(ScopeKind::Block, node, collector.current());
    let end = node.child(Role::Body).map_or(node.end(), NodeRef::end);
    collector.enter_until(end, scope);
}
