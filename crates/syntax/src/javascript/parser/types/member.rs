//! The members of types of objects: fields, methods, signatures, and types made by going over keys.

use super::super::function::{self, Sort};
use super::super::{Front, class, name, statement};
use super::{allowing_conditions, any_type, opt_annotation, opt_return_type, opt_type_parameters};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `{ a: T; b(): U }` or `{ [K in T]: U }`
pub(super) fn object_or_mapped_type(parser: &mut Front) -> Parsed {
    if parser.looks_like(begins_mapped_type) {
        return mapped_type(parser);
    }
    let mark = parser.open();
    allowing_conditions(parser, members)?;
    parser.close(mark, Kind::ObjectType);
    Ok(())
}

/// The members of a type or interface, in their braces.
pub(super) fn members(parser: &mut Front) -> Parsed {
    parser.expect(TokenKind::BraceOpen)?;
    while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
        let mark = parser.open();
        let before = parser.fault_count();
        if member(parser).is_err() || parser.position() == mark.token() {
            statement::recover(parser, mark, before);
        }
        parser.role(Role::Statement);
    }
    parser.expect(TokenKind::BraceClose)
}

/// `{ +readonly [K in`
fn begins_mapped_type(parser: &mut Front) -> bool {
    parser.bump();
    if matches!(parser.kind(), TokenKind::Plus | TokenKind::Minus) {
        return parser.next_word() == (TokenKind::Name, "readonly");
    }
    if parser.at_word("readonly") {
        parser.bump();
    }
    if !parser.eat(TokenKind::BracketOpen) || !name::is_identifier(parser.kind()) {
        return false;
    }
    parser.bump();
    parser.at(TokenKind::In)
}

/// `{ readonly [K in T as U]?: V; }`
fn mapped_type(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if matches!(parser.kind(), TokenKind::Plus | TokenKind::Minus) {
        parser.bump();
    }
    parser.eat_word("readonly");
    parser.expect(TokenKind::BracketOpen)?;
    let parameter = parser.open();
    name::binding_identifier(parser, Role::Name)?;
    parser.expect(TokenKind::In)?;
    allowing_conditions(parser, any_type)?;
    parser.role(Role::Bound);
    parser.close_as(parameter, Kind::TypeParameter, Role::Parameter);
    if parser.eat_word("as") {
        allowing_conditions(parser, any_type)?;
        parser.role(Role::Name);
    }
    parser.expect(TokenKind::BracketClose)?;
    if matches!(parser.kind(), TokenKind::Plus | TokenKind::Minus) {
        parser.bump();
        parser.expect(TokenKind::Question)?;
    } else {
        parser.eat(TokenKind::Question);
    }
    opt_annotation(parser)?;
    separator(parser)?;
    while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
        // Further members are refused by the compiler of the types, not by the grammar.
        member(parser)?;
        parser.role(Role::Type);
    }
    parser.expect(TokenKind::BraceClose)?;
    parser.close(mark, Kind::MappedType);
    Ok(())
}

/// `,`, `;`, or the end of the line or of the type.
fn separator(parser: &mut Front) -> Parsed {
    if parser.eat(TokenKind::Comma) { Ok(()) } else { parser.semicolon() }
}

/// One member.
fn member(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if matches!(parser.kind(), TokenKind::ParenOpen | TokenKind::Less) {
        return signature(parser, mark);
    }
    if parser.at(TokenKind::New) && matches!(parser.next_kind(), TokenKind::ParenOpen | TokenKind::Less) {
        parser.bump();
        return signature(parser, mark);
    }
    let mut accessor = false;
    while parser.at(TokenKind::Name) && class::is_modifier(parser) && parser.text() != "async" {
        accessor |= matches!(parser.text(), "get" | "set");
        parser.bump();
    }
    if !accessor && at_index_signature(parser) {
        return index_signature(parser, mark);
    }
    name::property_name(parser, Kind::Name, Role::Name)?;
    let mut more = parser.eat(TokenKind::Question);
    if matches!(parser.kind(), TokenKind::ParenOpen | TokenKind::Less) {
        if accessor {
            // An accessor may have a body by the grammar; in a type it has none.
            opt_type_parameters(parser)?;
            parser.within(|context| Sort::default().enter(context), function::parameters)?;
            opt_return_type(parser)?;
            if parser.at(TokenKind::BraceOpen) {
                parser.within(|context| Sort::default().enter(context), function::body)?;
            }
            separator(parser)?;
            parser.close(mark, Kind::Function);
            return Ok(());
        }
        return signature(parser, mark);
    }
    more |= opt_annotation(parser)?;
    // A value is refused later by the compiler of the types, but after a bare name by its parser.
    if more && parser.eat(TokenKind::Assign) {
        super::super::expression::assignment_expression(parser)?;
        parser.role(Role::Value);
    }
    separator(parser)?;
    parser.close(mark, Kind::Field);
    Ok(())
}

/// Parameters and result of a method, of the type itself, or of its constructor.
fn signature(parser: &mut Front, mark: Mark) -> Parsed {
    opt_type_parameters(parser)?;
    parser.within(|context| Sort::default().enter(context), function::parameters)?;
    opt_return_type(parser)?;
    separator(parser)?;
    parser.close(mark, Kind::Function);
    Ok(())
}

/// Whether `[key: T]` is here, rather than a computed name.
pub(in super::super) fn at_index_signature(parser: &mut Front) -> bool {
    if !parser.at(TokenKind::BracketOpen) {
        return false;
    }
    let (first, kind) = parser.next_token();
    match kind {
        TokenKind::Ellipsis | TokenKind::BracketClose => true,
        TokenKind::Name => {
            let (second, behind) = parser.token_after(first);
            match behind {
                TokenKind::Colon | TokenKind::Comma => true,
                TokenKind::Question => matches!(
                    parser.token_after(second).1,
                    TokenKind::Colon | TokenKind::Comma | TokenKind::BracketClose
                ),
                _ => false,
            }
        }
        _ => false,
    }
}

/// `[key: T]: U`
pub(in super::super) fn index_signature(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    while !parser.at(TokenKind::BracketClose) {
        let parameter = parser.open();
        parser.eat(TokenKind::Ellipsis);
        name::binding_identifier(parser, Role::Name)?;
        parser.eat(TokenKind::Question);
        opt_annotation(parser)?;
        parser.close_as(parameter, Kind::Parameter, Role::Parameter);
        if !parser.at(TokenKind::BracketClose) {
            parser.expect(TokenKind::Comma)?;
        }
    }
    parser.bump();
    opt_annotation(parser)?;
    separator(parser)?;
    parser.close(mark, Kind::IndexSignature);
    Ok(())
}
