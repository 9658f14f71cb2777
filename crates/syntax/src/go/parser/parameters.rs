//! "Function types", "Type parameter declarations": lists of parameters, in which a name stands for a parameter or for a type.

use super::name;
use super::types::{begins_type, type_element, type_of};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Problem, Role, TokenId, TokenKind};

/// `Result = Parameters | Type`, if there is one.
pub(super) fn result(parser: &mut Parser) -> Parsed {
    if parser.at(TokenKind::ParenOpen) {
        parameters(parser, Role::Returns)
    } else if begins_type(parser.kind()) {
        type_of(parser, Role::Returns)
    } else {
        Ok(())
    }
}

/// `Parameters = "(" [ ParameterList [ "," ] ] ")"`
pub(super) fn parameters(parser: &mut Parser, role: Role) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        let is_named = parser.at(TokenKind::ParenOpen) && has_names(parser);
        parser.expect(TokenKind::ParenOpen)?;
        while !parser.at(TokenKind::ParenClose) {
            if is_named {
                named(parser)?
            } else {
                unnamed(parser)?
            }
            parser.role(Role::Parameter);
            if !parser.eat(TokenKind::Comma) {
                break;
            }
        }
        parser.expect(TokenKind::ParenClose)?;
        parser.close(mark, Kind::Parameters);
        Ok(())
    })?;
    parser.role(role);
    Ok(())
}

/// `ParameterDecl = [ IdentifierList ] [ "..." ] Type`, with names.
fn named(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    loop {
        if !parser.at(TokenKind::Name) {
            return parser.stop(MIXED);
        }
        name(parser, Role::Name)?;
        match parser.kind() {
            TokenKind::Comma => parser.bump(),
            TokenKind::ParenClose | TokenKind::Dot => return parser.stop(MIXED),
            _ => break,
        }
    }
    parameter_type(parser)?;
    parser.close(mark, Kind::Parameter);
    Ok(())
}

const MIXED: Problem = Problem::Rule("either all parameters have names, or none has");

/// The same without names.
fn unnamed(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parameter_type(parser)?;
    parser.close(mark, Kind::Parameter);
    Ok(())
}

fn parameter_type(parser: &mut Parser) -> Parsed {
    if !parser.at(TokenKind::Ellipsis) {
        return type_of(parser, Role::Type);
    }
    let mark = parser.open();
    parser.bump();
    type_of(parser, Role::Type)?;
    parser.close_as(mark, Kind::RestType, Role::Type);
    Ok(())
}

/// Whether one of the parameters in the parentheses that begin here has a name and a type.
fn has_names(parser: &Parser) -> bool {
    let mut before = TokenKind::ParenOpen;
    let mut open = 0u32;
    let mut tokens = parser.ahead().peekable();
    while let Some((token, kind)) = tokens.next() {
        match kind {
            TokenKind::EndOfFile => return false,
            kind if kind.opens() => open += 1,
            kind if kind.closes() && open == 0 => return false,
            kind if kind.closes() => open -= 1,
            TokenKind::Name if open == 0 && matches!(before, TokenKind::ParenOpen | TokenKind::Comma) => {
                let next = tokens.peek().map_or(TokenKind::EndOfFile, |(_, kind)| *kind);
                let is_named = match next {
                    TokenKind::BracketOpen => begins_array(parser, token),
                    TokenKind::Ellipsis => true,
                    kind => begins_type(kind),
                };
                if is_named {
                    return true;
                }
            }
            _ => {}
        }
        before = if open == 0 { kind } else { TokenKind::Dot };
    }
    false
}

/// Whether the brackets behind a name begin the type of what it names, `a [3]T`, and not the arguments of a type, `T[int]`.
pub(super) fn begins_array(parser: &Parser, name: TokenId) -> bool {
    let mut open = 0u32;
    let mut length = 0;
    let behind = (name + 1..).map(|token| parser.kind_or_end(token)).filter(|kind| !kind.is_trivia());
    let mut behind = behind.peekable();
    while let Some(kind) = behind.next() {
        match kind {
            TokenKind::EndOfFile => return false,
            kind if kind.opens() => open += 1,
            kind if kind.closes() => open = open.saturating_sub(1),
            _ => {}
        }
        if open == 0 {
            return length == 1 || behind.peek().is_some_and(|next| begins_type(*next));
        }
        length += 1;
    }
    false
}

/// Whether the brackets behind the name of a type hold its parameters, and not the length of an array ("Type parameter declarations"): a name
/// with what limits it, or with more names.
pub(super) fn begins_type_parameters(parser: &Parser) -> bool {
    let mut tokens = parser.ahead().map(|(_, kind)| kind);
    if tokens.next() != Some(TokenKind::Name) {
        return false;
    }
    let second = tokens.next().unwrap_or(TokenKind::EndOfFile);
    match second {
        TokenKind::Comma | TokenKind::Name | TokenKind::BracketOpen | TokenKind::InterfaceWord | TokenKind::MapWord => {
            true
        }
        TokenKind::Chan | TokenKind::Func | TokenKind::Struct | TokenKind::Tilde | TokenKind::ChannelArrow => true,
        // `P *T` may be a product, and `P (T)` a call.
        TokenKind::Star | TokenKind::ParenOpen => {
            let mut open = u32::from(second == TokenKind::ParenOpen);
            for kind in tokens {
                match kind {
                    TokenKind::EndOfFile | TokenKind::Newline => return false,
                    TokenKind::Comma if open == 0 => return true,
                    TokenKind::InterfaceWord | TokenKind::Tilde | TokenKind::MapWord | TokenKind::Chan => return true,
                    TokenKind::Struct | TokenKind::Func => return true,
                    TokenKind::BracketClose if open == 0 => return false,
                    kind if kind.opens() => open += 1,
                    kind if kind.closes() => open = open.saturating_sub(1),
                    _ => {}
                }
            }
            false
        }
        _ => false,
    }
}

/// `TypeParameters = "[" TypeParamList [ "," ] "]"`
pub(super) fn type_parameters(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::BracketClose) {
        return parser.stop_expecting("a type parameter");
    }
    while !parser.at(TokenKind::BracketClose) {
        type_parameter(parser)?;
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    parser.expect(TokenKind::BracketClose)?;
    parser.close_as(mark, Kind::TypeParameters, Role::TypeParameters);
    Ok(())
}

/// `TypeParamDecl = IdentifierList TypeConstraint`
fn type_parameter(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    name(parser, Role::Name)?;
    while parser.eat(TokenKind::Comma) {
        name(parser, Role::Name)?;
    }
    type_element(parser, Role::Bound)?;
    parser.close_as(mark, Kind::TypeParameter, Role::Parameter);
    Ok(())
}
