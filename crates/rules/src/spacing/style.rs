//! Whitespace in style sheets: a space behind a colon and a comma and none before, one before a block.

use sieve_syntax::tree::{Kind, TokenId, TokenKind};

use super::{SpacingKind, View, Want, Wants};

pub(super) fn wants(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    use SpacingKind::{Bracket, Colon, Comma};
    match kind {
        TokenKind::Comma => Wants::new(Comma, Want::None, Want::One),
        // A colon elsewhere begins the name of a pseudo-class, or is between a feature and its value.
        TokenKind::Colon if view.owner(token).kind() == Kind::StyleDeclaration => {
            Wants::new(Colon, Want::None, Want::One)
        }
        TokenKind::ParenOpen => Wants::new(Bracket, Want::Any, Want::None),
        TokenKind::ParenClose => Wants::new(Bracket, Want::None, Want::Any),
        _ => None,
    }
}
