//! Where expressions refer to what a module declares.

use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use super::Used;
use super::address::{Bound, written};

/// What the block of a call says of the call itself; all else is given to the module.
pub(super) const OF_CALLS: [&str; 8] =
    ["source", "version", "count", "for_each", "providers", "depends_on", "lifecycle", "enabled"];

/// Blocks that say where something is, was or is to be.
pub(super) const OF_PLACES: [&str; 3] = ["moved", "removed", "import"];

/// What is given to these names what a provider or a resource knows.
pub(super) const OF_PROVIDERS: [&str; 4] = ["provider", "providers", "configuration_aliases", "ignore_changes"];

/// Where a file refers to something, in the order of the text.
pub(super) fn uses(text: &Text, tree: &Tree) -> Vec<Used> {
    let mut found = Vec::new();
    let mut bound = Bound::default();
    for node in tree.nodes() {
        bound.enter(text, node);
        if let Some(written) = (node.kind() == Kind::Member).then(|| written(text, &bound, node)).flatten() {
            found.push(Used {
                address: written.address,
                node: written.node.id(),
                output: written.output.map(NodeRef::id),
                must_exist: must_exist(text, node),
                is_of_move: is_in_block(text, node, &["moved", "removed"]),
            });
        }
    }
    found
}

/// Whether something must be there for an expression to make sense. What was moved, and what a provider or a resource has, is named by
/// addresses too.
fn must_exist(text: &Text, member: NodeRef<'_>) -> bool {
    let names_else = |around: NodeRef<'_>| match around.kind() {
        Kind::Assignment => around.child(Role::Target).is_some_and(|target| {
            let name = text.slice(target.span());
            name == "type" || OF_PROVIDERS.contains(&name)
        }),
        _ => false,
    };
    !is_in_block(text, member, &OF_PLACES) && !member.ancestors().any(names_else) && member.role() != Role::Key
}

/// Whether a block of one of some kinds is around a node.
fn is_in_block(text: &Text, node: NodeRef<'_>, kinds: &[&str]) -> bool {
    let mut blocks = node.ancestors().filter(|around| around.kind() == Kind::ConfigBlock);
    blocks.any(|block| block.child(Role::Name).is_some_and(|name| kinds.contains(&text.slice(name.span()))))
}
