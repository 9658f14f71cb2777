//! "Namespaces", "Classes", "Structs", "Interfaces", "Enums", "Delegates", records.

use super::{
    Front, ahead, argument, at_word, attribute, braced, constraint, listed, member, modifiers, name, parameter,
    separated, types,
};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenId, TokenKind};

/// Whether a namespace or a type is declared here, behind its attributes and modifiers.
pub(super) fn begins_behind_modifiers(parser: &mut Front) -> bool {
    let here = parser.current();
    let Some(token) = ahead::behind_attributes(parser, here) else { return false };
    let token = modifiers::behind(parser, token);
    begins_at(parser, token)
}

/// Whether a namespace or a type is declared here.
pub(super) fn begins(parser: &mut Front) -> bool {
    let here = parser.current();
    begins_at(parser, here)
}

fn begins_at(parser: &mut Front, token: (TokenId, TokenKind)) -> bool {
    let next = parser.token_after(token.0);
    match token.1 {
        TokenKind::NamespaceWord
        | TokenKind::Class
        | TokenKind::Struct
        | TokenKind::InterfaceWord
        | TokenKind::Enum => true,
        TokenKind::Delegate if next.1 == TokenKind::ParenOpen => {
            ahead::behind_type(parser, next).is_some_and(|behind| behind.1 == TokenKind::Name)
        }
        TokenKind::Delegate => !matches!(next.1, TokenKind::Star | TokenKind::BraceOpen),
        TokenKind::Name if parser.token_text(token.0) == "record" => begins_record(parser, token.0),
        _ => false,
    }
}

/// `record Name`, with what the declaration of a type has behind its name; a type may have the name `record`.
fn begins_record(parser: &mut Front, token: TokenId) -> bool {
    let (next, kind) = parser.token_after(token);
    let behind = parser.token_after(next).1;
    match kind {
        TokenKind::Class | TokenKind::Struct => true,
        TokenKind::Name => matches!(
            behind,
            TokenKind::ParenOpen
                | TokenKind::BraceOpen
                | TokenKind::Semicolon
                | TokenKind::Colon
                | TokenKind::Less
                | TokenKind::Name
        ),
        _ => false,
    }
}

/// A namespace or a type; its attributes and modifiers began at `mark`.
pub(super) fn declaration(parser: &mut Front, mark: Mark) -> Parsed {
    match parser.kind() {
        TokenKind::NamespaceWord => namespace(parser, mark),
        TokenKind::Class | TokenKind::Struct => class(parser, mark, Kind::Class),
        TokenKind::InterfaceWord => class(parser, mark, Kind::Interface),
        TokenKind::Enum => enumeration(parser, mark),
        TokenKind::Delegate => delegate(parser, mark),
        _ if at_word(parser, "record") => record(parser, mark),
        _ => parser.stop_expecting("a declaration"),
    }
}

/// `namespace_declaration: 'namespace' qualified_identifier (namespace_body ';'? | ';')`
fn namespace(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    if parser.next_kind() == TokenKind::ColonColon {
        parser.bump();
        return parser.stop_expecting("'{' or ';'");
    }
    types::qualified_name(parser)?;
    parser.role(Role::Name);
    if parser.eat(TokenKind::Semicolon) {
        return super::done(parser, mark, Kind::PackageClause);
    }
    braced(parser, super::namespace_member)?;
    parser.eat(TokenKind::Semicolon);
    super::done(parser, mark, Kind::Namespace)
}

/// `class_declaration`, `struct_declaration`, `interface_declaration`
fn class(parser: &mut Front, mark: Mark, kind: Kind) -> Parsed {
    parser.bump();
    named(parser, mark, kind)
}

fn record(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    if !parser.eat(TokenKind::Class) {
        parser.eat(TokenKind::Struct);
    }
    named(parser, mark, Kind::Class)
}

/// A type from its name on: type parameters, parameters, bases, constraints, members.
fn named(parser: &mut Front, mark: Mark, kind: Kind) -> Parsed {
    name(parser, Role::Name)?;
    types::opt_parameters(parser)?;
    if parser.at(TokenKind::ParenOpen) {
        parameter::parameters(parser)?;
    }
    opt_bases(parser)?;
    constraint::clauses(parser)?;
    if !parser.eat(TokenKind::Semicolon) {
        braced(parser, member::member)?;
        parser.eat(TokenKind::Semicolon);
    }
    super::done(parser, mark, kind)
}

/// `class_base: ':' class_type argument_list? (',' interface_type)*`
fn opt_bases(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if !parser.eat(TokenKind::Colon) {
        return Ok(());
    }
    separated(parser, |parser| {
        types::type_of(parser, Role::Type)?;
        if parser.at(TokenKind::ParenOpen) {
            argument::arguments(parser)?;
        }
        Ok(())
    })?;
    parser.close_as(mark, Kind::Heritage, Role::Arguments);
    Ok(())
}

/// `enum_declaration`
fn enumeration(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    name(parser, Role::Name)?;
    opt_bases(parser)?;
    if parser.eat(TokenKind::Semicolon) {
        return super::done(parser, mark, Kind::Enum);
    }
    let body = parser.open();
    parser.expect(TokenKind::BraceOpen)?;
    listed(parser, TokenKind::BraceClose, |parser| {
        let mark = parser.open();
        attribute::sections(parser)?;
        name(parser, Role::Name)?;
        if parser.eat(TokenKind::Assign) {
            super::expression::expression(parser, Role::Value)?;
        }
        parser.close_as(mark, Kind::EnumMember, Role::Statement);
        Ok(())
    })?;
    parser.close_as(body, Kind::Block, Role::Body);
    parser.eat(TokenKind::Semicolon);
    super::done(parser, mark, Kind::Enum)
}

/// `delegate_declaration: 'delegate' return_type identifier type_parameters? '(' parameters ')' constraints* ';'`
fn delegate(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    types::returned(parser)?;
    name(parser, Role::Name)?;
    types::opt_parameters(parser)?;
    parameter::parameters(parser)?;
    constraint::clauses(parser)?;
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, Kind::Delegate)
}
