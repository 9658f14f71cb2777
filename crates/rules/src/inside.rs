//! What belongs to a piece of code itself, and not to the functions or classes within it.

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

/// Whether the loop surely ends in the block of a statement, or in one around it.
pub(crate) fn leaves_after(statement: NodeRef, body: NodeRef) -> bool {
    let mut inner = statement;
    loop {
        let mut following = std::iter::successors(inner.next_sibling(), |next| next.next_sibling());
        if following.any(|next| matches!(next.kind(), Kind::Break | Kind::Return | Kind::Throw)) {
            return true;
        }
        match inner.parent() {
            Some(parent) if inner != body && parent != body => inner = parent,
            _ => return false,
        }
    }
}
