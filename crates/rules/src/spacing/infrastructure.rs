//! Whitespace in infrastructure files: a space behind a comma and none before, one around operators.

use sieve_syntax::tree::{TokenId, TokenKind};

use super::{SpacingKind, View, Want, Wants};

pub(super) fn wants(_view: &View<'_>, _token: TokenId, kind: TokenKind) -> Option<Wants> {
    match kind {
        TokenKind::Comma => Wants::new(SpacingKind::Comma, Want::None, Want::One),
        _ => None,
    }
}
