//! What is around each node, found in one pass over the tree: chains of `else if` or `+` are as deep as they are long, and nobody may climb
//! them again and again.

use std::cell::OnceCell;

use sieve_syntax::tree::{Kind, NodeId, NodeRef, Tree};

use super::steps::holds_statements;
use crate::inside::runs_apart;
use crate::interface::File;
use crate::size::decisions_at;

/// Answers for each node of a tree, by its id.
pub(super) struct Around<'a> {
    file: File<'a>,
    functions: OnceCell<Vec<NodeId>>,
    statements: OnceCell<Vec<Option<NodeId>>>,
    depths: OnceCell<Vec<u32>>,
    levels: OnceCell<Vec<u32>>,
    decisions: OnceCell<Vec<u32>>,
}

impl<'a> Around<'a> {
    pub(super) fn new(file: File<'a>) -> Around<'a> {
        Around {
            file,
            functions: OnceCell::new(),
            statements: OnceCell::new(),
            depths: OnceCell::new(),
            levels: OnceCell::new(),
            decisions: OnceCell::new(),
        }
    }

    /// The innermost function around a node, or the file.
    pub(super) fn function(&self, node: NodeId) -> NodeId {
        let below = |_, parent: NodeRef<'_>, above| if parent.kind().is_function() { parent.id() } else { above };
        self.functions.get_or_init(|| downwards(self.file.tree, NodeId(0), below))[node.index()]
    }

    /// The statement of a block that a node is in, or is.
    pub(super) fn statement(&self, node: NodeId) -> Option<NodeId> {
        let below = |node: NodeRef<'_>, parent: NodeRef<'_>, above| {
            if holds_statements(parent) { Some(node.id()) } else { above }
        };
        self.statements.get_or_init(|| downwards(self.file.tree, None, below))[node.index()]
    }

    /// How many blocks are around a node.
    pub(super) fn depth(&self, node: NodeId) -> u32 {
        let below = |_, parent: NodeRef<'_>, above| above + u32::from(parent.kind() == Kind::Block);
        self.depths.get_or_init(|| downwards(self.file.tree, 0, below))[node.index()]
    }

    /// How many nodes are around a node.
    pub(super) fn level(&self, node: NodeId) -> u32 {
        self.levels.get_or_init(|| downwards(self.file.tree, 0, |_, _, above| above + 1))[node.index()]
    }

    /// The decisions in a node, those in functions and classes within left out.
    pub(super) fn decisions(&self, node: NodeId) -> u32 {
        let sums = || {
            let tree = self.file.tree;
            let mut sums = vec![0u32; tree.nodes().len()];
            for node in tree.nodes().rev() {
                let own = sums[node.id().index()];
                if let Some(parent) = node.parent().filter(|_| !runs_apart(node.kind())) {
                    sums[parent.id().index()] += own + decisions_at(self.file, node);
                }
            }
            sums
        };
        self.decisions.get_or_init(sums)[node.index()]
    }
}

/// A value for each node: that of the root, and for the others what comes of themselves, their parent, and its value.
pub(super) fn downwards<'t, T: Copy>(
    tree: &'t Tree,
    root: T,
    below: impl Fn(NodeRef<'t>, NodeRef<'t>, T) -> T,
) -> Vec<T> {
    let mut values: Vec<T> = Vec::with_capacity(tree.nodes().len());
    for node in tree.nodes() {
        let value = node.parent().map_or(root, |parent| below(node, parent, values[parent.id().index()]));
        values.push(value);
    }
    values
}
