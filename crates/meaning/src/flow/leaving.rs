//! Which functions may hold code that no run comes to: told by a look at their statements, so that a graph is built for few.
//!
//! Code is dead only after something that never goes on to the next statement. Whoever asks gets a yes too many now and then.

use rustc_hash::FxHashSet;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, Tree};

/// The functions, and the file, in whose own code some statement may be dead.
pub(super) fn owners_with_dead_code(tree: &Tree) -> FxHashSet<NodeId> {
    let stopping = stopping(tree);
    let mut found = FxHashSet::default();
    // The owners around a node, the innermost last, with the place past each.
    let mut around: Vec<(NodeId, usize)> = Vec::new();
    let mut innermost_end = usize::MAX;
    for node in tree.nodes_of_any(NOTABLE) {
        let place = node.id().index();
        while place >= innermost_end {
            around.pop();
            innermost_end = around.last().map_or(usize::MAX, |(_, end)| *end);
        }
        let leaves_dead_code = match node.kind() {
            Kind::File | Kind::Function | Kind::Lambda | Kind::StaticBlock => {
                innermost_end = node.end().index();
                around.push((node.id(), innermost_end));
                false
            }
            Kind::Return | Kind::Throw | Kind::Break | Kind::Continue | Kind::If | Kind::With => {
                stopping[place] && node.next_sibling().is_some()
            }
            _ => entangles(node),
        };
        if leaves_dead_code {
            found.extend(around.last().map(|(owner, _)| *owner));
        }
    }
    found
}

/// What owns code, and what may leave dead code behind it or in it.
const NOTABLE: &[Kind] = &[
    Kind::File,
    Kind::Function,
    Kind::Lambda,
    Kind::StaticBlock,
    Kind::Return,
    Kind::Throw,
    Kind::Break,
    Kind::Continue,
    Kind::If,
    Kind::With,
    Kind::Try,
    Kind::Match,
    Kind::Select,
    Kind::Labeled,
    Kind::DoWhile,
    Kind::While,
    Kind::For,
];

/// Which statements and blocks may never go on to what is next. What entangles is left out: its function counts already.
fn stopping(tree: &Tree) -> Vec<bool> {
    let mut stopping = vec![false; tree.nodes().len()];
    // From the end, so that what is in a statement comes before it.
    let leaving = [Kind::Return, Kind::Throw, Kind::Break, Kind::Continue, Kind::If, Kind::With];
    for node in tree.nodes_of_any(&leaving).into_iter().rev() {
        let stops = |role: Role| node.child(role).is_some_and(|part| stopping[part.id().index()]);
        let is_one = match node.kind() {
            Kind::Return | Kind::Throw | Kind::Break | Kind::Continue => true,
            Kind::If => stops(Role::Else) && stops(Role::Body),
            Kind::With => stops(Role::Body),
            _ => false,
        };
        if is_one {
            stopping[node.id().index()] = true;
            if let Some(block) = node.parent().filter(|parent| parent.kind() == Kind::Block) {
                stopping[block.id().index()] = true;
            }
        }
    }
    stopping
}

/// Whether code within a statement may be dead though nothing before it in its block stops.
fn entangles(node: NodeRef<'_>) -> bool {
    match node.kind() {
        Kind::Try | Kind::Match | Kind::Select | Kind::Labeled | Kind::DoWhile => true,
        Kind::While => node.child(Role::Else).is_some() || condition_may_be_constant(node),
        Kind::For => {
            let counts = node.child(Role::Iterable).is_none() && node.child(Role::Target).is_none();
            counts || node.child(Role::Else).is_some()
        }
        _ => false,
    }
}

fn condition_may_be_constant(node: NodeRef<'_>) -> bool {
    let is_constant = |part: NodeRef<'_>| matches!(part.kind(), Kind::Boolean | Kind::Number);
    node.child(Role::Condition)
        .is_none_or(|condition| is_constant(condition) || condition.descendants().any(is_constant))
}
