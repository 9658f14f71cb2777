//! The nodes of a tree by their kinds: who asks for nodes of one kind does not go over all others.

use super::{Kind, Node, NodeId};

/// The ids of all nodes, grouped by kind, those of each kind in the order of the text.
#[derive(Debug, Clone)]
pub(super) struct ByKind {
    ids: Vec<NodeId>,
    /// Where the group of each kind begins, and behind the last one where it ends.
    starts: Vec<u32>,
}

impl ByKind {
    /// Sorts nodes by counting them.
    pub(super) fn of(nodes: &[Node]) -> ByKind {
        let mut starts = vec![0; Kind::ALL.len() + 1];
        for node in nodes {
            starts[node.kind as usize + 1] += 1;
        }
        let mut sum = 0;
        for start in &mut starts {
            sum += *start;
            *start = sum;
        }
        let mut free = starts.clone();
        let mut ids = vec![NodeId::ROOT; nodes.len()];
        for (index, node) in nodes.iter().enumerate() {
            let place = &mut free[node.kind as usize];
            ids[*place as usize] = NodeId(index as u32);
            *place += 1;
        }
        ByKind { ids, starts }
    }

    /// The nodes of one kind.
    #[inline]
    pub(super) fn ids(&self, kind: Kind) -> &[NodeId] {
        let kind = kind as usize;
        &self.ids[self.starts[kind] as usize..self.starts[kind + 1] as usize]
    }
}

#[cfg(test)]
mod tests {
    use crate::language::Language;
    use crate::text::Text;
    use crate::tree::{Kind, NodeRef};

    #[test]
    fn nodes_of_a_kind_are_those_that_a_walk_meets() {
        let text = Text::new("def sail(boat):\n    return boat.depth + f(boat)\n\nsail(1)\n".to_string());
        let tree = Language::Python.parse(&text);
        let mut found = 0;
        for kind in Kind::ALL {
            let walked: Vec<NodeRef<'_>> = tree.nodes().filter(|node| node.kind() == *kind).collect();
            found += walked.len();
            assert_eq!(tree.nodes_of(*kind).collect::<Vec<_>>(), walked, "{kind}");
        }
        assert_eq!(found, tree.nodes().len());
        let some = [Kind::Name, Kind::Call, Kind::Return];
        let walked: Vec<NodeRef<'_>> = tree.nodes().filter(|node| some.contains(&node.kind())).collect();
        assert_eq!(tree.nodes_of_any(&some), walked);
    }
}
