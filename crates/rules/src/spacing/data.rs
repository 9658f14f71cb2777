//! Whitespace in JSON. What a file has inside of its brackets is as it mostly has it.

use sieve_syntax::tree::{TokenId, TokenKind};

use super::{Bracket as Brackets, SpacingKind, View, Want, Wants, unless};

pub(super) fn wants(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    use SpacingKind::{Bracket, Colon, Comma};
    match kind {
        TokenKind::BracketOpen | TokenKind::BraceOpen => {
            let closes_next = view.next_significant(token).closes();
            Wants::new(Bracket, Want::Any, unless(inside(kind), closes_next))
        }
        TokenKind::BracketClose | TokenKind::BraceClose => {
            let opened_before = view.previous_significant(token).opens();
            Wants::new(Bracket, unless(inside(kind), opened_before), Want::Any)
        }
        TokenKind::Comma => {
            let closes_next = view.next_significant(token).closes();
            Wants::new(Comma, Want::None, unless(Want::One, closes_next))
        }
        TokenKind::Colon => Wants::new(Colon, Want::None, Want::One),
        _ => None,
    }
}

/// The brackets that a token is one of.
fn inside(kind: TokenKind) -> Want {
    let is_square = matches!(kind, TokenKind::BracketOpen | TokenKind::BracketClose);
    Want::Inside(if is_square { Brackets::Square } else { Brackets::Curly })
}
