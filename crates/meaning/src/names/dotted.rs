//! Names with dots between them, of which each part is looked at.

use sieve_syntax::tree::{Kind, NodeRef};

/// Names with dots between them are no more than this: those of a longer path are not followed to its end from each of its parts.
const LONGEST_PATH: usize = 64;

/// The whole of the names with dots between them that a part of them belongs to, in a language whose paths are of these kinds.
pub(crate) fn top_of_path<'t>(part: NodeRef<'t>, kinds: &[Kind]) -> NodeRef<'t> {
    let around = |part: &NodeRef<'t>| part.parent().filter(|parent| kinds.contains(&parent.kind()));
    std::iter::successors(Some(part), around).take(LONGEST_PATH).last().unwrap_or(part)
}
