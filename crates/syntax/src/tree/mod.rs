//! The one syntax tree, the same for every language.
//!
//! Nodes are in one vector in pre-order: a node's subtree is a slice that begins with the node itself, so that walking is
//! a scan and children, siblings and ancestors are index arithmetic. Tokens are in a second vector in text
//! order; their strings put together are the source, byte for byte, for every input.

mod builder;
mod by_kind;
mod class;
mod fault;
mod joined;
mod kind;
mod node;
mod role;
pub mod steps;
mod token;

pub use builder::{Builder, Mark, Unfinished};
pub use class::TokenClass;
pub use fault::{Fault, Problem};
pub use joined::{Part, Stretch};
pub use kind::{Grammar, Kind};
pub use node::{Children, Node, NodeId, NodeRef};
pub use role::Role;
pub use token::{Token, TokenKind};

use std::sync::OnceLock;

use crate::text::{Begun, Span};
use by_kind::ByKind;
use steps::step;

/// Index of a token in its tree.
pub type TokenId = u32;

/// The syntax tree of one file.
#[derive(Debug, Clone)]
pub struct Tree {
    nodes: Vec<Node>,
    tokens: Vec<Token>,
    length: u32,
    faults: Vec<Fault>,
    /// Its nodes by kind, once somebody asks.
    by_kind: OnceLock<ByKind>,
    /// Its tokens by their places, once somebody asks.
    begun: OnceLock<Begun>,
}

impl Tree {
    /// The node of the whole file.
    #[inline]
    pub fn root(&self) -> NodeRef<'_> {
        self.node(NodeId::ROOT)
    }

    /// The node with this id.
    #[inline]
    pub fn node(&self, id: NodeId) -> NodeRef<'_> {
        NodeRef::new(self, id)
    }

    /// All nodes in pre-order: each before its children, in the order of the text.
    #[inline]
    pub fn nodes(&self) -> impl DoubleEndedIterator<Item = NodeRef<'_>> + ExactSizeIterator {
        self.nodes.iter().map(|node| NodeRef::at(self, node))
    }

    /// The nodes of one kind, in the order of the text. Takes time for these alone once somebody has asked.
    #[inline]
    pub fn nodes_of(&self, kind: Kind) -> impl DoubleEndedIterator<Item = NodeRef<'_>> + ExactSizeIterator + Clone {
        let ids = self.by_kind.get_or_init(|| ByKind::of(&self.nodes)).ids(kind);
        ids.iter().map(|id| self.node(*id))
    }

    /// The nodes of some kinds, in the order of the text. Takes time for these alone once somebody has asked.
    pub fn nodes_of_any(&self, kinds: &[Kind]) -> Vec<NodeRef<'_>> {
        let by_kind = self.by_kind.get_or_init(|| ByKind::of(&self.nodes));
        let mut ids: Vec<NodeId> = kinds.iter().flat_map(|kind| by_kind.ids(*kind)).copied().collect();
        if kinds.len() > 1 {
            // A stable sort merges what is in order already.
            ids.sort();
        }
        ids.into_iter().map(|id| self.node(id)).collect()
    }

    /// All tokens in text order, whitespace and comments included.
    #[inline]
    pub fn tokens(&self) -> &[Token] {
        &self.tokens
    }

    /// The length of the text, in bytes.
    pub fn length(&self) -> u32 {
        self.length
    }

    /// What is wrong with the text, in the order of the places.
    pub fn faults(&self) -> &[Fault] {
        &self.faults
    }

    /// The stretch of text that a token covers.
    #[inline]
    pub fn token_span(&self, token: TokenId) -> Span {
        let start = self.token_start(token);
        Span::new(start, self.token_start(token + 1))
    }

    /// The kinds and stretches of some tokens, in order.
    pub fn tokens_with_spans(
        &self,
        tokens: std::ops::Range<TokenId>,
    ) -> impl Iterator<Item = (TokenId, TokenKind, Span)> + use<'_> {
        let next = self.tokens.get(tokens.start as usize + 1..).unwrap_or_default();
        let own = &self.tokens[tokens.start as usize..tokens.end as usize];
        own.iter().enumerate().map(move |(index, token)| {
            step();
            let end = next.get(index).map_or(self.length, |next| next.start);
            (tokens.start + index as TokenId, token.kind, Span { start: token.start, end })
        })
    }

    /// The offset at which a token begins; the length of the text for ids past the last.
    #[inline]
    pub fn token_start(&self, token: TokenId) -> u32 {
        self.tokens.get(token as usize).map_or(self.length, |token| token.start)
    }

    /// The first token that begins at `offset` or after it.
    pub fn token_from(&self, offset: u32) -> TokenId {
        self.tokens_before(offset, |token| token.start < offset)
    }

    /// The token that holds the byte at `offset`; the last one for offsets at the end of the text.
    pub fn token_at(&self, offset: u32) -> TokenId {
        self.tokens_before(offset, |token| token.start <= offset).saturating_sub(1)
    }

    /// How many tokens are before an offset.
    fn tokens_before(&self, offset: u32, is_before: impl Fn(&Token) -> bool) -> TokenId {
        let starts = self.tokens.iter().map(|token| token.start);
        let begun = self.begun.get_or_init(|| Begun::of(starts, self.length as usize));
        let bounds = begun.bounds(offset, self.tokens.len());
        (bounds.start + self.tokens[bounds].partition_point(is_before)) as TokenId
    }

    /// The ids of the tokens that lie within a range, wholly or in part.
    pub fn tokens_in(&self, span: Span) -> std::ops::Range<TokenId> {
        let first = if span.is_empty() { self.token_from(span.start) } else { self.token_at(span.start) };
        first..self.token_from(span.end).max(first)
    }

    /// The kind of a token; the end of the file for ids past the last.
    #[inline]
    pub fn token_kind(&self, token: TokenId) -> TokenKind {
        step();
        self.tokens.get(token as usize).map_or(TokenKind::EndOfFile, |token| token.kind)
    }

    /// The smallest node that covers the stretch of text. At a border between two nodes, that is for an empty stretch, the first one.
    ///
    /// Nodes are in the order of their starts, so that the last one that begins before the stretch is found by halving; what covers
    /// the stretch is around it. Takes time for the depth, not for the number of siblings.
    pub fn covering(&self, span: Span) -> NodeRef<'_> {
        let start_of = |node: &Node| self.token_start(node.first_token);
        let before = self.nodes.partition_point(|node| start_of(node) < span.start) as u32;
        let last_before = before.checked_sub(1).map(|index| self.node(NodeId(index)));
        let around = last_before
            .and_then(|node| std::iter::once(node).chain(node.ancestors()).find(|around| around.span().contains(span)));
        let covers = |node: &NodeRef<'_>| !node.span().is_empty() && node.span().contains(span);
        let next = ((before as usize) < self.nodes.len()).then(|| self.node(NodeId(before)));
        let next = next.filter(|next| next.span().start == span.start && covers(next));
        let next = next.filter(|next| around.is_none_or(|around| around.holds(next.id())));
        let Some(mut found) = next.or(around) else { return self.root() };
        if next.is_none() {
            return found;
        }
        while let Some(inner) = found.children().find(|child| !child.span().is_empty() && child.span().contains(span)) {
            found = inner;
        }
        found
    }
}
