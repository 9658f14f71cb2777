//! Whitespace in style sheets: none before a colon, a comma and a semicolon. After a colon and a comma, before a block and within it there
//! is what the file mostly has: no published style is common to all sheets, and programs write many of them.

use sieve_syntax::tree::{Kind, TokenId, TokenKind};

use super::{Bracket as Brackets, Mark, SpacingKind, View, Want, Wants, unless};

pub(super) fn wants(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    use SpacingKind::{Bracket, Colon, Comma, Operator};
    let owner = || view.owner(token).kind();
    match kind {
        // What is behind the last comma of `var(--tide,)` is empty, and means something.
        TokenKind::Comma => {
            let is_last = view.next_significant(token).closes();
            Wants::new(Comma, Want::None, unless(Want::After(Mark::Comma), is_last))
        }
        // A custom property whose value is empty may be written as `--tide:;` or with a space.
        TokenKind::Semicolon => {
            let is_apart = view.previous_significant(token) == TokenKind::Colon;
            let is_last = view.next_significant(token) == TokenKind::BraceClose;
            Wants::new(Comma, unless(Want::None, is_apart), unless(Want::One, is_last))
        }
        // A colon elsewhere begins the name of a pseudo-class.
        TokenKind::Colon if matches!(owner(), Kind::StyleDeclaration | Kind::Group) => {
            let is_last = view.next_significant(token) == TokenKind::Semicolon || is_pseudo_class(view, token);
            Wants::new(Colon, Want::None, unless(Want::After(Mark::Colon), is_last))
        }
        TokenKind::Greater if owner() == Kind::Selector => Wants::new(Operator, Want::Even, Want::Even),
        TokenKind::ParenOpen => Wants::new(Bracket, Want::Any, inside(view.next_significant(token))),
        TokenKind::ParenClose => Wants::new(Bracket, inside(view.previous_significant(token)), Want::Any),
        TokenKind::BraceOpen if owner() == Kind::Block => {
            let is_empty = view.next_significant(token) == TokenKind::BraceClose;
            Wants::new(Bracket, Want::Before(Brackets::Block), unless(Want::Inside(Brackets::Block), is_empty))
        }
        TokenKind::BraceClose if owner() == Kind::Block => {
            let is_empty = view.previous_significant(token) == TokenKind::BraceOpen;
            Wants::new(Bracket, unless(Want::Inside(Brackets::Block), is_empty), Want::Any)
        }
        _ => None,
    }
}

/// What a parenthesis wants inside, beside such a token: empty ones are as they are.
fn inside(beside: TokenKind) -> Want {
    unless(Want::None, beside.opens() || beside.closes())
}

/// Whether a colon in a group begins a selector and not a value: nothing that could have one is before it.
fn is_pseudo_class(view: &View<'_>, colon: TokenId) -> bool {
    view.previous_significant(colon) != TokenKind::Name
}
