//! The members of the classes of a file, by their names.

use rustc_hash::FxHashMap;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, Tree};

use super::function::is_member;

/// Which method a class has under a name, if that is sure.
#[derive(Debug, Default)]
pub(super) struct Members {
    by_name: FxHashMap<(NodeId, Box<str>), Option<NodeId>>,
}

impl Members {
    /// One pass over the file: its methods, and the places that give a class or its objects a member some other way.
    pub(super) fn of(text: &Text, tree: &Tree) -> Members {
        let mut members = Members::default();
        for node in tree.nodes() {
            if node.kind() == Kind::Function && is_member(node) {
                let class = node.parent().and_then(|body| body.parent());
                members.note(text, class, node.child(Role::Name), Some(node.id()));
            } else if node.kind() == Kind::Field {
                members.note(text, class_around(node), node.child(Role::Name), None);
            } else if node.role() == Role::Target {
                let name = if node.kind() == Kind::Member { node.child(Role::Name) } else { Some(node) };
                members.note(text, class_around(node), name.filter(|name| name.children().next().is_none()), None);
            }
        }
        members
    }

    /// The only method of a class with a name.
    pub(super) fn only(&self, class: NodeId, name: &str) -> Option<NodeId> {
        self.by_name.get(&(class, name.into())).copied().flatten()
    }

    fn note(&mut self, text: &Text, class: Option<NodeRef<'_>>, name: Option<NodeRef<'_>>, method: Option<NodeId>) {
        let (Some(class), Some(name)) = (class, name) else { return };
        let key = (class.id(), text.slice(name.span()).into());
        self.by_name.entry(key).and_modify(|known| *known = None).or_insert(method);
    }
}

fn class_around(node: NodeRef<'_>) -> Option<NodeRef<'_>> {
    node.ancestors().find(|around| matches!(around.kind(), Kind::Class | Kind::ClassExpression))
}
