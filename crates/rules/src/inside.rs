//! What belongs to a piece of code itself, and not to the functions or classes within it.

use rustc_hash::FxHashMap;
use sieve_syntax::tree::{Kind, NodeId, NodeRef};

/// The nodes in a node, in the order of the text. Those of kinds that are apart come, but nothing that is in them.
pub(crate) fn inside<'t>(node: NodeRef<'t>, is_apart: fn(Kind) -> bool) -> impl Iterator<Item = NodeRef<'t>> {
    let mut from = NodeId(0);
    node.descendants().filter(move |inner| {
        let counts = inner.id() >= from;
        if counts && is_apart(inner.kind()) {
            from = inner.end();
        }
        counts
    })
}

/// Sums for each of the owners among some nodes, given in the order of the text, what the nodes in it and in no owner within it weigh.
pub(crate) fn sums_by_owner<'t>(
    nodes: &[NodeRef<'t>],
    is_owner: fn(Kind) -> bool,
    weight: impl Fn(NodeRef<'t>) -> u32,
    mut each: impl FnMut(NodeRef<'t>, u32),
) {
    let mut around: Vec<(NodeRef<'t>, u32)> = Vec::new();
    for node in nodes {
        while let Some((owner, sum)) = around.pop_if(|(owner, _)| owner.end() <= node.id()) {
            each(owner, sum);
        }
        if is_owner(node.kind()) {
            around.push((*node, 0));
        } else if let Some((_, sum)) = around.last_mut() {
            *sum += weight(*node);
        }
    }
    around.into_iter().rev().for_each(|(owner, sum)| each(owner, sum));
}

/// Functions and classes: what is in them runs at another time.
pub(crate) fn runs_apart(kind: Kind) -> bool {
    kind.is_function() || is_class(kind)
}

/// Classes: their objects are others.
pub(crate) fn is_class(kind: Kind) -> bool {
    matches!(kind, Kind::Class | Kind::ClassExpression)
}

/// Which blocks are left by one of their statements; looked up once for each.
#[derive(Debug, Default)]
pub(crate) struct Leaving {
    /// The last statement of a block that leaves it.
    last: FxHashMap<NodeId, Option<NodeId>>,
}

impl Leaving {
    /// Whether a loop surely ends behind a statement of its body: in the statement's block, or in one around it.
    pub(crate) fn is_behind(&mut self, statement: NodeRef, body: NodeRef) -> bool {
        let mut inner = statement;
        while inner != body
            && let Some(block) = inner.parent()
        {
            let last = *self.last.entry(block.id()).or_insert_with(|| {
                let leaves = |child: &NodeRef| matches!(child.kind(), Kind::Break | Kind::Return | Kind::Throw);
                block.children().filter(leaves).last().map(NodeRef::id)
            });
            if last.is_some_and(|last| last > inner.id()) {
                return true;
            }
            inner = block;
        }
        false
    }
}
