//! "The new operator", "Stack allocation", "Array initializers".

use super::types::{self, Question};
use super::{Front, argument, expression, initializer, listed};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `object_creation_expression`, `array_creation_expression`, `anonymous_object_creation_expression`
pub(super) fn creation(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    match parser.kind() {
        // Its type is that of what is in it.
        TokenKind::BracketOpen => {
            types::rank(parser)?;
            return array_values_of(parser, mark);
        }
        TokenKind::BraceOpen => {
            initializer::members(parser)?;
            parser.role(Role::Value);
            return super::done(parser, mark, Kind::New);
        }
        // Its type is that of the variable it goes to, unless it is an array of tuples.
        TokenKind::ParenOpen if !begins_tuple_array(parser) => return object(parser, mark),
        _ => {}
    }
    types::element(parser, Question::Belongs)?;
    if parser.at(TokenKind::BracketOpen) {
        parser.role(Role::Type);
        return array(parser, mark);
    }
    parser.role(Role::Callee);
    object(parser, mark)
}

fn begins_tuple_array(parser: &mut Front) -> bool {
    let here = parser.current();
    let behind = super::ahead::behind_tuple(parser, here);
    behind.is_some_and(|behind| matches!(behind.1, TokenKind::BracketOpen | TokenKind::Question))
}

/// `argument_list? object_or_collection_initializer?`, one at least.
fn object(parser: &mut Front, mark: Mark) -> Parsed {
    let has_arguments = parser.at(TokenKind::ParenOpen);
    if has_arguments {
        argument::arguments(parser)?;
    }
    if parser.at(TokenKind::BraceOpen) {
        initializer::members(parser)?;
        parser.role(Role::Value);
    } else if !has_arguments {
        return parser.stop_expecting("'(', '{' or '['");
    }
    super::done(parser, mark, Kind::New)
}

/// Sizes and ranks of an array, from the first bracket on, perhaps with values.
fn array(parser: &mut Front, mark: Mark) -> Parsed {
    let is_sized = !super::ahead::is_rank(parser);
    if is_sized {
        argument::indices(parser)?;
    }
    while parser.at(TokenKind::BracketOpen) && super::ahead::is_rank(parser) {
        types::rank(parser)?;
        while matches!(parser.kind(), TokenKind::Question | TokenKind::Star)
            && parser.next_kind() == TokenKind::BracketOpen
        {
            parser.bump();
        }
    }
    if parser.at(TokenKind::BraceOpen) {
        return array_values_of(parser, mark);
    }
    if !is_sized {
        return parser.stop_expecting("the values of the array");
    }
    super::done(parser, mark, Kind::New)
}

fn array_values_of(parser: &mut Front, mark: Mark) -> Parsed {
    array_values(parser)?;
    parser.role(Role::Value);
    super::done(parser, mark, Kind::New)
}

/// `'stackalloc' (type '[' expression? ']' | '[' ']') array_initializer?`
pub(super) fn on_stack(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::BracketOpen) {
        types::rank(parser)?;
        return array_values_of(parser, mark);
    }
    types::element(parser, Question::Belongs)?;
    parser.role(Role::Type);
    if !parser.at(TokenKind::BracketOpen) {
        return parser.expect(TokenKind::BracketOpen);
    }
    array(parser, mark)
}

/// A value, or the values of an array in braces.
pub(super) fn value_or_array(parser: &mut Front, role: Role) -> Parsed {
    if !parser.at(TokenKind::BraceOpen) {
        return expression::expression(parser, role);
    }
    parser.nested(array_values)?;
    parser.role(role);
    Ok(())
}

/// `array_initializer: '{' (variable_initializer (',' variable_initializer)* ','?)? '}'`
fn array_values(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.expect(TokenKind::BraceOpen)?;
    listed(parser, TokenKind::BraceClose, |parser| value_or_array(parser, Role::Element))?;
    super::done(parser, mark, Kind::List)
}
