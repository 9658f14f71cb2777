//! Whitespace in the tags of pages: none around the equals sign of an attribute.

use sieve_syntax::tree::{Kind, TokenId, TokenKind};

use super::{SpacingKind, View, Want, Wants};

pub(super) fn wants(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    match kind {
        TokenKind::Assign if view.owner(token).kind() == Kind::Attribute => {
            Wants::new(SpacingKind::Operator, Want::None, Want::None)
        }
        _ => None,
    }
}
