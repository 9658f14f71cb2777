//! Whitespace in infrastructure files: a space after a comma and none before, one around operators and before a block. What is before the
//! equals sign of an assignment may be there so that several are below each other.

use sieve_syntax::tree::{Kind, TokenId, TokenKind};

use super::{Bracket as Brackets, SpacingKind, View, Want, Wants, is_arithmetic, unless};

pub(super) fn wants(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    use SpacingKind::{Bracket, Colon, Comma, Operator};
    let owner = || view.owner(token).kind();
    let around = Wants::new(Operator, Want::One, Want::One);
    match kind {
        TokenKind::Comma => Wants::new(Comma, Want::None, unless(Want::One, view.next_significant(token).closes())),
        TokenKind::Assign if matches!(owner(), Kind::Assignment | Kind::Pair) => {
            let is_close = matches!(view.file.tree.token_kind(token.saturating_sub(1)), TokenKind::Blank);
            Wants::new(Operator, unless(Want::One, is_close), Want::One)
        }
        TokenKind::Equal
        | TokenKind::NotEqual
        | TokenKind::LessEqual
        | TokenKind::GreaterEqual
        | TokenKind::Less
        | TokenKind::Greater
        | TokenKind::AndAnd
        | TokenKind::BarBar
        | TokenKind::FatArrow => around,
        TokenKind::Question | TokenKind::Colon if owner() == Kind::Conditional => around,
        // A pair may have a colon in place of the equals sign, with a space before it or none.
        TokenKind::Colon if owner() == Kind::Pair => Wants::new(Colon, Want::Any, Want::One),
        _ if is_arithmetic(kind) && owner() == Kind::Binary => Wants::new(Operator, view.arithmetic, view.arithmetic),
        TokenKind::BraceOpen | TokenKind::BracketOpen | TokenKind::ParenOpen => {
            let is_empty = view.next_significant(token).closes();
            Wants::new(Bracket, unless(Want::One, owner() != Kind::Block), unless(inside(kind), is_empty))
        }
        TokenKind::BraceClose | TokenKind::BracketClose | TokenKind::ParenClose => {
            let is_empty = view.previous_significant(token).opens();
            Wants::new(Bracket, unless(inside(kind), is_empty), Want::Any)
        }
        _ => None,
    }
}

/// What a bracket wants inside.
fn inside(kind: TokenKind) -> Want {
    match kind {
        TokenKind::ParenOpen | TokenKind::ParenClose => Want::Inside(Brackets::Round),
        TokenKind::BracketOpen | TokenKind::BracketClose => Want::Inside(Brackets::Square),
        _ => Want::One,
    }
}
