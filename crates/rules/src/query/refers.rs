//! What a name or a path of members refers to outside of its file: it is that, it is not, or nobody can know.

use sieve_meaning::names::Resolution;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::tri::Tri;
use crate::interface::File;

/// Whether an expression refers to something outside of the file, by its module and names joined by dots.
pub(super) fn refers<'f>(file: File<'f>, node: NodeRef<'f>, wanted: &str) -> Tri {
    if !file.may_refer(node, &[wanted]) {
        return Tri::No;
    }
    if let Some(found) = file.refers(node) {
        return Tri::from(*found == *wanted || file.leads_to(node, wanted));
    }
    let mut object = node;
    while let Some(inner) = object.child_of(Kind::Member, Role::Object) {
        object = inner;
    }
    let last = wanted.rsplit('.').next().unwrap_or(wanted);
    let may_be_it = file.node_text(node).ends_with(last);
    let resolution = file.names.and_then(|names| names.resolution_at(object.id()));
    // A name that another module may have brought along could be the one.
    let is_open = object.kind() == Kind::Name && matches!(resolution, Some(Resolution::Unknown(_)));
    if is_open && may_be_it { Tri::Unknown } else { Tri::No }
}
