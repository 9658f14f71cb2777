//! The innermost node of each token.

use sieve_syntax::tree::{Kind, NodeId, NodeRef, TokenId, TokenKind, Tree};

/// For each token the innermost node that holds it, and whether its whitespace is part of a text. Linear in the size of the tree.
pub(super) struct Owners {
    owners: Vec<NodeId>,
    held: Vec<bool>,
}

impl Owners {
    pub(super) fn of(tree: &Tree) -> Owners {
        let count = tree.tokens().len();
        let mut owners = vec![NodeId::ROOT; count];
        let mut held = vec![false; count];
        // Nodes come in the order of the text, so that each open one ends before those around it.
        let mut open = vec![tree.root()];
        let mut nodes = tree.nodes().skip(1).filter(|node| !node.token_range().is_empty()).peekable();
        let mut held_until = 0;
        for token in 0..count as TokenId {
            while open.len() > 1 && open.last().is_some_and(|node| node.token_range().end <= token) {
                open.pop();
            }
            while let Some(node) = nodes.next_if(|node| node.token_range().start <= token) {
                if is_text(node) {
                    held_until = held_until.max(node.token_range().end);
                }
                open.push(node);
            }
            owners[token as usize] = open.last().map_or(NodeId::ROOT, |node| node.id());
            held[token as usize] = token < held_until;
        }
        Owners { owners, held }
    }

    pub(super) fn owner(&self, token: TokenId) -> NodeId {
        self.owners.get(token as usize).copied().unwrap_or(NodeId::ROOT)
    }

    /// Whether the token is in a text, between tags, or in something that was not understood.
    pub(super) fn is_held(&self, token: TokenId) -> bool {
        self.held.get(token as usize).copied().unwrap_or(true)
    }
}

/// Whether whitespace within are not free, or not understood.
fn is_text(node: NodeRef<'_>) -> bool {
    let in_backquotes = || node.first_token_kind() == TokenKind::Backquote;
    let kind = node.kind();
    (kind == Kind::CommandSubstitution && in_backquotes())
        || matches!(
            kind,
            Kind::FormatString
                | Kind::TemplateString
                | Kind::TemplateType
                | Kind::Element
                | Kind::Error
                | Kind::Opaque
                | Kind::HereDocument
                | Kind::Expansion
                | Kind::Arithmetic
        )
}
