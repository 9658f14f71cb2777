//! Several types of one name: they differ by how many parameters they have ("Type declaration space"), or have a word for a name.

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use super::{scope, word};
use crate::names::{Collector, Unknown};

/// Where a name may be that of several types, it is not known which is meant.
pub(super) fn collect<'t>(collector: &mut Collector<'t>) {
    let tree = collector.tree;
    let is_type =
        |node: &NodeRef<'t>| matches!(node.kind(), Kind::Class | Kind::Interface | Kind::Enum | Kind::Delegate);
    let mut declared: FxHashMap<&'t str, Vec<(usize, NodeRef<'t>)>> = FxHashMap::default();
    for node in tree.nodes().filter(is_type) {
        if let Some(name) = node.child(Role::Name) {
            let parameters = node.child(Role::TypeParameters).map_or(0, |list| list.children().count());
            declared.entry(word::of(collector, name)).or_default().push((parameters, node));
        }
    }
    for (name, types) in &declared {
        let is_one = types.iter().all(|one| one.0 == types[0].0);
        if word::is_type_word(name) || matches!(*name, "async" | "await" | "partial" | "record") || !is_one {
            collector.expand(name);
        }
        for (_, node) in types.iter().filter(|_| !is_one) {
            if let Some(members) = collector.module_at(node.id()) {
                collector.mark_may_bind(members, Unknown::OtherFile);
            }
        }
    }
    doubt_others(collector, &declared);
}

/// A use with another number of arguments is one of a type that another file declares.
fn doubt_others<'t>(collector: &mut Collector<'t>, declared: &FxHashMap<&'t str, Vec<(usize, NodeRef<'t>)>>) {
    let is_other = |name: NodeRef<'t>| {
        let types = declared.get(word::of(collector, name))?;
        let holder = name.parent()?;
        let list = holder.child(Role::TypeArguments).filter(|list| list.token_range().start >= name.token_range().end);
        let given = list.map_or(0, |list| list.children().count());
        // Those that are left open have no nodes: `typeof(Table<,>)`.
        let is_open = list.is_some_and(|_| given == 0);
        let is_named = matches!(holder.kind(), Kind::NamedType | Kind::Instantiation);
        (is_named && !is_open && types.iter().all(|one| one.0 != given)).then_some(name.id())
    };
    let names = collector.tree.nodes().filter(|node| matches!(node.kind(), Kind::NamedType | Kind::Instantiation));
    let names = names.filter_map(|named| named.child(Role::Name).or_else(|| named.child(Role::Value)));
    let others: FxHashSet<NodeId> = names.filter_map(scope::last_name).filter_map(is_other).collect();
    if !others.is_empty() {
        collector.doubt_uses_at(&others);
    }
}
