//! The innermost node of each token.

use sieve_syntax::tree::{Kind, NodeId, NodeRef, TokenId, TokenKind, Tree};

/// For each token the innermost node that holds it, and whether its whitespace is part of a text.
pub(super) struct Owners {
    owners: Vec<NodeId>,
    held: Vec<bool>,
}

impl Owners {
    /// Each node takes its tokens from those around it: as often as trees are deep, which parsers bound, but many tokens at once.
    /// In pages elements are all there is: what is between tags is text, what is in them is not.
    pub(super) fn of(tree: &Tree, is_page: bool) -> Owners {
        let count = tree.tokens().len();
        let mut owners = vec![NodeId::ROOT; count];
        let mut held = vec![false; count];
        for (id, node) in (0..).map(NodeId).zip(tree.nodes()) {
            let tokens = node.token_range();
            let tokens = tokens.start as usize..tokens.end as usize;
            if is_text(node) {
                held[tokens.clone()].fill(true);
            } else if is_page && node.kind() == Kind::Attribute {
                held[tokens.clone()].fill(false);
            }
            match &mut owners[tokens] {
                // Most nodes are names and literals.
                [only] => *only = id,
                all => all.fill(id),
            }
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

/// Whether whitespace within is not free, or not understood.
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
