//! "Types".

use super::expression::{Braces, expression};
use super::parameters::{begins_array, parameters, result};
use super::{end_of_statement, name};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// Whether a type may begin with a token.
pub(super) fn begins_type(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::Name
            | TokenKind::Star
            | TokenKind::ParenOpen
            | TokenKind::BracketOpen
            | TokenKind::MapWord
            | TokenKind::Chan
            | TokenKind::ChannelArrow
            | TokenKind::Func
            | TokenKind::Struct
            | TokenKind::InterfaceWord
    )
}

/// `Type = TypeName [ TypeArgs ] | TypeLit | "(" Type ")"`
pub(super) fn type_of(parser: &mut Parser, role: Role) -> Parsed {
    parser.nested(|parser| match parser.kind() {
        TokenKind::Name => type_name(parser),
        TokenKind::Star => pointer(parser),
        TokenKind::ParenOpen => group(parser),
        TokenKind::BracketOpen => array_of(parser, Role::Part, false),
        TokenKind::MapWord => map(parser),
        TokenKind::Chan | TokenKind::ChannelArrow => channel(parser),
        TokenKind::Func => function(parser),
        TokenKind::Struct => structure(parser),
        TokenKind::InterfaceWord => interface(parser),
        _ => parser.stop_expecting("a type"),
    })?;
    parser.role(role);
    Ok(())
}

/// `TypeName = identifier | QualifiedIdent`, with `TypeArgs = "[" TypeList [ "," ] "]"`
fn type_name(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    qualified(parser)?;
    if parser.at(TokenKind::BracketOpen) {
        type_arguments(parser)?;
    }
    parser.close(mark, Kind::NamedType);
    Ok(())
}

/// `QualifiedIdent = PackageName "." identifier`
fn qualified(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    name(parser, Role::Name)?;
    if parser.eat(TokenKind::Dot) {
        parser.role(Role::Object);
        name(parser, Role::Name)?;
        parser.close_as(mark, Kind::Member, Role::Name);
    }
    Ok(())
}

fn type_arguments(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    loop {
        type_of(parser, Role::Argument)?;
        if !parser.eat(TokenKind::Comma) || parser.at(TokenKind::BracketClose) {
            break;
        }
    }
    parser.expect(TokenKind::BracketClose)?;
    parser.close_as(mark, Kind::TypeArguments, Role::TypeArguments);
    Ok(())
}

/// `PointerType = "*" BaseType`
fn pointer(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    type_of(parser, Role::Element)?;
    parser.close(mark, Kind::PointerType);
    Ok(())
}

fn group(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    type_of(parser, Role::Type)?;
    parser.expect(TokenKind::ParenClose)?;
    parser.close(mark, Kind::GroupType);
    Ok(())
}

/// `ArrayType = "[" ArrayLength "]" ElementType`, `SliceType = "[" "]" ElementType`; in a literal the length may be `...`.
pub(super) fn array_of(parser: &mut Parser, role: Role, may_be_open: bool) -> Parsed {
    let mark = parser.open();
    parser.bump();
    match parser.kind() {
        TokenKind::BracketClose => {}
        TokenKind::Ellipsis if may_be_open => parser.bump(),
        TokenKind::Ellipsis => return parser.stop(OPEN_LENGTH),
        _ => expression(parser, Role::Index, Braces::Literal)?,
    }
    parser.expect(TokenKind::BracketClose)?;
    type_of(parser, Role::Element)?;
    parser.close_as(mark, Kind::ArrayType, role);
    Ok(())
}

/// What is wrong with `[...]T` where no elements follow.
pub(super) const OPEN_LENGTH: Problem = Problem::Rule("only a literal leaves the length of its array open");

/// `MapType = "map" "[" KeyType "]" ElementType`
pub(super) fn map(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::BracketOpen)?;
    type_of(parser, Role::Key)?;
    parser.expect(TokenKind::BracketClose)?;
    type_of(parser, Role::Value)?;
    parser.close(mark, Kind::MapType);
    Ok(())
}

/// `ChannelType = ( "chan" | "chan" "<-" | "<-" "chan" ) ElementType`
pub(super) fn channel(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    if parser.eat(TokenKind::ChannelArrow) {
        parser.expect(TokenKind::Chan)?;
    } else {
        parser.bump();
        parser.eat(TokenKind::ChannelArrow);
    }
    type_of(parser, Role::Element)?;
    parser.close(mark, Kind::ChannelType);
    Ok(())
}

/// `FunctionType = "func" Signature`
fn function(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::BracketOpen) {
        return parser.stop(Problem::Rule("the type of a function has no type parameters"));
    }
    parameters(parser, Role::Parameters)?;
    result(parser)?;
    parser.close(mark, Kind::FunctionType);
    Ok(())
}

/// `StructType = "struct" "{" { FieldDecl ";" } "}"`
pub(super) fn structure(parser: &mut Parser) -> Parsed {
    members(parser, Kind::ObjectType, |parser, mark| field(parser, mark))
}

/// `InterfaceType = "interface" "{" { InterfaceElem ";" } "}"`
pub(super) fn interface(parser: &mut Parser) -> Parsed {
    members(parser, Kind::InterfaceType, |parser, mark| {
        if parser.at(TokenKind::Name) && parser.following() == TokenKind::ParenOpen {
            method(parser, mark)
        } else {
            type_element(parser, Role::Statement)
        }
    })
}

/// What is in the braces of a type.
fn members(parser: &mut Parser, kind: Kind, member: fn(&mut Parser, Mark) -> Parsed) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::BraceOpen)?;
    while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
        let inner = parser.open();
        member(parser, inner)?;
        parser.role(Role::Statement);
        end_of_statement(parser)?;
    }
    parser.expect(TokenKind::BraceClose)?;
    parser.close(mark, kind);
    Ok(())
}

/// `FieldDecl = ( IdentifierList Type | EmbeddedField ) [ Tag ]`, `EmbeddedField = [ "*" ] TypeName [ TypeArgs ]`
fn field(parser: &mut Parser, mark: Mark) -> Parsed {
    if parser.at(TokenKind::ParenOpen) {
        return parser.stop(Problem::Rule("a field that is a type has no parentheses"));
    }
    let is_named = parser.at(TokenKind::Name)
        && match parser.following() {
            TokenKind::Dot | TokenKind::String | TokenKind::Newline | TokenKind::Semicolon | TokenKind::BraceClose => {
                false
            }
            TokenKind::BracketOpen => begins_array(parser, parser.position()),
            _ => true,
        };
    if is_named {
        name(parser, Role::Name)?;
        while parser.eat(TokenKind::Comma) {
            name(parser, Role::Name)?;
        }
        type_of(parser, Role::Type)?;
    } else if matches!(parser.kind(), TokenKind::Name | TokenKind::Star) {
        type_of(parser, Role::Type)?;
    } else {
        return parser.stop_expecting("a field");
    }
    if parser.at(TokenKind::String) {
        parser.leaf(Kind::String, Role::Value);
    }
    parser.close(mark, Kind::Field);
    Ok(())
}

/// `MethodElem = MethodName Signature`
fn method(parser: &mut Parser, mark: Mark) -> Parsed {
    name(parser, Role::Name)?;
    parameters(parser, Role::Parameters)?;
    result(parser)?;
    parser.close(mark, Kind::Function);
    Ok(())
}

/// `TypeElem = TypeTerm { "|" TypeTerm }`
pub(super) fn type_element(parser: &mut Parser, role: Role) -> Parsed {
    let mark = parser.open();
    type_term(parser)?;
    if parser.at(TokenKind::Bar) {
        parser.role(Role::Operand);
        while parser.eat(TokenKind::Bar) {
            type_term(parser)?;
            parser.role(Role::Operand);
        }
        parser.close(mark, Kind::UnionType);
    }
    parser.role(role);
    Ok(())
}

/// `TypeTerm = Type | UnderlyingType`, `UnderlyingType = "~" Type`
fn type_term(parser: &mut Parser) -> Parsed {
    if !parser.at(TokenKind::Tilde) {
        return type_of(parser, Role::Part);
    }
    let mark = parser.open();
    parser.bump();
    type_of(parser, Role::Operand)?;
    parser.close(mark, Kind::TypeOperator);
    Ok(())
}
