//! Namespaces, whose types are seen in all that is in them, and statements outside of all types ("Namespaces", "Top-level statements").

use rustc_hash::FxHashMap;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::word;
use crate::names::{Collector, DeclarationKind, Namespace, ScopeId, ScopeKind, Unknown};

/// Names with dots between them up to here are namespaces within each other; those behind share the last one.
const MOST_PARTS: usize = 100;

/// What is outside of all types.
pub(super) struct Outer<'t> {
    /// The scope of each namespace by that around it and its name: several parts of a file may add to one.
    namespaces: FxHashMap<(ScopeId, &'t str), ScopeId>,
    /// That of the statements, which are the body of a function.
    statements: Option<ScopeId>,
}

impl<'t> Outer<'t> {
    /// The scope of the types that are in no namespace with a name.
    pub(super) const GLOBAL: ScopeId = ScopeId::FIRST_IN_FILE;

    /// Enters the namespace without a name, which all others are in.
    pub(super) fn of(collector: &mut Collector<'t>) -> Outer<'t> {
        let root = collector.tree.root();
        let global = collector.open_scope(ScopeKind::Namespace, root, ScopeId::FILE);
        debug_assert_eq!(global, Outer::GLOBAL);
        collector.enter_until(root.end(), global);
        // Other files add to it.
        collector.mark_may_bind(global, Unknown::OtherFile);
        Outer { namespaces: FxHashMap::default(), statements: None }
    }

    /// Enters the function of the statements of a file at each of them.
    pub(super) fn arrive(&mut self, collector: &mut Collector<'t>, node: NodeRef<'t>) {
        if node.role() == Role::Statement && is_statement(node) {
            let root = collector.tree.root();
            let open = || collector.open_scope(ScopeKind::Function, root, Outer::GLOBAL);
            let scope = *self.statements.get_or_insert_with(open);
            collector.enter(node, scope);
        }
    }

    /// A namespace with its types in braces, or one that all behind it belongs to.
    pub(super) fn on_namespace(&mut self, collector: &mut Collector<'t>, node: NodeRef<'t>) {
        let mut scope = collector.current();
        for part in node.child(Role::Name).into_iter().flat_map(parts_of).take(MOST_PARTS) {
            let (around, name) = (scope, word::of(collector, part));
            let binding = collector.bind_in(Namespace::Types, around, name, part, DeclarationKind::Namespace);
            scope = *self.namespaces.entry((around, name)).or_insert_with(|| {
                let scope = collector.open_scope(ScopeKind::Namespace, node, around);
                collector.mark_may_bind(scope, Unknown::OtherFile);
                collector.has_members(binding, scope);
                scope
            });
        }
        match node.kind() {
            Kind::PackageClause => collector.enter_until(collector.tree.root().end(), scope),
            _ => collector.enter(node, scope),
        }
    }
}

/// The single names of a name with dots, in their order.
fn parts_of(name: NodeRef<'_>) -> Vec<NodeRef<'_>> {
    let mut parts = Vec::new();
    let mut next = Some(name);
    while let Some(part) = next {
        parts.extend(if part.kind() == Kind::Name { Some(part) } else { part.child(Role::Name) });
        next = part.child(Role::Object);
    }
    parts.reverse();
    parts
}

/// Whether a node is a statement outside of all types, and no declaration of what all see.
fn is_statement(node: NodeRef<'_>) -> bool {
    let is_outermost = node.parent().is_some_and(|parent| parent.kind() == Kind::File);
    is_outermost
        && !matches!(
            node.kind(),
            Kind::Namespace
                | Kind::PackageClause
                | Kind::Class
                | Kind::Interface
                | Kind::Enum
                | Kind::Delegate
                | Kind::Import
                | Kind::AttributeSection
        )
}
