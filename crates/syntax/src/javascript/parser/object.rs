//! "Array Initializer" and "Object Initializer".

use super::function::{self, Sort};
use super::{Front, arguments, expression, name};
use crate::parse::Parsed;
use crate::text::Span;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `ArrayLiteral`; elements may be left out.
pub(super) fn array_literal(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.within_brackets(|parser| {
        while !parser.at(TokenKind::BracketClose) {
            if parser.eat(TokenKind::Comma) {
                continue;
            }
            arguments::spread_or_value(parser)?;
            parser.role(Role::Element);
            if !parser.at(TokenKind::BracketClose) {
                parser.expect(TokenKind::Comma)?;
            }
        }
        Ok(())
    })?;
    parser.bump();
    parser.close(mark, Kind::List);
    Ok(())
}

/// `ObjectLiteral`
pub(super) fn object_literal(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let property = |parser: &mut Front| {
        property_definition(parser)?;
        parser.role(Role::Element);
        Ok(())
    };
    parser.within_brackets(|parser| parser.list(TokenKind::BraceClose, property))?;
    parser.close(mark, Kind::Dictionary);
    Ok(())
}

/// `PropertyDefinition`
fn property_definition(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Ellipsis) {
        return arguments::spread_or_value(parser);
    }
    let mark = parser.open();
    if at_method_word(parser) {
        let is_async = parser.text() == "async";
        parser.bump();
        let is_generator = parser.eat(TokenKind::Star);
        return method(parser, mark, Sort { is_async, is_generator, ..Sort::default() });
    }
    if parser.eat(TokenKind::Star) {
        return method(parser, mark, Sort { is_generator: true, ..Sort::default() });
    }
    let shorthand = name::is_identifier(parser.kind())
        && matches!(parser.next_kind(), TokenKind::Comma | TokenKind::BraceClose | TokenKind::Assign);
    if shorthand {
        return shorthand_pair(parser, mark);
    }
    name::property_name(parser, Kind::PropertyName, Role::Key)?;
    if parser.has_types() && matches!(parser.kind(), TokenKind::Question | TokenKind::Exclamation) {
        // Refused later by the compiler of the types.
        parser.bump();
    }
    if matches!(parser.kind(), TokenKind::ParenOpen | TokenKind::Less) {
        parser.role(Role::Name);
        return method_behind_name(parser, mark, Sort::default());
    }
    parser.expect(TokenKind::Colon)?;
    expression::assignment_expression(parser)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::Pair);
    Ok(())
}

/// Whether `get`, `set` or `async` is before the name of a method.
fn at_method_word(parser: &mut Front) -> bool {
    if !parser.at(TokenKind::Name) || !matches!(parser.text(), "get" | "set" | "async") {
        return false;
    }
    let is_async = parser.text() == "async";
    let next = parser.next_kind();
    let named = name::begins_property_name(next) || (is_async && next == TokenKind::Star);
    named && !(is_async && parser.next_is_on_new_line())
}

/// `IdentifierReference`, `CoverInitializedName`
fn shorthand_pair(parser: &mut Front, mark: Mark) -> Parsed {
    parser.leaf(Kind::Name, Role::Name);
    if parser.at(TokenKind::Assign) {
        let assign = parser.token_span(parser.position());
        parser.bump();
        let covers = parser.own.covers.len();
        expression::assignment_expression(parser)?;
        parser.role(Role::Default);
        parser.own.covers.insert(covers, Span::new(assign.start, assign.end));
    }
    parser.close(mark, Kind::ShorthandPair);
    Ok(())
}

/// `MethodDefinition`, from its name on.
fn method(parser: &mut Front, mark: Mark, sort: Sort) -> Parsed {
    name::property_name(parser, Kind::PropertyName, Role::Name)?;
    method_behind_name(parser, mark, sort)
}

fn method_behind_name(parser: &mut Front, mark: Mark, sort: Sort) -> Parsed {
    if !matches!(parser.kind(), TokenKind::ParenOpen | TokenKind::Less) {
        return parser.stop_expecting("'('");
    }
    function::signature_and_body(parser, Sort { is_method: true, ..sort })?;
    parser.close(mark, Kind::Function);
    Ok(())
}
