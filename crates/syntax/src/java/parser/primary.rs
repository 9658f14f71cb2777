//! "Primary Expressions".

use super::{Front, ahead, creation, expression, name, switch, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `Primary`, or a name, with what is behind it.
pub(super) fn primary(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::PrimitiveType) || parser.at(TokenKind::Void) || begins_type(parser) {
        type_with_member(parser)?;
    } else {
        operand(parser)?;
    }
    suffixes(parser, mark)
}

fn operand(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::Name => parser.leaf(Kind::Name, Role::Part),
        TokenKind::Number => parser.leaf(Kind::Number, Role::Part),
        TokenKind::String => parser.leaf(Kind::String, Role::Part),
        TokenKind::Character => parser.leaf(Kind::Character, Role::Part),
        TokenKind::TrueWord | TokenKind::FalseWord => parser.leaf(Kind::Boolean, Role::Part),
        TokenKind::NullWord => parser.leaf(Kind::Null, Role::Part),
        TokenKind::This => parser.leaf(Kind::This, Role::Part),
        TokenKind::Super => {
            if !matches!(parser.next_kind(), TokenKind::Dot | TokenKind::ColonColon | TokenKind::ParenOpen) {
                return parser.stop_expecting("a value");
            }
            parser.leaf(Kind::Super, Role::Part);
        }
        TokenKind::ParenOpen => {
            let mark = parser.open();
            parser.bump();
            super::in_brackets(parser, |parser| expression::expression(parser, Role::Value))?;
            parser.expect(TokenKind::ParenClose)?;
            parser.close(mark, Kind::Group);
        }
        TokenKind::New => return creation::creation(parser),
        TokenKind::Switch => return switch::switch(parser),
        _ => return parser.stop_expecting("a value"),
    }
    Ok(())
}

/// Whether a name begins a type of which the class or a function is asked: `List<Quay>::new`, `Quay[].class`.
fn begins_type(parser: &mut Front) -> bool {
    if !parser.at(TokenKind::Name) && !parser.at(TokenKind::At) {
        return false;
    }
    let mut token = parser.token_after(parser.position());
    while token.1 == TokenKind::Dot {
        let behind = parser.token_after(token.0);
        if behind.1 != TokenKind::Name {
            return false;
        }
        token = parser.token_after(behind.0);
    }
    let is_generic = match token.1 {
        TokenKind::Less => true,
        TokenKind::BracketOpen => parser.token_after(token.0).1 == TokenKind::BracketClose,
        _ => false,
    };
    if !is_generic {
        return false;
    }
    let here = parser.current();
    match ahead::behind_type(parser, here) {
        Some((_, TokenKind::ColonColon)) => true,
        Some((dot, TokenKind::Dot)) => parser.token_after(dot).1 == TokenKind::Class,
        _ => false,
    }
}

/// A type, with `.class` or `::` behind it.
fn type_with_member(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Void) {
        parser.leaf(Kind::PredefinedType, Role::Part);
    } else {
        types::type_of(parser, Role::Part)?;
    }
    let asks_for_class = parser.at(TokenKind::Dot) && parser.next_kind() == TokenKind::Class;
    if !asks_for_class && !parser.at(TokenKind::ColonColon) {
        return parser.stop_expecting("'.class' or '::'");
    }
    Ok(())
}

/// What is behind an operand that began at `mark`.
fn suffixes(parser: &mut Front, mark: Mark) -> Parsed {
    loop {
        match parser.kind() {
            TokenKind::Dot => member(parser, mark)?,
            TokenKind::ParenOpen if takes_arguments(parser, mark) => {
                parser.role(Role::Callee);
                creation::arguments(parser)?;
                parser.close(mark, Kind::Call);
            }
            TokenKind::BracketOpen => {
                parser.role(Role::Object);
                parser.bump();
                expression::expression(parser, Role::Index)?;
                parser.expect(TokenKind::BracketClose)?;
                parser.close(mark, Kind::Subscript);
            }
            TokenKind::ColonColon => return method_reference(parser, mark),
            _ => return Ok(()),
        }
    }
}

/// Only a name, `this` and `super` are called.
fn takes_arguments(parser: &Front, mark: Mark) -> bool {
    let last = parser.taken_kind();
    let is_member = parser.last_since(mark).is_some_and(|node| node.kind() == Kind::Member);
    if is_member && matches!(last, TokenKind::Class | TokenKind::This) {
        return false;
    }
    parser
        .last_since(mark)
        .is_some_and(|node| matches!(node.kind(), Kind::Name | Kind::Member | Kind::This | Kind::Super))
}

/// `. Identifier`, `. this`, `. super`, `. class`, `. new …`, `. <…> Identifier`
fn member(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Object);
    parser.bump();
    match parser.kind() {
        TokenKind::New => {
            creation::inner_creation(parser, mark)?;
            return Ok(());
        }
        TokenKind::Less => {
            types::arguments(parser)?;
            match parser.kind() {
                TokenKind::Super => parser.leaf(Kind::Super, Role::Name),
                TokenKind::This => parser.leaf(Kind::This, Role::Name),
                _ => name(parser, Role::Name)?,
            }
            if !parser.at(TokenKind::ParenOpen) {
                return parser.expect(TokenKind::ParenOpen);
            }
        }
        TokenKind::This => {
            let names = |kind: Kind| matches!(kind, Kind::Name | Kind::Member);
            if !parser.last_since(mark).is_some_and(|node| names(node.kind())) {
                return parser.stop_expecting("a name");
            }
            parser.leaf(Kind::This, Role::Name);
        }
        TokenKind::Super => {
            if !matches!(parser.next_kind(), TokenKind::Dot | TokenKind::ColonColon | TokenKind::ParenOpen) {
                return parser.stop_expecting("a value");
            }
            parser.leaf(Kind::Super, Role::Name);
        }
        TokenKind::Class => {
            let is_value = |kind: Kind| matches!(kind, Kind::This | Kind::Super | Kind::Group | Kind::Call | Kind::New);
            if parser.last_since(mark).is_some_and(|node| is_value(node.kind())) {
                return parser.stop_expecting("a name");
            }
            parser.leaf(Kind::Name, Role::Name);
        }
        _ => name(parser, Role::Name)?,
    }
    parser.close(mark, Kind::Member);
    Ok(())
}

/// `MethodReference`: `::`, perhaps with arguments of types, and a name or `new`.
fn method_reference(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Object);
    parser.bump();
    if parser.at(TokenKind::Less) {
        types::arguments(parser)?;
    }
    if parser.at(TokenKind::New) {
        parser.leaf(Kind::Name, Role::Name);
    } else {
        name(parser, Role::Name)?;
    }
    parser.close(mark, Kind::Path);
    Ok(())
}
