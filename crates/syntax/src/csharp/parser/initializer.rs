//! "Object initializers", "Collection initializers", "Anonymous object creation expressions".

use super::{Front, argument, expression, listed, name};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// Members or elements in braces.
pub(super) fn members(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.expect(TokenKind::BraceOpen)?;
        listed(parser, TokenKind::BraceClose, element)?;
        super::done(parser, mark, Kind::Composite)
    })
}

/// `name = value`, `[key] = value`, values in braces for one element, or a value.
fn element(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    match parser.kind() {
        TokenKind::Name if parser.next_kind() == TokenKind::Assign => {
            name(parser, Role::Name)?;
            parser.bump();
            value(parser, Role::Value)?;
            parser.close(mark, Kind::KeywordArgument);
        }
        TokenKind::BracketOpen if sets_element(parser) => {
            argument::bracketed(parser, TokenKind::BracketClose)?;
            parser.role(Role::Key);
            parser.expect(TokenKind::Assign)?;
            value(parser, Role::Value)?;
            parser.close(mark, Kind::Pair);
        }
        _ => value(parser, Role::Element)?,
    }
    parser.role(Role::Element);
    Ok(())
}

fn sets_element(parser: &mut Front) -> bool {
    let here = parser.current();
    super::ahead::behind_brackets(parser, here).1 == TokenKind::Assign
}

/// A value, or members or elements in braces.
fn value(parser: &mut Front, role: Role) -> Parsed {
    if !parser.at(TokenKind::BraceOpen) {
        return expression::expression(parser, role);
    }
    members(parser)?;
    parser.role(role);
    Ok(())
}
