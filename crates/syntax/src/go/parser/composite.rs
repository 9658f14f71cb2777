//! "Composite literals".

use super::expression::{Braces, expression};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Role, TokenKind};

/// `LiteralValue = "{" [ ElementList [ "," ] ] "}"`, whose elements belong to the literal that is open.
pub(super) fn literal_value(parser: &mut Parser) -> Parsed {
    parser.expect(TokenKind::BraceOpen)?;
    while !parser.at(TokenKind::BraceClose) {
        keyed_element(parser)?;
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    parser.expect(TokenKind::BraceClose)
}

/// `KeyedElement = [ Key ":" ] Element`
fn keyed_element(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    element(parser, Role::Element)?;
    if parser.at(TokenKind::Colon) {
        parser.role(Role::Key);
        parser.bump();
        element(parser, Role::Value)?;
        parser.close_as(mark, Kind::Pair, Role::Element);
    }
    Ok(())
}

/// `Element = Expression | LiteralValue`
fn element(parser: &mut Parser, role: Role) -> Parsed {
    if !parser.at(TokenKind::BraceOpen) {
        return expression(parser, role, Braces::Literal);
    }
    parser.nested(|parser| {
        let mark = parser.open();
        literal_value(parser)?;
        parser.close(mark, Kind::Composite);
        Ok(())
    })?;
    parser.role(role);
    Ok(())
}
