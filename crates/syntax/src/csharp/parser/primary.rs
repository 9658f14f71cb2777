//! "Primary expressions": the operands alone.

use super::{Front, control, creation, expression, lambda, listed, name, string, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// `primary_no_array_creation_expression`, without what is behind it.
pub(super) fn operand(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::Name => parser.leaf(Kind::Name, Role::Part),
        TokenKind::Number => parser.leaf(Kind::Number, Role::Part),
        TokenKind::String => parser.leaf(Kind::String, Role::Part),
        TokenKind::Character => parser.leaf(Kind::Character, Role::Part),
        TokenKind::TrueWord | TokenKind::FalseWord => parser.leaf(Kind::Boolean, Role::Part),
        TokenKind::NullWord => parser.leaf(Kind::Null, Role::Part),
        TokenKind::This => parser.leaf(Kind::This, Role::Part),
        TokenKind::Super => {
            if !matches!(parser.next_kind(), TokenKind::Dot | TokenKind::BracketOpen) {
                return parser.stop_expecting("a value");
            }
            parser.leaf(Kind::Super, Role::Part);
        }
        TokenKind::PrimitiveType => {
            if parser.next_kind() != TokenKind::Dot {
                return parser.stop_expecting("a value");
            }
            parser.leaf(Kind::PredefinedType, Role::Part);
        }
        TokenKind::FormatStart => return string::interpolated(parser),
        TokenKind::ParenOpen => return group_or_tuple(parser),
        TokenKind::BracketOpen => return collection(parser),
        TokenKind::New => return creation::creation(parser),
        TokenKind::Stackalloc => return creation::on_stack(parser),
        TokenKind::Typeof | TokenKind::Sizeof => return type_question(parser),
        TokenKind::Default => {
            if parser.next_kind() == TokenKind::ParenOpen {
                return type_question(parser);
            }
            parser.leaf(Kind::TypeQuestion, Role::Part);
        }
        TokenKind::Checked => {
            let mark = parser.open();
            parser.bump();
            let group = parser.open();
            control::parenthesized(parser, Role::Value)?;
            parser.close_as(group, Kind::Group, Role::Operand);
            parser.close(mark, Kind::Unary);
        }
        TokenKind::Delegate => return lambda::anonymous(parser),
        _ => return parser.stop_expecting("a value"),
    }
    Ok(())
}

/// `typeof_expression`, `sizeof_expression`, `default_value_expression`
fn type_question(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::ParenOpen)?;
    types::or_void(parser, Role::Type)?;
    parser.expect(TokenKind::ParenClose)?;
    super::done(parser, mark, Kind::TypeQuestion)
}

/// `parenthesized_expression`, `tuple_expression`
pub(super) fn group_or_tuple(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    super::in_brackets(parser, |parser| part_of_tuple(parser, &[TokenKind::Comma]))?;
    let is_named = parser.last_since(mark).is_some_and(|node| node.kind() == Kind::KeywordArgument);
    if !parser.at(TokenKind::Comma) && !is_named {
        parser.role(Role::Value);
        parser.expect(TokenKind::ParenClose)?;
        return super::done(parser, mark, Kind::Group);
    }
    super::in_brackets(parser, |parser| {
        while parser.eat(TokenKind::Comma) {
            part_of_tuple(parser, &[TokenKind::Comma, TokenKind::ParenClose])?;
        }
        Ok(())
    })?;
    parser.expect(TokenKind::ParenClose)?;
    super::done(parser, mark, Kind::Tuple)
}

/// `tuple_element: (identifier ':')? expression`; a variable may be declared where one of these tokens is behind it.
fn part_of_tuple(parser: &mut Front, ends: &[TokenKind]) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::Name) && parser.next_kind() == TokenKind::Colon {
        name(parser, Role::Name)?;
        parser.bump();
        expression::expression(parser, Role::Value)?;
        parser.close(mark, Kind::KeywordArgument);
    } else if expression::begins_declaration(parser, ends) {
        expression::declaration(parser)?;
    } else {
        expression::expression(parser, Role::Element)?;
    }
    parser.role(Role::Element);
    Ok(())
}

/// `collection_expression: '[' (element (',' element)* ','?)? ']'`
fn collection(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    listed(parser, TokenKind::BracketClose, |parser| {
        let mark = parser.open();
        if !parser.eat(TokenKind::DotDot) {
            return expression::expression(parser, Role::Element);
        }
        expression::expression(parser, Role::Value)?;
        parser.close_as(mark, Kind::Spread, Role::Element);
        Ok(())
    })?;
    super::done(parser, mark, Kind::List)
}
