//! What an import binds: a type, static members, or all of a package or a type.

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::names::{Collector, DeclarationKind, Namespace, ScopeId, Unknown};

/// `import ferries.tides.Table;`, `import static ferries.tides.Table.read;`, `import ferries.tides.*;`
pub(super) fn on_import<'t>(collector: &mut Collector<'t>, item: NodeRef<'t>) {
    let Some(name) = item.child(Role::Name) else { return };
    if name.kind() == Kind::ImportAll {
        collector.mark_may_bind(ScopeId::FILE, Unknown::StarImport);
        return;
    }
    let text = collector.node_text(name);
    let binding = collector.bind_in(Namespace::Types, ScopeId::FILE, text, item, DeclarationKind::Import);
    let is_static = item.parent().is_some_and(|import| {
        import.significant_tokens().nth(1).is_some_and(|(_, kind)| kind == TokenKind::StaticWord)
    });
    // Members of one name are imported together, whatever they are.
    if is_static {
        // The type may be one of this file.
        collector.access(Namespace::Values, text);
        collector.access(Namespace::Functions, text);
        collector.bind_too(Namespace::Values, binding, text);
        collector.bind_too(Namespace::Functions, binding, text);
    }
}
