//! The nodes of a tree by their kinds, found in one pass: a query costs the nodes of its kinds, and no more.

use sieve_syntax::tree::{Kind, NodeId, Tree};

pub(super) struct Kinds {
    /// The nodes of one kind after those of another, each in the order of the text.
    nodes: Vec<NodeId>,
    /// Where those of each kind begin.
    starts: Vec<u32>,
}

impl Kinds {
    pub(super) fn of(tree: &Tree) -> Kinds {
        let mut starts = vec![0u32; Kind::ALL.len() + 1];
        tree.nodes().for_each(|node| starts[node.kind() as usize + 1] += 1);
        for kind in 1..starts.len() {
            starts[kind] += starts[kind - 1];
        }
        let mut next = starts.clone();
        let mut nodes = vec![NodeId(0); tree.nodes().len()];
        for node in tree.nodes() {
            let place = &mut next[node.kind() as usize];
            nodes[*place as usize] = node.id();
            *place += 1;
        }
        Kinds { nodes, starts }
    }

    pub(super) fn all(&self, kind: Kind) -> &[NodeId] {
        let kind = kind as usize;
        &self.nodes[self.starts[kind] as usize..self.starts[kind + 1] as usize]
    }
}
