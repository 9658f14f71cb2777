//! Whitespace in shell text: only where they are free and everybody has them.

use sieve_syntax::tree::{Kind, TokenId, TokenKind};

use super::{View, Want, Wants};
use crate::interface::SpacingKind;

pub(super) fn wants(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    match kind {
        TokenKind::AndAnd | TokenKind::BarBar => match view.owner(token).kind() {
            Kind::Logical => Wants::new(SpacingKind::Operator, Want::One, Want::One),
            _ => None,
        },
        TokenKind::Bar if view.owner(token).kind() == Kind::Pipeline => {
            Wants::new(SpacingKind::Operator, Want::One, Want::One)
        }
        _ => None,
    }
}
