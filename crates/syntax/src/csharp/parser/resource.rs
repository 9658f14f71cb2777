//! "The lock statement", "The using statement", "The fixed statement".

use super::expression::expression;
use super::{Front, ahead, statement, variable};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// Whether `using` here is a statement, and imports nothing: something is declared or given in parentheses.
pub(super) fn begins(parser: &mut Front) -> bool {
    let next = parser.next_token();
    match next.1 {
        TokenKind::ParenOpen => true,
        TokenKind::Name | TokenKind::PrimitiveType => {
            ahead::behind_type(parser, next).is_some_and(|behind| behind.1 == TokenKind::Name)
        }
        _ => false,
    }
}

/// `lock_statement`
pub(super) fn lock(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::ParenOpen)?;
    let item = parser.open();
    expression(parser, Role::Value)?;
    parser.close_as(item, Kind::WithItem, Role::Item);
    parser.expect(TokenKind::ParenClose)?;
    statement::embedded(parser, Role::Body)?;
    super::done(parser, mark, Kind::With)
}

/// `using_statement: 'await'? 'using' '(' resource ')' embedded_statement`, or a declaration of variables with these words before it.
pub(super) fn using(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::Name) {
        parser.bump();
    }
    parser.bump();
    if parser.at(TokenKind::ParenOpen) {
        // A tuple may be the type of a variable.
        let here = parser.current();
        let declares = ahead::behind_type(parser, here).is_some_and(|behind| behind.1 == TokenKind::Name);
        if !declares {
            return managed(parser, mark);
        }
    }
    variable::statement(parser, mark)
}

fn managed(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    let item = parser.open();
    if declares(parser) {
        variable::declaration(parser, item)?;
        parser.role(Role::Item);
    } else {
        expression(parser, Role::Value)?;
        parser.close_as(item, Kind::WithItem, Role::Item);
    }
    parser.expect(TokenKind::ParenClose)?;
    statement::embedded(parser, Role::Body)?;
    super::done(parser, mark, Kind::With)
}

/// A type, a name, and a value: a question mark may belong to the type, or ask.
fn declares(parser: &mut Front) -> bool {
    let here = parser.current();
    let Some(name) = ahead::behind_type(parser, here) else { return false };
    name.1 == TokenKind::Name && parser.token_after(name.0).1 == TokenKind::Assign
}

/// `fixed_statement: 'fixed' '(' pointer_type declarators ')' embedded_statement`
pub(super) fn fixed(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::ParenOpen)?;
    let item = parser.open();
    variable::declaration(parser, item)?;
    parser.role(Role::Item);
    parser.expect(TokenKind::ParenClose)?;
    statement::embedded(parser, Role::Body)?;
    super::done(parser, mark, Kind::With)
}
