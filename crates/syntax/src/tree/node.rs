//! Nodes and ways between them.

use super::steps::step;
use super::{Kind, Role, TokenId, TokenKind, Tree};
use crate::text::Span;

/// Index of a node in its tree.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct NodeId(pub u32);

impl NodeId {
    /// The node of the whole file.
    pub const ROOT: NodeId = NodeId(0);

    /// As an index into a vector with an entry for every node.
    #[inline]
    pub fn index(self) -> usize {
        self.0 as usize
    }
}

/// One node as it is stored: 20 bytes, no pointers.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Node {
    pub(super) kind: Kind,
    pub(super) role: Role,
    pub(super) parent: u32,
    /// Index just past its subtree.
    pub(super) end: u32,
    pub(super) first_token: TokenId,
    pub(super) end_token: TokenId,
}

/// A node together with its tree. Its fields are read without a look at the tree; only its index is computed from its place.
#[derive(Clone, Copy)]
pub struct NodeRef<'t> {
    tree: &'t Tree,
    node: &'t Node,
}

impl<'t> NodeRef<'t> {
    #[inline]
    pub(super) fn new(tree: &'t Tree, id: NodeId) -> NodeRef<'t> {
        NodeRef { tree, node: &tree.nodes[id.index()] }
    }

    /// The node at a place in a tree's list of nodes.
    #[inline]
    pub(super) fn at(tree: &'t Tree, node: &'t Node) -> NodeRef<'t> {
        NodeRef { tree, node }
    }

    #[inline]
    fn node(self) -> &'t Node {
        step();
        self.node
    }

    /// Its index in the tree.
    #[inline]
    pub fn id(self) -> NodeId {
        let before = std::ptr::from_ref(self.node).addr() - self.tree.nodes.as_ptr().addr();
        NodeId((before / size_of::<Node>()) as u32)
    }

    /// The tree it is in.
    #[inline]
    pub fn tree(self) -> &'t Tree {
        self.tree
    }

    /// What it is.
    #[inline]
    pub fn kind(self) -> Kind {
        self.node().kind
    }

    /// What it is to its parent.
    #[inline]
    pub fn role(self) -> Role {
        self.node().role
    }

    /// The node that holds it; `None` for the root.
    #[inline]
    pub fn parent(self) -> Option<NodeRef<'t>> {
        let is_root = std::ptr::from_ref(self.node) == self.tree.nodes.as_ptr();
        (!is_root).then(|| NodeRef::new(self.tree, NodeId(self.node().parent)))
    }

    /// Its parent, its parent's parent, and so on to the root. Takes a step for each level: a rule that climbs from every
    /// node makes deep trees slow.
    #[inline]
    pub fn ancestors(self) -> impl Iterator<Item = NodeRef<'t>> {
        std::iter::successors(self.parent(), |node| node.parent())
    }

    /// It and each node around it, each with the node directly around that one.
    #[inline]
    pub fn levels(self) -> impl Iterator<Item = (NodeRef<'t>, NodeRef<'t>)> {
        std::iter::once(self).chain(self.ancestors()).zip(self.ancestors())
    }

    /// Its direct children in the order of the text.
    #[inline]
    pub fn children(self) -> Children<'t> {
        Children { tree: self.tree, next: self.id().0 + 1, end: self.node().end }
    }

    /// Its first child in this role.
    #[inline]
    pub fn child(self, role: Role) -> Option<NodeRef<'t>> {
        self.children().find(|child| child.role() == role)
    }

    /// Its first child in this role, if it is of this kind itself: others are not looked through.
    #[inline]
    pub fn child_of(self, kind: Kind, role: Role) -> Option<NodeRef<'t>> {
        if self.kind() == kind { self.child(role) } else { None }
    }

    /// Its children in this role.
    #[inline]
    pub fn children_in(self, role: Role) -> impl Iterator<Item = NodeRef<'t>> {
        self.children().filter(move |child| child.role() == role)
    }

    /// All nodes below it, in pre-order.
    #[inline]
    pub fn descendants(self) -> impl DoubleEndedIterator<Item = NodeRef<'t>> {
        let tree = self.tree;
        let below = self.id().index() + 1..self.node().end as usize;
        tree.nodes[below].iter().map(move |node| NodeRef { tree, node })
    }

    /// The index just past its subtree.
    #[inline]
    pub fn end(self) -> NodeId {
        NodeId(self.node().end)
    }

    /// Whether `other` is this node or is below it.
    #[inline]
    pub fn holds(self, other: NodeId) -> bool {
        self.id() <= other && other.0 < self.node().end
    }

    /// The ids of its tokens, from the first to just past the last, whitespace between them included.
    #[inline]
    pub fn token_range(self) -> std::ops::Range<TokenId> {
        self.node().first_token..self.node().end_token
    }

    /// The kinds and ids of its own tokens and its children's, without trivia.
    pub fn significant_tokens(self) -> impl Iterator<Item = (TokenId, TokenKind)> {
        let tree = self.tree;
        self.token_range().map(move |token| (token, tree.token_kind(token))).filter(|(_, kind)| !kind.is_trivia())
    }

    /// Those of them that are before a part of it; none without that part.
    pub fn tokens_before(self, part: Option<NodeRef<'t>>) -> impl Iterator<Item = (TokenId, TokenKind)> {
        let end = part.map_or(0, |part| part.token_range().start);
        self.significant_tokens().take_while(move |(token, _)| *token < end)
    }

    /// The kind of its first token; the end of the file if it has none.
    #[inline]
    pub fn first_token_kind(self) -> TokenKind {
        let node = self.node();
        if node.first_token == node.end_token { TokenKind::EndOfFile } else { self.tree.token_kind(node.first_token) }
    }

    /// The kind of the token before it that is no trivia; the end of the file if there is none.
    pub fn kind_before(self) -> TokenKind {
        let before = (0..self.node().first_token).rev().map(|token| self.tree.token_kind(token));
        before.into_iter().find(|kind| !kind.is_trivia()).unwrap_or(TokenKind::EndOfFile)
    }

    /// The kind of the token behind it that is no trivia; the end of the file if there is none.
    pub fn kind_behind(self) -> TokenKind {
        let count = self.tree.tokens().len() as TokenId;
        let behind = (self.node().end_token..count).map(|token| self.tree.token_kind(token));
        behind.into_iter().find(|kind| !kind.is_trivia()).unwrap_or(TokenKind::EndOfFile)
    }

    /// The stretch of text it covers, without the whitespace around it.
    #[inline]
    pub fn span(self) -> Span {
        let node = self.node();
        Span::new(self.tree.token_start(node.first_token), self.tree.token_start(node.end_token))
    }

    /// The nearest function with a name that it is in.
    pub fn function_around(self) -> Option<NodeRef<'t>> {
        self.ancestors().find(|around| around.kind() == Kind::Function)
    }

    /// The class in whose body it is directly.
    #[inline]
    pub fn class_around(self) -> Option<NodeRef<'t>> {
        let class = self.parent()?.parent()?;
        matches!(class.kind(), Kind::Class | Kind::ClassExpression).then_some(class)
    }

    /// The child of the same parent before this one. Takes a step for each level of what is there.
    pub fn previous_sibling(self) -> Option<NodeRef<'t>> {
        self.parent()?.child_at(NodeId(self.id().0.checked_sub(1)?))
    }

    /// Its last child. Takes a step for each level below it at its end, not one for each child.
    pub fn last_child(self) -> Option<NodeRef<'t>> {
        self.child_at(NodeId(self.node().end - 1))
    }

    /// Its child in this role, which is among its first two or its last three: what says where a long list comes from is at an end of it.
    pub fn child_at_end(self, role: Role) -> Option<NodeRef<'t>> {
        let last = std::iter::successors(self.last_child(), |child| child.previous_sibling());
        self.children().take(2).chain(last.take(3)).find(|child| child.role() == role)
    }

    /// The child that a node below it is or lies in.
    fn child_at(self, below: NodeId) -> Option<NodeRef<'t>> {
        let around = self.id();
        let mut found = Some(NodeRef::new(self.tree, below)).filter(|_| below != around)?;
        while found.node().parent != around.0 {
            found = found.parent()?;
        }
        Some(found)
    }

    /// The next child of the same parent.
    #[inline]
    pub fn next_sibling(self) -> Option<NodeRef<'t>> {
        let parent = self.parent()?;
        let next = self.end();
        (next < parent.end()).then(|| NodeRef::new(self.tree, next))
    }
}

impl std::fmt::Debug for NodeRef<'_> {
    fn fmt(&self, out: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(out, "{}@{}", self.kind(), self.id().0)
    }
}

impl PartialEq for NodeRef<'_> {
    fn eq(&self, other: &Self) -> bool {
        std::ptr::eq(self.node, other.node)
    }
}

/// The direct children of a node.
#[derive(Clone)]
pub struct Children<'t> {
    tree: &'t Tree,
    next: u32,
    end: u32,
}

impl<'t> Iterator for Children<'t> {
    type Item = NodeRef<'t>;

    #[inline]
    fn next(&mut self) -> Option<NodeRef<'t>> {
        if self.next >= self.end {
            return None;
        }
        let node = NodeRef::new(self.tree, NodeId(self.next));
        self.next = node.node().end;
        Some(node)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_node_stays_small() {
        // Walking is a scan over this vector; at 20 bytes three nodes share a cache line.
        assert_eq!(size_of::<Node>(), 20);
    }
}
