//! Whitespace in data files. What a file has inside of its brackets is as it mostly has it.

use sieve_syntax::tree::{Kind, TokenId, TokenKind};

use super::{Bracket as Brackets, SpacingKind, View, Want, Wants, unless};

pub(super) fn wants(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    use SpacingKind::{Bracket, Colon, Comma};
    match kind {
        // The brackets of a header are a part of its name.
        TokenKind::BracketOpen | TokenKind::BracketClose if view.owner(token).kind() == Kind::Table => None,
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
        TokenKind::Colon => {
            // The name of an alias goes on with a colon; and a key that is not written, or is behind a question mark, begins its line.
            let before = view.previous_significant(token);
            let is_apart = matches!(before, TokenKind::Alias | TokenKind::Anchor | TokenKind::Tag)
                || !before.closes() && !matches!(before, TokenKind::String | TokenKind::PlainScalar);
            Wants::new(Colon, unless(Want::None, is_apart), Want::One)
        }
        _ => None,
    }
}

/// The brackets that a token is one of.
fn inside(kind: TokenKind) -> Want {
    let is_square = matches!(kind, TokenKind::BracketOpen | TokenKind::BracketClose);
    Want::Inside(if is_square { Brackets::Square } else { Brackets::Curly })
}
