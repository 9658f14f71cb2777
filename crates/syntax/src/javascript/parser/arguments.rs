//! Arguments of calls.

use super::{Front, expression};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// `Arguments : ( ArgumentList? )`
pub(super) fn arguments(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.expect(TokenKind::ParenOpen)?;
    let argument = |parser: &mut Front| {
        spread_or_value(parser)?;
        parser.role(Role::Argument);
        Ok(())
    };
    parser.within_brackets(|parser| parser.list(TokenKind::ParenClose, argument))?;
    parser.close_as(mark, Kind::Arguments, Role::Arguments);
    Ok(())
}

/// `... AssignmentExpression`, or `AssignmentExpression`.
pub(super) fn spread_or_value(parser: &mut Front) -> Parsed {
    if !parser.at(TokenKind::Ellipsis) {
        return expression::assignment_expression(parser);
    }
    let mark = parser.open();
    parser.bump();
    expression::assignment_expression(parser)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::Spread);
    Ok(())
}
