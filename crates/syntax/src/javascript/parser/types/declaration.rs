//! Declarations that only types have: aliases, interfaces, enumerations, namespaces, and what is declared and is elsewhere.

use super::super::{Front, class, declaration as variables, expression, function, module, name, statement};
use super::{allowing_conditions, any_type, heritage_types, member, opt_type_parameters};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// Whether the current word begins such a declaration.
pub(in super::super) fn begins(parser: &mut Front) -> bool {
    match parser.text() {
        "type" | "interface" => parser.next_kind() == TokenKind::Name && !parser.next_is_on_new_line(),
        "namespace" => parser.next_kind() == TokenKind::Name && !parser.next_is_on_new_line(),
        "module" => matches!(parser.next_kind(), TokenKind::Name | TokenKind::String) && !parser.next_is_on_new_line(),
        "abstract" => parser.next_kind() == TokenKind::Class && !parser.next_is_on_new_line(),
        "global" => parser.next_kind() == TokenKind::BraceOpen,
        "declare" => !parser.next_is_on_new_line() && declares(parser),
        _ => false,
    }
}

/// Whether a declaration follows `declare`.
fn declares(parser: &mut Front) -> bool {
    match parser.next_kind() {
        TokenKind::Var
        | TokenKind::Const
        | TokenKind::FunctionWord
        | TokenKind::Class
        | TokenKind::Enum
        | TokenKind::Import
        | TokenKind::Export => true,
        TokenKind::Name => parser.looks_like(|parser| {
            parser.bump();
            match parser.text() {
                "let" | "using" => variables::follows_let(parser),
                "async" => function::follows_async(parser),
                _ => begins(parser),
            }
        }),
        _ => false,
    }
}

/// A declaration, from its first word on.
pub(in super::super) fn declaration(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    declaration_since(parser, mark)
}

fn declaration_since(parser: &mut Front, mark: Mark) -> Parsed {
    match parser.kind() {
        TokenKind::Class => class::rest(parser, mark, Kind::Class),
        TokenKind::Enum | TokenKind::Const if parser.at(TokenKind::Enum) || parser.next_kind() == TokenKind::Enum => {
            enumeration_since(parser, mark)
        }
        TokenKind::Var | TokenKind::Const => variables::statement_since(parser, mark),
        TokenKind::FunctionWord => function::declaration_since(parser, mark),
        TokenKind::Import => module::import_declaration(parser),
        TokenKind::Export => module::export_declaration(parser),
        TokenKind::Name => match parser.text() {
            "declare" => {
                parser.bump();
                declaration_since(parser, mark)
            }
            "abstract" => {
                class::opt_class_modifiers(parser);
                class::rest(parser, mark, Kind::Class)
            }
            "type" => type_alias(parser, mark),
            "interface" => interface(parser, mark),
            "namespace" | "module" | "global" => namespace(parser, mark),
            "async" => function::declaration_since(parser, mark),
            _ => variables::statement_since(parser, mark),
        },
        _ => parser.stop_expecting("a declaration"),
    }
}

/// `type A<T> = U;`
fn type_alias(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    name::binding_identifier(parser, Role::Name)?;
    opt_type_parameters(parser)?;
    parser.expect(TokenKind::Assign)?;
    allowing_conditions(parser, any_type)?;
    parser.role(Role::Value);
    parser.semicolon()?;
    parser.close(mark, Kind::TypeAlias);
    Ok(())
}

/// `interface A<T> extends B, C { … }`
fn interface(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    name::binding_identifier(parser, Role::Name)?;
    opt_type_parameters(parser)?;
    let heritage = parser.open();
    if parser.eat(TokenKind::Extends) || parser.eat_word("implements") {
        heritage_types(parser)?;
        parser.close_as(heritage, Kind::Heritage, Role::Arguments);
    }
    let body = parser.open();
    member::members(parser)?;
    parser.close_as(body, Kind::Block, Role::Body);
    parser.close(mark, Kind::Interface);
    Ok(())
}

/// `enum A { B, C = 1 }`, `const enum A { … }`
pub(in super::super) fn enumeration(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    enumeration_since(parser, mark)
}

fn enumeration_since(parser: &mut Front, mark: Mark) -> Parsed {
    parser.eat(TokenKind::Const);
    parser.expect(TokenKind::Enum)?;
    name::binding_identifier(parser, Role::Name)?;
    let body = parser.open();
    parser.expect(TokenKind::BraceOpen)?;
    parser.list(TokenKind::BraceClose, enumeration_member)?;
    parser.close_as(body, Kind::Block, Role::Body);
    parser.close(mark, Kind::Enum);
    Ok(())
}

fn enumeration_member(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    name::property_name(parser, Kind::PropertyName, Role::Name)?;
    if parser.eat(TokenKind::Assign) {
        expression::assignment_expression(parser)?;
        parser.role(Role::Value);
    }
    parser.close(mark, Kind::EnumMember);
    Ok(())
}

/// `namespace A.B { … }`, `module "m" { … }`, `global { … }`
fn namespace(parser: &mut Front, mark: Mark) -> Parsed {
    let mut may_lack_body = false;
    if !parser.eat_word("global") {
        parser.bump();
        if parser.at(TokenKind::String) {
            may_lack_body = true;
            parser.leaf(Kind::String, Role::Name);
        } else {
            super::primary::entity_name(parser)?;
            parser.role(Role::Name);
        }
    }
    if parser.at(TokenKind::BraceOpen) || !may_lack_body {
        statement::block(parser, Role::Body)?;
    } else {
        parser.semicolon()?;
    }
    parser.close(mark, Kind::Namespace);
    Ok(())
}
