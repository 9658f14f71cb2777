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

/// Functions and classes: what is in them runs at another time.
pub(crate) fn runs_apart(kind: Kind) -> bool {
    kind.is_function() || is_class(kind)
}

/// Classes: their objects are others.
pub(crate) fn is_class(kind: Kind) -> bool {
    matches!(kind, Kind::Class | Kind::ClassExpression)
}
