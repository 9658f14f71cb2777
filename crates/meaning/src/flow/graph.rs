//! The control-flow graph: stretches of code that run from their first event to their last, and the ways between them.

use sieve_syntax::tree::NodeId;

/// Index of a block in its graph; the first is where the code is entered.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(super) struct BlockId(u32);

impl BlockId {
    pub(super) const ENTRY: BlockId = BlockId(0);

    pub(super) fn index(self) -> usize {
        self.0 as usize
    }
}

/// Something that matters in a block, in the order in which it happens.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Event {
    /// A statement begins.
    Statement(NodeId),
    /// A variable is read at a node.
    Use(u32, NodeId),
    /// A variable gets a value.
    Bind(u32),
    /// A variable loses its value.
    Unbind(u32),
}

/// How much is known of a way between two blocks.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum EdgeKind {
    /// The code can go it, as far as it shows.
    Open,
    /// Whoever wrote this statement may know that it is never taken: a loop that always has a round, choices that are all there are.
    Doubtful(NodeId),
    /// It is not known that it is never taken, and no more: what a context manager swallows, a call that most likely never
    /// comes back.
    Unlikely,
}

/// A way from one block to another.
#[derive(Debug, Clone, Copy)]
pub(super) struct Edge {
    pub(super) to: BlockId,
    pub(super) kind: EdgeKind,
}

#[derive(Debug, Default)]
struct Block {
    events: std::ops::Range<u32>,
    /// The places of its first and its last edge in the list of all.
    edges: Option<(u32, u32)>,
    is_entered: bool,
}

/// The blocks of one function or file.
#[derive(Debug, Default)]
pub(super) struct Graph {
    blocks: Vec<Block>,
    events: Vec<Event>,
    /// The edges of all blocks, each with the place of the next one of its block: blocks have few, and there are many blocks.
    edges: Vec<(Edge, Option<u32>)>,
}

impl Graph {
    /// Opens a block. Its events are those added before the next one is opened.
    pub(super) fn open(&mut self) -> BlockId {
        let start = self.events.len() as u32;
        self.blocks.push(Block { events: start..start, ..Block::default() });
        BlockId(self.blocks.len() as u32 - 1)
    }

    /// Adds an event to a block, which must be the one that got the last event, or have none.
    pub(super) fn push(&mut self, block: BlockId, event: Event) {
        let at = self.events.len() as u32;
        let events = &mut self.blocks[block.index()].events;
        if events.start == events.end {
            *events = at..at;
        }
        debug_assert_eq!(events.end, at, "a block's events stand side by side");
        events.end = at + 1;
        self.events.push(event);
    }

    pub(super) fn connect(&mut self, from: BlockId, to: BlockId, kind: EdgeKind) {
        let place = self.edges.len() as u32;
        let edges = &mut self.blocks[from.index()].edges;
        let first = edges.map_or(place, |(first, _)| first);
        if let Some((_, last)) = edges.replace((first, place)) {
            self.edges[last as usize].1 = Some(place);
        }
        self.edges.push((Edge { to, kind }, None));
        self.blocks[to.index()].is_entered = true;
    }

    /// Whether some way leads into a block.
    pub(super) fn is_entered(&self, block: BlockId) -> bool {
        block == BlockId::ENTRY || self.blocks[block.index()].is_entered
    }

    pub(super) fn len(&self) -> usize {
        self.blocks.len()
    }

    pub(super) fn blocks(&self) -> impl DoubleEndedIterator<Item = BlockId> + use<> {
        (0..self.blocks.len() as u32).map(BlockId)
    }

    pub(super) fn events(&self, block: BlockId) -> &[Event] {
        let range = &self.blocks[block.index()].events;
        &self.events[range.start as usize..range.end as usize]
    }

    /// The edges from a block, in the order in which they were added.
    pub(super) fn edges(&self, block: BlockId) -> impl Iterator<Item = Edge> {
        let mut next = self.blocks[block.index()].edges.map(|(first, _)| first);
        std::iter::from_fn(move || {
            let (edge, after) = self.edges[next? as usize];
            next = after;
            Some(edge)
        })
    }

    /// Which blocks a run can come to, by any way.
    pub(super) fn reached(&self) -> Vec<bool> {
        let mut reached = vec![false; self.len()];
        let mut open = vec![BlockId::ENTRY];
        while let Some(block) = open.pop() {
            if !std::mem::replace(&mut reached[block.index()], true) {
                open.extend(self.edges(block).map(|edge| edge.to));
            }
        }
        reached
    }
}
