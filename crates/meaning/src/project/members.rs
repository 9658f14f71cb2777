//! The members of the classes of a file, by their names.

use std::hash::Hasher;

use rustc_hash::{FxHashMap, FxHasher};
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, Tree};

use super::function::is_member;

/// Which method a class has under a name, if that is sure.
#[derive(Debug, Default)]
pub(super) struct Members {
    /// By the class and the hash of the name.
    by_name: FxHashMap<(NodeId, u64), Option<NodeId>>,
}

impl Members {
    /// One pass over the file: its methods, and the places that give a class or its objects a member some other way.
    pub(super) fn of(text: &Text, tree: &Tree) -> Members {
        let mut members = Members::default();
        // The classes around a node, the innermost last, with the node past each.
        let mut around: Vec<(NodeId, NodeId)> = Vec::new();
        for node in tree.nodes() {
            let is_class = matches!(node.kind(), Kind::Class | Kind::ClassExpression);
            let is_named = node.role() == Role::Target || matches!(node.kind(), Kind::Function | Kind::Field);
            if !is_class && !is_named {
                continue;
            }
            while around.pop_if(|(_, end)| *end <= node.id()).is_some() {}
            let Some((class, _)) = around.last().copied().filter(|_| is_named) else {
                around.extend(is_class.then(|| (node.id(), node.end())));
                continue;
            };
            if node.kind() == Kind::Function && is_member(node) {
                let class = node.parent().and_then(|body| body.parent());
                members.note(text, class.map(NodeRef::id), node.child(Role::Name), Some(node.id()));
            } else if node.kind() == Kind::Field {
                members.note(text, Some(class), node.child(Role::Name), None);
            } else if node.role() == Role::Target {
                let name = if node.kind() == Kind::Member { node.child(Role::Name) } else { Some(node) };
                members.note(text, Some(class), name.filter(|name| name.children().next().is_none()), None);
            }
        }
        members
    }

    /// The only method of a class with a name.
    pub(super) fn only(&self, class: NodeId, name: &str) -> Option<NodeId> {
        self.by_name.get(&(class, hash(name))).copied().flatten()
    }

    fn note(&mut self, text: &Text, class: Option<NodeId>, name: Option<NodeRef<'_>>, method: Option<NodeId>) {
        let (Some(class), Some(name)) = (class, name) else { return };
        let key = (class, hash(text.slice(name.span())));
        self.by_name.entry(key).and_modify(|known| *known = None).or_insert(method);
    }
}

fn hash(name: &str) -> u64 {
    let mut hasher = FxHasher::default();
    hasher.write(name.as_bytes());
    hasher.finish()
}
