//! Items: functions, types, modules. They are seen in all of the block or module in which they are.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::pattern;
use crate::names::{Collector, DeclarationKind, Namespace, ScopeId, ScopeKind};

/// The scope that items have which are declared where the walk is: that of the block, whatever variables it has.
pub(super) fn scope_of_items(collector: &Collector<'_>) -> ScopeId {
    let of_variables = |scope: &ScopeId| {
        let node = collector.tree.node(collector.scope(*scope).node);
        matches!(node.kind(), Kind::Declaration | Kind::LetCondition)
    };
    let around = collector.outwards(collector.current());
    around.into_iter().find(|scope| !of_variables(scope)).unwrap_or(ScopeId::FILE)
}

/// Whether an item belongs to a type or a trait: it is found through that.
pub(super) fn is_associated(node: NodeRef<'_>) -> bool {
    let holder = node.parent().and_then(|block| block.parent());
    holder.is_some_and(|holder| matches!(holder.kind(), Kind::Implementation | Kind::Interface))
}

/// From here to the node's end, only items are seen of what is around it.
pub(super) fn enter_closed<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let kind = if node.kind() == Kind::Function { ScopeKind::Function } else { ScopeKind::TypeParameters };
    let scope = collector.open_scope(kind, node, collector.current());
    // What is associated with a type sees the parameters of that.
    if !is_associated(node) {
        collector.hide_locals(scope);
    }
    collector.enter(node, scope);
}

pub(super) fn on_function<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if let Some(name) = node.child(Role::Name).filter(|_| !is_associated(node)) {
        let scope = scope_of_items(collector);
        collector.bind(scope, collector.node_text(name), name, DeclarationKind::Function);
    }
    enter_closed(collector, node);
    pattern::bind_parameters(collector, node);
}

/// A structure, a union, a trait or another name of a type. A structure without names for its fields is a function too.
pub(super) fn on_type<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if let Some(name) = node.child(Role::Name).filter(|_| !is_associated(node)) {
        let kind = if node.kind() == Kind::TypeAlias { DeclarationKind::TypeAlias } else { DeclarationKind::Class };
        let (scope, text) = (scope_of_items(collector), collector.node_text(name));
        let binding = collector.bind_in(Namespace::Types, scope, text, name, kind);
        let fields = node.child(Role::Type).map(NodeRef::kind);
        if node.kind() == Kind::TypeDefinition && fields != Some(Kind::ObjectType) {
            collector.bind_too(Namespace::Values, binding, text);
        }
    }
    enter_closed(collector, node);
}

/// The variants of an enumeration are found through its name.
pub(super) fn on_enum<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(name) = node.child(Role::Name) else { return };
    let (scope, text) = (scope_of_items(collector), collector.node_text(name));
    let binding = collector.bind_in(Namespace::Types, scope, text, name, DeclarationKind::Class);
    enter_closed(collector, node);
    let variants = collector.open_scope(ScopeKind::Module, node, collector.current());
    collector.has_members(binding, variants);
    for variant in node.child(Role::Body).into_iter().flat_map(NodeRef::children) {
        if let Some(name) = variant.child(Role::Name) {
            let text = collector.node_text(name);
            let variant = collector.bind_in(Namespace::Types, variants, text, name, DeclarationKind::Field);
            collector.bind_too(Namespace::Values, variant, text);
        }
    }
}

/// `mod quay { … }`: what is in it does not see what is around it.
pub(super) fn on_module<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(name) = node.child(Role::Name) else { return };
    let (scope, text) = (scope_of_items(collector), collector.node_text(name));
    let binding = collector.bind_in(Namespace::Types, scope, text, name, DeclarationKind::Class);
    let Some(body) = node.child(Role::Body) else { return };
    let module = collector.open_scope(ScopeKind::Module, node, scope);
    collector.has_members(binding, module);
    let imports_all = body.children().any(|import| import.kind() == Kind::Import && is_all_of_super(collector, import));
    if !imports_all {
        collector.cut_off(module);
    }
    collector.enter(node, module);
}

/// `use super::*;`: what is in the module sees what is around it after all.
fn is_all_of_super(collector: &Collector<'_>, import: NodeRef<'_>) -> bool {
    import.children_in(Role::Item).any(|item| {
        let text: String = collector.text.slice(item.span()).split_whitespace().collect();
        text == "super::*"
    })
}
