//! "Classes", "Interfaces": declarations of types.

use super::{Front, at_word, creation, leave_out, member, modifiers, name, separated, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// Whether a type is declared here, behind its modifiers.
pub(super) fn begins(parser: &mut Front) -> bool {
    match parser.kind() {
        TokenKind::Class | TokenKind::Enum | TokenKind::InterfaceWord => true,
        TokenKind::At => parser.next_kind() == TokenKind::InterfaceWord,
        TokenKind::Name => begins_record(parser),
        _ => false,
    }
}

/// `record Name`: no type has the name `record`.
fn begins_record(parser: &mut Front) -> bool {
    at_word(parser, "record") && parser.next_kind() == TokenKind::Name
}

/// A type with its body; its modifiers began at `mark`.
pub(super) fn declaration(parser: &mut Front, mark: Mark) -> Parsed {
    let around = parser.own.state.types.len();
    let outcome = parser.nested(|parser| match parser.kind() {
        TokenKind::Class => class(parser, mark),
        TokenKind::Enum => enumeration(parser, mark),
        TokenKind::InterfaceWord | TokenKind::At => interface(parser, mark),
        _ => record(parser, mark),
    });
    parser.own.state.types.truncate(around);
    outcome
}

/// The name of a type, by which its constructors are told.
fn type_name(parser: &mut Front) -> Parsed {
    let own = parser.text();
    name(parser, Role::Name)?;
    parser.own.state.types.push(own);
    Ok(())
}

/// The body of a type without a name.
pub(super) fn nameless_body(parser: &mut Front) -> Parsed {
    let around = parser.own.state.types.len();
    parser.own.state.types.push("");
    let outcome = body(parser);
    parser.own.state.types.truncate(around);
    outcome
}

/// `NormalClassDeclaration`
fn class(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    type_name(parser)?;
    types::opt_parameters(parser)?;
    heritage(parser)?;
    body(parser)?;
    parser.close(mark, Kind::Class);
    Ok(())
}

/// `RecordDeclaration`
fn record(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    type_name(parser)?;
    types::opt_parameters(parser)?;
    member::parameters(parser)?;
    heritage(parser)?;
    body(parser)?;
    parser.close(mark, Kind::Class);
    Ok(())
}

/// `NormalInterfaceDeclaration`, `AnnotationInterfaceDeclaration`
fn interface(parser: &mut Front, mark: Mark) -> Parsed {
    parser.eat(TokenKind::At);
    parser.bump();
    type_name(parser)?;
    types::opt_parameters(parser)?;
    heritage(parser)?;
    body(parser)?;
    parser.close(mark, Kind::Interface);
    Ok(())
}

/// `ClassExtends`, `ClassImplements`, `ClassPermits`, in their order.
fn heritage(parser: &mut Front) -> Parsed {
    loop {
        let begins = matches!(parser.kind(), TokenKind::Extends | TokenKind::Implements) || at_word(parser, "permits");
        if !begins {
            return Ok(());
        }
        let mark = parser.open();
        parser.bump();
        separated(parser, |parser| types::type_of(parser, Role::Type))?;
        parser.close_as(mark, Kind::Heritage, Role::Arguments);
    }
}

/// `EnumDeclaration`
fn enumeration(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    type_name(parser)?;
    heritage(parser)?;
    let body = parser.open();
    parser.expect(TokenKind::BraceOpen)?;
    while matches!(parser.kind(), TokenKind::Name | TokenKind::At) {
        constant(parser)?;
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    // A comma may stand alone.
    if !matches!(parser.kind(), TokenKind::Semicolon | TokenKind::BraceClose) {
        parser.expect(TokenKind::Comma)?;
    }
    if parser.eat(TokenKind::Semicolon) {
        members(parser);
    }
    parser.expect(TokenKind::BraceClose)?;
    parser.close_as(body, Kind::Block, Role::Body);
    parser.close(mark, Kind::Enum);
    Ok(())
}

/// `EnumConstant: {EnumConstantModifier} Identifier [( [ArgumentList] )] [ClassBody]`
fn constant(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    modifiers::annotations(parser)?;
    name(parser, Role::Name)?;
    if parser.at(TokenKind::ParenOpen) {
        creation::arguments(parser)?;
    }
    if parser.at(TokenKind::BraceOpen) {
        nameless_body(parser)?;
    }
    parser.close_as(mark, Kind::EnumMember, Role::Statement);
    Ok(())
}

/// `ClassBody: { {ClassBodyDeclaration} }`
pub(super) fn body(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        let open = parser.token_span(parser.position());
        parser.expect(TokenKind::BraceOpen)?;
        members(parser);
        if !parser.eat(TokenKind::BraceClose) {
            parser.fault(open, Problem::Unclosed(TokenKind::BraceOpen));
        }
        parser.close(mark, Kind::Block);
        Ok(())
    })?;
    parser.role(Role::Body);
    Ok(())
}

/// Members up to the brace that closes.
fn members(parser: &mut Front) {
    while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
        let (before, mark) = (parser.fault_count(), parser.open());
        let outcome = parser.nested(member::member);
        parser.role_since(mark, Role::Statement);
        if outcome.is_err() {
            leave_out(parser, before, mark, false);
        }
    }
}
