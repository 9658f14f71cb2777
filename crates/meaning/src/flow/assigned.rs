//! Definite assignment: which variables have a value at each place that reads them.
//!
//! For each block it is known how each variable may be when it is entered: with a value, without one, or without one on a way that
//! whoever wrote the code may know to be never gone. What a block does changes that; ways join it; until nothing changes any more.

use sieve_syntax::tree::{NodeId, NodeRef, Tree};

use super::graph::{BlockId, EdgeKind, Event, Graph};
use super::variables::{Bound, Variables};
use crate::names::BindingId;

/// More words of states than this are not worked out for one function.
const MOST_WORDS: usize = 1 << 20;

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
    let words = own.len().div_ceil(64);
    if own.is_empty() || words.saturating_mul(graph.len()) > MOST_WORDS {
        return Vec::new();
    }
    let at_entry = vec![State::default(); words * graph.len()];
    let mut states = States { own, variables, words, at_entry, is_entered: vec![false; graph.len()] };
    states.settle(graph, owner.tree());
    states.uses(graph)
}

/// How up to 64 variables are at one place, a bit for each: a bit is set in each word for what is so on some way.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
struct State {
    set: u64,
    unset: u64,
    doubtful: u64,
}

impl State {
    fn gets(&mut self, bit: u64, bound: Bound) {
        self.doubtful &= !bit;
        match bound {
            Bound::Set => (self.set, self.unset) = (self.set | bit, self.unset & !bit),
            Bound::Unset => (self.set, self.unset) = (self.set & !bit, self.unset | bit),
        }
    }

    /// The same after an edge that the author may know is never taken, for variables that the code beside it sets.
    fn doubted(self, variables: u64) -> State {
        let doubted = self.unset & variables;
        State { set: self.set, unset: self.unset & !doubted, doubtful: self.doubtful | doubted }
    }

    /// Adds what another edge brings; whether that is anything new.
    fn join(&mut self, other: State) -> bool {
        let before = *self;
        self.set |= other.set;
        self.unset |= other.unset;
        self.doubtful |= other.doubtful;
        *self != before
    }
}

/// How each variable is at the entry of each block.
struct States<'o> {
    own: &'o [u32],
    variables: &'o Variables,
    /// How many states a block has.
    words: usize,
    /// Those of each block, one block after another.
    at_entry: Vec<State>,
    /// Which blocks some run enters.
    is_entered: Vec<bool>,
}

impl States<'_> {
    fn settle(&mut self, graph: &Graph, tree: &Tree) {
        self.row_mut(BlockId::ENTRY).fill(State { unset: u64::MAX, ..State::default() });
        let mut open: Vec<BlockId> = vec![BlockId::ENTRY];
        let mut is_open = vec![false; graph.len()];
        let mut row = Vec::with_capacity(self.words);
        while let Some(block) = open.pop() {
            is_open[block.index()] = false;
            self.is_entered[block.index()] = true;
            row.clear();
            row.extend_from_slice(self.row(block));
            graph.events(block).iter().for_each(|event| self.step(&mut row, *event));
            for edge in graph.edges(block) {
                if edge.kind == EdgeKind::Unlikely {
                    continue;
                }
                let mut changed = false;
                for (word, state) in row.iter().enumerate() {
                    let brought = self.on_way(*state, edge.kind, word, tree);
                    changed |= self.row_mut(edge.to)[word].join(brought);
                }
                if changed && !std::mem::replace(&mut is_open[edge.to.index()], true) {
                    open.push(edge.to);
                }
            }
        }
    }

    fn row(&self, block: BlockId) -> &[State] {
        &self.at_entry[block.index() * self.words..(block.index() + 1) * self.words]
    }

    fn row_mut(&mut self, block: BlockId) -> &mut [State] {
        &mut self.at_entry[block.index() * self.words..(block.index() + 1) * self.words]
    }

    fn step(&self, row: &mut [State], event: Event) {
        let (variable, bound) = match event {
            Event::Bind(variable) => (variable, Bound::Set),
            Event::Unbind(variable) => (variable, Bound::Unset),
            Event::Statement(_) | Event::Use(..) => return,
        };
        let place = self.place(variable);
        row[place / 64].gets(1 << (place % 64), bound);
    }

    /// The place of a variable among those of its function.
    fn place(&self, variable: u32) -> usize {
        self.variables.all[variable as usize].place as usize
    }

    /// How the variables of a word are at the end of an edge. A doubtful edge casts doubt only on what the statement that it leads
    /// past would have set.
    fn on_way(&self, state: State, edge: EdgeKind, word: usize, tree: &Tree) -> State {
        let EdgeKind::Doubtful(statement) = edge else { return state };
        let end = tree.node(statement).end();
        let of_word = self.own[word * 64..].iter().take(64).enumerate();
        let open = of_word.filter(|(bit, _)| state.unset & (1 << bit) != 0);
        let set_beside = open.filter(|(_, variable)| {
            let bound_at = &self.variables.all[**variable as usize].bound_at;
            let next = bound_at.partition_point(|node| *node < statement);
            bound_at.get(next).is_some_and(|node| *node < end)
        });
        state.doubted(set_beside.fold(0, |all, (bit, _)| all | 1 << bit))
    }

    fn uses(&self, graph: &Graph) -> Vec<UnsetUse> {
        // A place may be in the graph several times: what is true of it is what is true of all of them.
        let mut seen: Vec<(NodeId, u32, State)> = Vec::new();
        let mut row = Vec::with_capacity(self.words);
        // Where nothing comes by, nothing is read.
        for block in graph.blocks().filter(|block| self.is_entered[block.index()]) {
            row.clear();
            row.extend_from_slice(self.row(block));
            for event in graph.events(block) {
                if let Event::Use(variable, node) = *event {
                    let place = self.place(variable);
                    let (state, bit) = (row[place / 64], 1 << (place % 64));
                    seen.push((
                        node,
                        variable,
                        State { set: state.set & bit, unset: state.unset & bit, doubtful: state.doubtful & bit },
                    ));
                }
                self.step(&mut row, *event);
            }
        }
        seen.sort_unstable_by_key(|(node, ..)| *node);
        let mut uses: Vec<UnsetUse> = Vec::new();
        for same in seen.chunk_by(|one, other| one.0 == other.0) {
            let (node, variable, mut state) = same[0];
            for (_, _, other) in same {
                state.join(*other);
            }
            let unset = match state {
                State { unset: 0, doubtful: 0, .. } => continue,
                State { set: 0, .. } => Unset::Always,
                State { unset: 0, .. } => Unset::Doubtful,
                _ => Unset::Maybe,
            };
            uses.push(UnsetUse { node, binding: self.variables.all[variable as usize].binding, unset });
        }
        uses
    }
}
