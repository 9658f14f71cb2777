//! Where a script names its variables: what many commands ask of the whole script is collected once.

use std::rc::Rc;

use rustc_hash::FxHashMap;
use sieve_syntax::tree::{Kind, NodeId, Role};

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

#[cfg(test)]
mod tests {
    use sieve_syntax::language::Language;
    use sieve_syntax::text::Text;
    use sieve_syntax::tree::NodeRef;

    use super::*;
    use crate::interface::FileData;

    #[test]
    fn places_are_those_that_a_look_at_all_nodes_shows() {
        let source = "#!/bin/bash\nquay=north\nmoor() {\n  local quay=$1\n  echo \"$quay\" \"${quay#n}\" > log\n  read -r tide\n}\nmoor \"$quay\"\necho tide $tide\n";
        let text = Text::new(source.to_string());
        let tree = Language::Shell.parse(&text);
        let data = FileData::new("moor.sh", Language::Shell, &text, &tree);
        let file = File::of(&data);
        let places = variable_places(file);
        for name in ["quay", "tide", "log", "moor", "boat", "1"] {
            let is_read = |node: &NodeRef| node.kind() == Kind::Expansion && variable_of(file, *node) == name;
            let is_named = |node: &NodeRef| node.kind() != Kind::Expansion && file.node_text(*node) == name;
            let read: Vec<NodeId> = tree.nodes().filter(is_read).map(NodeRef::id).collect();
            let given: Vec<NodeId> =
                tree.nodes().filter(|node| node.role() == Role::Target && is_named(node)).map(NodeRef::id).collect();
            assert_eq!(places.expansions(name), read, "{name}");
            assert_eq!(places.targets(name), given, "{name}");
            for start in tree.nodes() {
                let is_place = |node: &NodeRef| {
                    is_read(node) || matches!(node.role(), Role::Target | Role::Argument) && is_named(node)
                };
                let first = tree.nodes().find(|node| node.id() >= start.id() && is_place(node)).map(NodeRef::id);
                assert_eq!(places.first_from(start.id(), name), first, "{name} from {start:?}");
            }
        }
        assert!(places.expansions("quay").len() == 3 && places.targets("quay").len() == 2, "they are found at all");
        let inner = tree.node(places.expansions("quay")[0]);
        assert_eq!(inner.function_around(), tree.nodes_of(Kind::Function).next());
        assert_eq!(tree.root().function_around(), None);
    }
}
