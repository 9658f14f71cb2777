//! What elements of a page say of each other: ids, labels and anchors.

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::tree::NodeId;

/// The ids, labels and anchors of a page.
#[derive(Debug, Default)]
pub struct Page {
    /// The elements with each id, in their order.
    pub(crate) ids: FxHashMap<String, Vec<NodeId>>,
    /// The labels by the ids of what they are for.
    pub(crate) labels: FxHashMap<String, Vec<NodeId>>,
    /// The older form of targets for links: `<a name="…">`.
    pub(crate) anchors: FxHashSet<String>,
    /// It begins with the element of a whole page.
    pub(crate) is_whole: bool,
    /// It has scripts, which may add to it.
    pub(crate) has_scripts: bool,
    /// Some ids, or whole parts of the page, are not known: a template fills them in.
    pub(crate) is_filled_in: bool,
}

impl Page {
    /// The first element with an id.
    pub(crate) fn by_id(&self, id: &str) -> Option<NodeId> {
        self.ids.get(id)?.first().copied()
    }

    /// The elements of every id that is there more than once.
    pub(crate) fn repeated(&self) -> impl Iterator<Item = (&str, &[NodeId])> {
        self.ids.iter().filter(|(_, nodes)| nodes.len() > 1).map(|(id, nodes)| (id.as_str(), &nodes[..]))
    }

    /// The ids there are.
    pub(crate) fn ids(&self) -> impl Iterator<Item = &str> {
        self.ids.keys().map(String::as_str)
    }

    /// Whether a link may lead to an anchor of this name.
    pub(crate) fn has_anchor(&self, name: &str) -> bool {
        self.anchors.contains(name)
    }

    /// The labels for an id.
    pub(crate) fn labels_for(&self, id: &str) -> &[NodeId] {
        self.labels.get(id).map_or(&[], Vec::as_slice)
    }
}
