//! Builds a tree from the nodes that a parser finishes.
//!
//! A parser opens a [`Mark`] where a node may begin and closes it when it knows what the node is. Nodes are kept in the order in
//! which they are finished (post-order), so that a node can be put around ones that are finished already, as left-associative
//! operators and calls need, at no cost and without moving anything. One pass at the end turns post-order into
//! the pre-order of [`Tree`].

use std::sync::OnceLock;

use super::{Fault, Kind, Node, Role, Token, TokenId, Tree};
use crate::text::Span;

/// A place where a node may begin.
#[derive(Debug, Clone, Copy)]
pub struct Mark {
    node: u32,
    token: TokenId,
}

impl Mark {
    /// The place before everything, at which the root begins.
    pub fn first() -> Mark {
        Mark { node: 0, token: 0 }
    }

    /// The first token of the node that may begin here.
    pub fn token(self) -> TokenId {
        self.token
    }
}

#[derive(Debug, Clone, Copy)]
struct Finished {
    kind: Kind,
    role: Role,
    /// Nodes in its subtree, itself included.
    size: u32,
    first_token: TokenId,
    end_token: TokenId,
}

/// The nodes finished so far.
#[derive(Debug)]
pub struct Builder {
    finished: Vec<Finished>,
}

impl Builder {
    /// A builder with room for the nodes of a text with this many tokens.
    pub fn new(tokens: usize) -> Builder {
        Builder { finished: Vec::with_capacity(tokens / 2 + 8) }
    }

    /// Remembers that a node may begin at `token`.
    #[inline]
    pub fn open(&self, token: TokenId) -> Mark {
        Mark { node: self.finished.len() as u32, token }
    }

    /// Finishes a node that holds everything finished since `mark`, its last token being the one before `end_token`.
    #[inline]
    pub fn close(&mut self, mark: Mark, kind: Kind, end_token: TokenId) {
        let size = self.finished.len() as u32 - mark.node + 1;
        let end_token = end_token.max(mark.token);
        self.finished.push(Finished { kind, role: Role::Part, size, first_token: mark.token, end_token });
    }

    /// Forgets the nodes finished since `mark`.
    pub fn forget_since(&mut self, mark: Mark) {
        self.finished.truncate(mark.node as usize);
    }

    /// Says what the last node finished before `mark` is to the one that will hold it.
    pub fn role_before(&mut self, mark: Mark, role: Role) {
        if let Some(before) = (mark.node as usize).checked_sub(1).and_then(|index| self.finished.get_mut(index)) {
            before.role = role;
        }
    }

    /// Says what the node finished last is to the one that will hold it.
    #[inline]
    pub fn role(&mut self, role: Role) {
        if let Some(last) = self.finished.last_mut() {
            last.role = role;
        }
    }

    /// The node finished last, if it began at `mark` or after it.
    #[inline]
    pub fn last_since(&self, mark: Mark) -> Option<Unfinished<'_>> {
        (self.finished.len() as u32 > mark.node).then(|| Unfinished { builder: self, index: self.finished.len() - 1 })
    }

    /// The tree of a source. The node finished last must be the root. Lexers go byte by byte; a fault covers whole characters.
    pub fn finish(self, tokens: Vec<Token>, source: &str, mut faults: Vec<Fault>) -> Tree {
        for Fault { span, .. } in &mut faults {
            let (start, end) = (span.start as usize, span.end as usize);
            *span = Span::new(source.floor_char_boundary(start) as u32, source.ceil_char_boundary(end) as u32);
        }
        faults.sort_by_key(|fault| fault.span);
        let nodes = into_pre_order(&self.finished);
        let (by_kind, begun) = (OnceLock::new(), OnceLock::new());
        Tree { nodes, tokens, length: source.len() as u32, faults, by_kind, begun }
    }
}

/// Reverse post-order meets each node before its children and the children from the last to the first; the place of a child in
/// pre-order is its parent's unfilled end less its own size.
fn into_pre_order(finished: &[Finished]) -> Vec<Node> {
    let blank = Node { kind: Kind::File, role: Role::Root, parent: 0, end: 0, first_token: 0, end_token: 0 };
    let mut nodes = vec![blank; finished.len()];
    // The nodes that still wait for children: their pre-order index, and the end of what is not filled yet.
    let mut waiting: Vec<(u32, u32)> = Vec::new();
    for node in finished.iter().rev() {
        while waiting.last().is_some_and(|(index, unfilled)| *unfilled == index + 1) {
            waiting.pop();
        }
        let (index, parent, role) = match waiting.last_mut() {
            None => (0, 0, Role::Root),
            Some((parent, unfilled)) => {
                *unfilled -= node.size;
                (*unfilled, *parent, node.role)
            }
        };
        let end = index + node.size;
        nodes[index as usize] =
            Node { kind: node.kind, role, parent, end, first_token: node.first_token, end_token: node.end_token };
        if node.size > 1 {
            waiting.push((index, end));
        }
    }
    nodes
}

/// A finished node whose tree is not finished yet: what a parser may look back at.
#[derive(Clone, Copy)]
pub struct Unfinished<'b> {
    builder: &'b Builder,
    index: usize,
}

impl<'b> Unfinished<'b> {
    fn node(self) -> &'b Finished {
        &self.builder.finished[self.index]
    }

    /// What it is.
    pub fn kind(self) -> Kind {
        self.node().kind
    }

    /// Its first token.
    pub fn first_token(self) -> TokenId {
        self.node().first_token
    }

    /// The token just past its last.
    pub fn end_token(self) -> TokenId {
        self.node().end_token
    }

    /// Its children from the last to the first.
    pub fn children_backwards(self) -> impl Iterator<Item = Unfinished<'b>> {
        let lowest = self.index + 1 - self.node().size as usize;
        let mut next = self.index;
        std::iter::from_fn(move || {
            if next == lowest {
                return None;
            }
            let child = Unfinished { builder: self.builder, index: next - 1 };
            next -= child.node().size as usize;
            Some(child)
        })
    }
}
