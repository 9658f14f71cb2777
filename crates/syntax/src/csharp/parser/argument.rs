//! "Argument lists".

use super::{Front, expression, listed, name};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// `'(' argument_list? ')'`
pub(super) fn arguments(parser: &mut Front) -> Parsed {
    bracketed(parser, TokenKind::ParenClose)
}

/// Arguments in brackets that end with this one.
pub(super) fn bracketed(parser: &mut Front, close: TokenKind) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !parser.at(close) {
        super::in_brackets(parser, |parser| super::separated(parser, argument))?;
    }
    parser.expect(close)?;
    parser.close_as(mark, Kind::Arguments, Role::Arguments);
    Ok(())
}

/// The index of an element, or several.
pub(super) fn indices(parser: &mut Front) -> Parsed {
    parser.bump();
    if parser.at(TokenKind::BracketClose) {
        return parser.stop_expecting("a value");
    }
    listed(parser, TokenKind::BracketClose, |parser| {
        argument(parser)?;
        parser.role(Role::Index);
        Ok(())
    })
}

/// `argument: (identifier ':')? ('in' | 'ref' | 'out')? expression`
pub(super) fn argument(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let is_named = parser.at(TokenKind::Name) && parser.next_kind() == TokenKind::Colon;
    if is_named {
        name(parser, Role::Name)?;
        parser.bump();
    }
    value(parser)?;
    parser.role(if is_named { Role::Value } else { Role::Argument });
    if is_named {
        parser.close_as(mark, Kind::KeywordArgument, Role::Argument);
    }
    Ok(())
}

/// What is behind an argument.
const ENDS: &[TokenKind] = &[TokenKind::Comma, TokenKind::ParenClose, TokenKind::BracketClose];

/// A value, perhaps one that is given by its place.
fn value(parser: &mut Front) -> Parsed {
    if !matches!(parser.kind(), TokenKind::In | TokenKind::Out | TokenKind::Ref) {
        return expression::expression(parser, Role::Part);
    }
    let mark = parser.open();
    let declares = parser.at(TokenKind::Out);
    parser.bump();
    if declares && expression::begins_declaration(parser, ENDS) {
        expression::declaration(parser)?;
    } else {
        expression::expression(parser, Role::Part)?;
    }
    parser.role(Role::Operand);
    super::done(parser, mark, Kind::Unary)
}
