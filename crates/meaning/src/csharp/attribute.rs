//! Types of attributes, and other names for them: one that ends with that word may be named without it ("Attribute specification").

use rustc_hash::FxHashSet;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::scope::last_name;
use super::word;
use crate::names::Collector;

/// A type that an attribute may name by the beginning of its name may be used wherever it is seen.
pub(super) fn collect<'t>(collector: &mut Collector<'t>) {
    let tree = collector.tree;
    let names = tree.nodes().filter_map(|node| match node.kind() {
        Kind::Class => node.child(Role::Name),
        Kind::ImportItem => node.child(Role::Alias),
        _ => None,
    });
    let ends = names.map(|name| word::of(collector, name)).filter(|name| name.ends_with("Attribute"));
    let types: Vec<&'t str> = ends.collect();
    if types.is_empty() {
        return;
    }
    let named: FxHashSet<&'t str> = tree
        .nodes()
        .filter(|node| node.kind() == Kind::Decorator)
        .filter_map(|attribute: NodeRef<'t>| last_name(attribute.child(Role::Value)?.child(Role::Name)?))
        .map(|name| word::of(collector, name))
        .collect();
    for name in types {
        if name.strip_suffix("Attribute").is_some_and(|begin| named.contains(begin)) {
            collector.expand(name);
        }
    }
}
