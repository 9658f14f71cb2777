//! Where a script names its variables: what many commands ask of the whole script is collected once.

use std::rc::Rc;

use rustc_hash::FxHashMap;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::interface::{File, word_hash};
use crate::shell::variable_of;

/// The places of the variables of a script, by hashes of their names, each in the order of the script.
#[derive(Debug, Default)]
pub(crate) struct VariablePlaces {
    expansions: FxHashMap<u64, Vec<NodeId>>,
    targets: FxHashMap<u64, Vec<NodeId>>,
    /// Words that a command is given: it may be one that takes names.
    arguments: FxHashMap<u64, Vec<NodeId>>,
}

/// The places of the variables of a file.
pub(crate) fn variable_places(file: File<'_>) -> Rc<VariablePlaces> {
    file.once(|| VariablePlaces::of(file))
}

impl VariablePlaces {
    fn of(file: File<'_>) -> VariablePlaces {
        let mut places = VariablePlaces::default();
        for node in file.tree.nodes() {
            let (list, name) = match (node.kind(), node.role()) {
                (Kind::Expansion, _) => (&mut places.expansions, variable_of(file, node)),
                (_, Role::Target) => (&mut places.targets, file.node_text(node)),
                (_, Role::Argument) => (&mut places.arguments, file.node_text(node)),
                _ => continue,
            };
            list.entry(word_hash(name)).or_default().push(node.id());
        }
        places
    }

    /// Where the value of a variable is read.
    pub(crate) fn expansions(&self, name: &str) -> &[NodeId] {
        list(&self.expansions, name)
    }

    /// Where it is given a value.
    pub(crate) fn targets(&self, name: &str) -> &[NodeId] {
        list(&self.targets, name)
    }

    /// The first place of a name from a node on, of any of the three sorts.
    pub(crate) fn first_from(&self, start: NodeId, name: &str) -> Option<NodeId> {
        let lists = [&self.expansions, &self.targets, &self.arguments];
        lists.into_iter().filter_map(|one| first_from(list(one, name), start)).min()
    }
}

fn list<'p>(places: &'p FxHashMap<u64, Vec<NodeId>>, name: &str) -> &'p [NodeId] {
    places.get(&word_hash(name)).map_or(&[], Vec::as_slice)
}

fn first_from(places: &[NodeId], start: NodeId) -> Option<NodeId> {
    places.get(places.partition_point(|place| *place < start)).copied()
}

/// The function around a node.
pub(crate) fn function_around(node: NodeRef<'_>) -> Option<NodeId> {
    node.ancestors().find(|around| around.kind() == Kind::Function).map(NodeRef::id)
}
