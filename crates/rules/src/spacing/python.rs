//! Whitespace in Python, after PEP 8, "Whitespace in Expressions and Statements" and "Other Recommendations".

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use super::{View, Want, Wants};
use crate::interface::SpacingKind;

pub(super) fn wants(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    use SpacingKind::{Bracket, Colon, Comma, Keyword, Operator};
    let owner = || view.owner(token);
    match kind {
        TokenKind::ParenOpen | TokenKind::BracketOpen => {
            let owner = owner();
            let before = if belongs_to_what_precedes(owner, token) { Want::None } else { Want::Any };
            Wants::new(Bracket, before, Want::None)
        }
        TokenKind::BraceOpen => Wants::new(Bracket, Want::Any, Want::None),
        TokenKind::ParenClose | TokenKind::BracketClose | TokenKind::BraceClose => {
            Wants::new(Bracket, Want::None, Want::Any)
        }
        TokenKind::Comma => {
            Wants::new(Comma, Want::None, if is_slice_next(view, token) { Want::Any } else { Want::One })
        }
        TokenKind::Semicolon => Wants::new(Comma, Want::None, Want::One),
        TokenKind::Colon if owner().kind() == Kind::Slice => None,
        TokenKind::Colon => Wants::new(Colon, Want::None, Want::One),
        TokenKind::ColonAssign | TokenKind::Arrow => Wants::new(Operator, Want::One, Want::One),
        TokenKind::Assign => {
            let owner = owner();
            let tight = match owner.kind() {
                Kind::KeywordArgument | Kind::KeywordPattern => true,
                Kind::Parameter => owner.child(Role::Type).is_none(),
                _ => false,
            };
            let want = if tight { Want::None } else { Want::One };
            Wants::new(Operator, want, want)
        }
        TokenKind::PlusAssign
        | TokenKind::MinusAssign
        | TokenKind::StarAssign
        | TokenKind::StarStarAssign
        | TokenKind::SlashAssign
        | TokenKind::SlashSlashAssign
        | TokenKind::PercentAssign
        | TokenKind::AtAssign
        | TokenKind::AmpersandAssign
        | TokenKind::BarAssign
        | TokenKind::CaretAssign
        | TokenKind::ShiftLeftAssign
        | TokenKind::ShiftRightAssign
        | TokenKind::Less
        | TokenKind::LessEqual
        | TokenKind::Greater
        | TokenKind::GreaterEqual
        | TokenKind::Equal
        | TokenKind::NotEqual => Wants::new(Operator, Want::One, Want::One),
        TokenKind::Plus
        | TokenKind::Minus
        | TokenKind::Star
        | TokenKind::StarStar
        | TokenKind::Slash
        | TokenKind::SlashSlash
        | TokenKind::Percent
        | TokenKind::At
        | TokenKind::Ampersand
        | TokenKind::Bar
        | TokenKind::Caret
        | TokenKind::ShiftLeft
        | TokenKind::ShiftRight => match owner().kind() {
            Kind::Binary => Wants::new(Operator, view.arithmetic, view.arithmetic),
            Kind::Unary | Kind::Spread | Kind::Decorator => Wants::new(Operator, Want::Any, Want::None),
            Kind::Parameter if next_is_name(view, token) => Wants::new(Operator, Want::Any, Want::None),
            _ => None,
        },
        TokenKind::Tilde => Wants::new(Operator, Want::Any, Want::None),
        TokenKind::Dot if owner().kind() == Kind::Member => {
            let number = view.previous_significant(token) == TokenKind::Number;
            Wants::new(Operator, if number { Want::Any } else { Want::None }, Want::None)
        }
        TokenKind::And | TokenKind::Or | TokenKind::In | TokenKind::Is | TokenKind::As => {
            Wants::new(Keyword, Want::One, Want::One)
        }
        TokenKind::If | TokenKind::For | TokenKind::Else if owner().kind() != Kind::If => {
            Wants::new(Keyword, Want::One, Want::One)
        }
        TokenKind::Not
        | TokenKind::If
        | TokenKind::Elif
        | TokenKind::While
        | TokenKind::For
        | TokenKind::With
        | TokenKind::Assert
        | TokenKind::Class
        | TokenKind::Def
        | TokenKind::Del
        | TokenKind::From
        | TokenKind::Global
        | TokenKind::Nonlocal
        | TokenKind::Import
        | TokenKind::Raise
        | TokenKind::Return
        | TokenKind::Except
        | TokenKind::Async
        | TokenKind::Await
        | TokenKind::Yield
        | TokenKind::Lambda => Wants::new(Keyword, Want::Any, after_word(view, token)),
        _ => None,
    }
}

/// A star after a word, such as in `lambda *all` or `except*`, may be close.
fn after_word(view: &View<'_>, token: TokenId) -> Want {
    let next = view.next_significant(token);
    if matches!(next, TokenKind::Star | TokenKind::StarStar | TokenKind::Dot | TokenKind::Ellipsis) {
        Want::Any
    } else {
        Want::One
    }
}

/// Brackets of calls, of parameters and of subscripts.
fn belongs_to_what_precedes(owner: NodeRef<'_>, token: TokenId) -> bool {
    match owner.kind() {
        Kind::Arguments | Kind::Parameters | Kind::TypeParameters => owner.token_range().start == token,
        Kind::Subscript => true,
        Kind::ClassPattern => true,
        _ => false,
    }
}

fn is_slice_next(view: &View<'_>, token: TokenId) -> bool {
    view.next_significant(token) == TokenKind::Colon
}

fn next_is_name(view: &View<'_>, token: TokenId) -> bool {
    view.next_significant(token) == TokenKind::Name
}
