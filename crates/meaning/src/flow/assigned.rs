//! Definite assignment: which variables have a value at each place that reads them.
//!
//! For each block it is known how each variable may be when it is entered: with a value, without one, or without one on a way that
//! whoever wrote the code may know to be never gone. What a block does changes that; ways join it; until nothing changes any more.

use sieve_syntax::tree::{NodeId, NodeRef, Tree};

use super::graph::{BlockId, Event, Graph, Way};
use super::variables::Variables;
use crate::names::BindingId;

const SET: u8 = 1;
const UNSET: u8 = 2;
const DOUBTFUL: u8 = 4;

/// More states than this are not worked out for one function.
const MOST_STATES: usize = 8 << 20;

/// How a variable may be without a value.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Unset {
    /// Only on ways that may never be taken.
    Doubtful,
    /// On some way.
    Maybe,
    /// On every way.
    Always,
}

/// A place that reads a variable without a value.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct UnsetUse {
    /// The node of the name.
    pub node: NodeId,
    /// The variable.
    pub binding: BindingId,
    /// On which ways it has no value.
    pub unset: Unset,
}

/// All such places in one function, in the order of the text.
pub(super) fn unset_uses(graph: &Graph, owner: NodeRef<'_>, variables: &Variables) -> Vec<UnsetUse> {
    let own = variables.of_owner(owner.id());
    if own.is_empty() || own.len().saturating_mul(graph.len()) > MOST_STATES {
        return Vec::new();
    }
    let states = States::settled(graph, variables, own, owner.tree());
    states.uses(graph, variables)
}

/// How each variable is at the entry of each block.
struct States<'o> {
    own: &'o [u32],
    /// A row for each block.
    at_entry: Vec<u8>,
}

impl<'o> States<'o> {
    fn settled(graph: &Graph, variables: &Variables, own: &'o [u32], tree: &Tree) -> States<'o> {
        let mut states = States { own, at_entry: vec![0; own.len() * graph.len()] };
        states.row_mut(BlockId::ENTRY).fill(UNSET);
        let mut open: Vec<BlockId> = vec![BlockId::ENTRY];
        let mut is_open = vec![false; graph.len()];
        while let Some(block) = open.pop() {
            is_open[block.index()] = false;
            let row = states.row(block).to_vec();
            let left = states.behind(row, graph.events(block));
            for edge in graph.edges(block) {
                if edge.way == Way::Unlikely {
                    continue;
                }
                let mut changed = false;
                for (slot, state) in left.iter().enumerate() {
                    let brought = on_way(*state, edge.way, &variables.all[own[slot] as usize].bound_at, tree);
                    let known = &mut states.row_mut(edge.to)[slot];
                    changed |= *known | brought != *known;
                    *known |= brought;
                }
                if changed && !std::mem::replace(&mut is_open[edge.to.index()], true) {
                    open.push(edge.to);
                }
            }
        }
        states
    }

    fn row(&self, block: BlockId) -> &[u8] {
        let width = self.own.len();
        &self.at_entry[block.index() * width..(block.index() + 1) * width]
    }

    fn row_mut(&mut self, block: BlockId) -> &mut [u8] {
        let width = self.own.len();
        &mut self.at_entry[block.index() * width..(block.index() + 1) * width]
    }

    fn slot(&self, variable: u32) -> Option<usize> {
        self.own.binary_search(&variable).ok()
    }

    fn behind(&self, mut row: Vec<u8>, events: &[Event]) -> Vec<u8> {
        for event in events {
            self.step(&mut row, *event);
        }
        row
    }

    fn step(&self, row: &mut [u8], event: Event) {
        let (variable, state) = match event {
            Event::Bind(variable) => (variable, SET),
            Event::Unbind(variable) => (variable, UNSET),
            Event::Statement(_) | Event::Use(..) => return,
        };
        if let Some(slot) = self.slot(variable) {
            row[slot] = state;
        }
    }

    fn uses(&self, graph: &Graph, variables: &Variables) -> Vec<UnsetUse> {
        // A place may be in the graph several times: what is true of it is what is true of all of them.
        let mut seen: Vec<(NodeId, u32, u8)> = Vec::new();
        for block in graph.blocks() {
            let mut row = self.row(block).to_vec();
            for event in graph.events(block) {
                if let Event::Use(variable, node) = *event
                    && let Some(slot) = self.slot(variable)
                {
                    seen.push((node, variable, row[slot]));
                }
                self.step(&mut row, *event);
            }
        }
        seen.sort();
        let mut uses: Vec<UnsetUse> = Vec::new();
        for same in seen.chunk_by(|one, other| one.0 == other.0) {
            let (node, variable, _) = same[0];
            let state = same.iter().fold(0, |all, (_, _, state)| all | state);
            let unset = match state {
                _ if state & (UNSET | DOUBTFUL) == 0 => continue,
                _ if state & SET == 0 => Unset::Always,
                _ if state & UNSET != 0 => Unset::Maybe,
                _ => Unset::Doubtful,
            };
            uses.push(UnsetUse { node, binding: variables.all[variable as usize].binding, unset });
        }
        uses
    }
}

/// How a variable is at the end of a way. A doubtful way casts doubt only on what the statement that it leads past would have set.
fn on_way(state: u8, way: Way, bound_at: &[NodeId], tree: &Tree) -> u8 {
    let Way::Doubtful(statement) = way else { return state };
    if state & UNSET == 0 {
        return state;
    }
    let end = tree.node(statement).end();
    let next = bound_at.partition_point(|node| *node < statement);
    let sets = bound_at.get(next).is_some_and(|node| *node < end);
    if sets { state & !UNSET | DOUBTFUL } else { state }
}
