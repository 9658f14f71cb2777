//! Which functions may hold code that no run comes to: told by a look at their statements, so that a graph is built for few.
//!
//! Code is dead only after something that never goes on to the next statement. Whoever asks gets a yes too many now and then.

use rustc_hash::FxHashSet;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, Tree};

use super::build::called_by;
use crate::names::Names;

/// The statements that are calls of some builtins.
pub(super) fn endings(text: &Text, tree: &Tree, names: &Names<'_>, builtins: &[&str]) -> FxHashSet<NodeId> {
    let ends = |statement: &NodeRef<'_>| {
        let callee = called_by(*statement).and_then(|call| call.child(Role::Callee));
        let callee = callee.filter(|callee| callee.kind() == Kind::Name);
        callee.is_some_and(|callee| builtins.contains(&text.slice(callee.span())) && names.is_builtin_at(callee.id()))
    };
    if builtins.is_empty() {
        return FxHashSet::default();
    }
    let statements = tree.nodes_of_any(&[Kind::ExpressionStatement]).into_iter();
    statements.filter(ends).map(|statement| statement.id()).collect()
}

/// The functions, and the file, in whose own code some statement may be dead.
pub(super) fn owners_with_dead_code(tree: &Tree, endings: &FxHashSet<NodeId>) -> FxHashSet<NodeId> {
    let stopping = stopping(tree, endings);
    let mut found = FxHashSet::default();
    // The owners around a node, the innermost last, with the place past each.
    let mut around: Vec<(NodeId, usize)> = Vec::new();
    let mut innermost_end = usize::MAX;
    for node in with_endings(tree, NOTABLE, endings) {
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
            Kind::ExpressionStatement => node.next_sibling().is_some(),
            _ => entangles(node),
        };
        if leaves_dead_code {
            found.extend(around.last().map(|(owner, _)| *owner));
        }
    }
    found
}

/// The nodes of some kinds, and the calls that never come back, in the order of the text.
fn with_endings<'t>(tree: &'t Tree, kinds: &[Kind], endings: &FxHashSet<NodeId>) -> Vec<NodeRef<'t>> {
    let mut nodes = tree.nodes_of_any(kinds);
    if !endings.is_empty() {
        nodes.extend(endings.iter().map(|ending| tree.node(*ending)));
        nodes.sort_by_key(|node| node.id());
    }
    nodes
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
fn stopping(tree: &Tree, endings: &FxHashSet<NodeId>) -> Vec<bool> {
    let mut stopping = vec![false; tree.nodes().len()];
    // From the end, so that what is in a statement comes before it.
    let leaving = [Kind::Return, Kind::Throw, Kind::Break, Kind::Continue, Kind::If, Kind::With];
    for node in with_endings(tree, &leaving, endings).into_iter().rev() {
        let stops = |role: Role| node.child(role).is_some_and(|part| stopping[part.id().index()]);
        let is_one = match node.kind() {
            Kind::Return | Kind::Throw | Kind::Break | Kind::Continue => true,
            Kind::If => stops(Role::Else) && stops(Role::Body),
            Kind::With => stops(Role::Body),
            // Of these only calls that end the code are among them.
            Kind::ExpressionStatement => true,
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
