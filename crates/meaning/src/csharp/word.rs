//! Names as they are written: `@` may be before any of them, and is no part of it ("Identifiers").

use rustc_hash::FxHashSet;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::names::{BindingId, Collector, DeclarationKind, Namespace, Reach, ScopeId};

/// The name at a node.
pub(super) fn of<'t>(collector: &Collector<'t>, node: NodeRef<'t>) -> &'t str {
    collector.node_text(node).trim_start_matches('@')
}

/// Whether a word stands for a type where no type has it for a name.
pub(super) fn is_type_word(name: &str) -> bool {
    matches!(name, "dynamic" | "managed" | "nint" | "notnull" | "nuint" | "unmanaged" | "var")
}

/// Binds a name in the scope of the walk.
pub(super) fn bind<'t>(collector: &mut Collector<'t>, node: Option<NodeRef<'t>>, kind: DeclarationKind) {
    let Some(node) = node.filter(|node| node.kind() == Kind::Name) else { return };
    collector.bind(collector.current(), of(collector, node), node, kind);
}

/// Binds a name in a scope that is not seen before a node further on.
pub(super) fn bind_from<'t>(
    collector: &mut Collector<'t>,
    scope: ScopeId,
    node: NodeRef<'t>,
    kind: DeclarationKind,
    from: NodeId,
) -> BindingId {
    let name = of(collector, node);
    collector.bind_in_from(Namespace::Values, scope, (name, node), kind, from)
}

/// A use of a value in the scope of the walk.
pub(super) fn use_value<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    use_by(collector, Namespace::Values, Reach::Scopes, collector.current(), node);
}

/// A use of a type in the scope of the walk.
pub(super) fn use_type<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    use_by(collector, Namespace::Types, Reach::Scopes, collector.current(), node);
}

/// A use of a name that is found by the way of `reach`.
pub(super) fn use_by<'t>(
    collector: &mut Collector<'t>,
    namespace: Namespace,
    reach: Reach,
    scope: ScopeId,
    node: NodeRef<'t>,
) {
    let span = node.span();
    let name = Span::new(span.end - of(collector, node).len() as u32, span.end);
    collector.use_within((namespace, reach), scope, node, name);
}

/// The parts of a tuple, and the members of an object without a type, have the names of the variables that they are made of: where such a
/// name is used of something, the variable cannot be called otherwise ("Tuple literals", "Anonymous object creation expressions").
pub(super) fn doubt_names_of_parts(collector: &mut Collector<'_>) {
    let tree = collector.tree;
    let parts = tree.nodes_of(Kind::Name).filter(|node| node.role() == Role::Element);
    let parts: Vec<NodeRef<'_>> = parts.filter(|part| names_part(*part)).collect();
    if parts.is_empty() {
        return;
    }
    let members = tree.nodes_of(Kind::Member);
    let used: FxHashSet<&str> =
        members.filter_map(|member| member.child(Role::Name)).map(|name| of(collector, name)).collect();
    let of_used = parts.into_iter().filter(|part| used.contains(of(collector, *part)));
    let doubted: FxHashSet<NodeId> = of_used.map(NodeRef::id).collect();
    collector.doubt_uses_at(&doubted);
}

/// Whether a variable gives a part of a value its name.
fn names_part(part: NodeRef<'_>) -> bool {
    part.parent().is_some_and(|whole| match whole.kind() {
        Kind::Tuple => true,
        Kind::Composite => {
            whole.parent().is_some_and(|made| made.kind() == Kind::New && made.child(Role::Callee).is_none())
        }
        _ => false,
    })
}
