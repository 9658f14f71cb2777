//! "Closure expressions".

use super::expression::Braces;
use super::{Front, attribute, bound, expression, pattern, split, statement, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// Whether a closure begins here, at a word or a bar that may begin one.
pub(super) fn begins(parser: &mut Front) -> bool {
    match parser.kind() {
        TokenKind::Bar | TokenKind::BarBar | TokenKind::Move | TokenKind::StaticWord => true,
        TokenKind::For => parser.next_kind() == TokenKind::Less && follows_lifetimes(parser),
        TokenKind::Async => {
            let (word, kind) = parser.next_token();
            let kind = if kind == TokenKind::Move { parser.token_after(word).1 } else { kind };
            matches!(kind, TokenKind::Bar | TokenKind::BarBar)
        }
        _ => false,
    }
}

/// Whether what is behind `for <` is a list of lifetimes, and not a path that a loop takes apart.
fn follows_lifetimes(parser: &mut Front) -> bool {
    let less = parser.next_token().0;
    matches!(parser.token_after(less).1, TokenKind::Lifetime | TokenKind::Greater)
}

/// `ClosureExpression : ForLifetimes? static? async? move? ( || | | ClosureParameters? | ) ( Expression | -> TypeNoBounds BlockExpression )`
pub(super) fn closure(parser: &mut Front, braces: Braces) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::For) {
        bound::for_lifetimes(parser)?;
    }
    for word in [TokenKind::StaticWord, TokenKind::Async, TokenKind::Move] {
        parser.eat(word);
    }
    parameters(parser)?;
    if parser.eat(TokenKind::Arrow) {
        types::type_without_bounds(parser, Role::Returns)?;
        statement::block(parser, Role::Body)?;
    } else {
        expression::expression_before(parser, Role::Body, braces)?;
    }
    parser.close(mark, Kind::Lambda);
    Ok(())
}

fn parameters(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if !parser.eat(TokenKind::BarBar) {
        parser.expect(TokenKind::Bar)?;
        split(parser, TokenKind::BarBar);
        while !parser.at(TokenKind::Bar) {
            parameter(parser)?;
            split(parser, TokenKind::BarBar);
            if !parser.eat(TokenKind::Comma) {
                break;
            }
        }
        parser.expect(TokenKind::Bar)?;
    }
    parser.close_as(mark, Kind::Parameters, Role::Parameters);
    Ok(())
}

/// `ClosureParam : OuterAttribute* PatternNoTopAlt ( : Type )?`
fn parameter(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    attribute::outer_attributes(parser)?;
    let inner = parser.open();
    pattern::single(parser, Role::Pattern)?;
    if parser.last_since(inner).is_some_and(|node| node.kind() == Kind::Name) {
        parser.role(Role::Name);
    }
    if parser.eat(TokenKind::Colon) {
        types::type_of(parser, Role::Type)?;
    }
    parser.close_as(mark, Kind::Parameter, Role::Parameter);
    Ok(())
}
