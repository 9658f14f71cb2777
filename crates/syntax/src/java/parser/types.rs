//! "Types, Values, and Variables".

use super::{Front, modifiers, name, separated};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `Type: PrimitiveType | ReferenceType`
pub(super) fn type_of(parser: &mut Front, role: Role) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        element(parser, Diamond::Refused)?;
        dimensions(parser, mark)
    })?;
    parser.role(role);
    Ok(())
}

/// The same, or `void`.
pub(super) fn result(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Void) {
        parser.leaf(Kind::PredefinedType, Role::Returns);
        return Ok(());
    }
    type_of(parser, Role::Returns)
}

/// Whether the arguments of a type may be left to the compiler, as in `new List<>()`.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Diamond {
    Allowed,
    Refused,
}

/// A type without the dimensions of an array.
pub(super) fn element(parser: &mut Front, diamond: Diamond) -> Parsed {
    let mark = parser.open();
    modifiers::annotations(parser)?;
    match parser.kind() {
        TokenKind::PrimitiveType => {
            let is_plain = parser.position() == mark.token();
            if is_plain {
                parser.leaf(Kind::PredefinedType, Role::Part);
            } else {
                parser.bump();
                parser.close(mark, Kind::PredefinedType);
            }
            Ok(())
        }
        TokenKind::Name => class_type(parser, mark, diamond),
        _ => parser.stop_expecting("a type"),
    }
}

/// `ClassType`, whose annotations began at `mark`: names with dots between them, each perhaps with arguments.
fn class_type(parser: &mut Front, mark: Mark, diamond: Diamond) -> Parsed {
    let first = parser.open();
    if matches!(parser.text(), "yield" | "record") && parser.next_kind() != TokenKind::Dot {
        return parser.stop(Problem::Rule("this word is the name of no type"));
    }
    name(parser, Role::Name)?;
    loop {
        let has_arguments = parser.at(TokenKind::Less);
        if has_arguments {
            parser.role(Role::Name);
            if diamond == Diamond::Allowed && parser.next_kind() == TokenKind::Greater {
                let empty = parser.open();
                parser.bump();
                parser.bump();
                parser.close_as(empty, Kind::TypeArguments, Role::TypeArguments);
            } else {
                arguments(parser)?;
            }
        }
        if !parser.at(TokenKind::Dot) || !matches!(parser.next_kind(), TokenKind::Name | TokenKind::At) {
            break;
        }
        if has_arguments {
            parser.close(first, Kind::Instantiation);
        }
        parser.role(Role::Object);
        parser.bump();
        modifiers::annotations(parser)?;
        name(parser, Role::Name)?;
        parser.close_as(first, Kind::Member, Role::Name);
    }
    parser.close(mark, Kind::NamedType);
    Ok(())
}

/// `Dims: {Annotation} [ ] {{Annotation} [ ]}` behind a type that began at `mark`.
pub(super) fn dimensions(parser: &mut Front, mark: Mark) -> Parsed {
    loop {
        let is_annotated = parser.at(TokenKind::At) && parser.next_kind() == TokenKind::Name;
        let has_brackets = parser.at(TokenKind::BracketOpen) && parser.next_kind() == TokenKind::BracketClose;
        if !has_brackets && !(is_annotated && brackets_behind_annotations(parser)) {
            return Ok(());
        }
        parser.role(Role::Element);
        modifiers::annotations(parser)?;
        parser.expect(TokenKind::BracketOpen)?;
        parser.expect(TokenKind::BracketClose)?;
        parser.close(mark, Kind::ArrayType);
    }
}

fn brackets_behind_annotations(parser: &mut Front) -> bool {
    let here = parser.current();
    super::ahead::annotations_from(parser, here).is_some_and(|behind| behind.1 == TokenKind::BracketOpen)
}

/// `TypeArguments: < TypeArgumentList >`
pub(super) fn arguments(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.expect(TokenKind::Less)?;
        separated(parser, argument)?;
        parser.expect(TokenKind::Greater)?;
        parser.close(mark, Kind::TypeArguments);
        Ok(())
    })?;
    parser.role(Role::TypeArguments);
    Ok(())
}

/// `TypeArgument: ReferenceType | Wildcard`
fn argument(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let here = parser.current();
    let is_wildcard =
        super::ahead::annotations_from(parser, here).is_some_and(|behind| behind.1 == TokenKind::Question);
    if !is_wildcard {
        return type_of(parser, Role::Argument);
    }
    modifiers::annotations(parser)?;
    parser.bump();
    if parser.eat(TokenKind::Extends) || parser.eat(TokenKind::Super) {
        type_of(parser, Role::Bound)?;
    }
    parser.close_as(mark, Kind::WildcardType, Role::Argument);
    Ok(())
}

/// `TypeParameters: < TypeParameterList >`, if there are any.
pub(super) fn opt_parameters(parser: &mut Front) -> Parsed {
    if !parser.at(TokenKind::Less) {
        return Ok(());
    }
    let mark = parser.open();
    parser.bump();
    separated(parser, |parser| {
        let mark = parser.open();
        modifiers::annotations(parser)?;
        name(parser, Role::Name)?;
        if parser.eat(TokenKind::Extends) {
            joined(parser, TokenKind::Ampersand, Kind::IntersectionType, Role::Bound)?;
        }
        parser.close_as(mark, Kind::TypeParameter, Role::Parameter);
        Ok(())
    })?;
    parser.expect(TokenKind::Greater)?;
    parser.close_as(mark, Kind::TypeParameters, Role::TypeParameters);
    Ok(())
}

/// Types with a sign between them, or one alone.
pub(super) fn joined(parser: &mut Front, sign: TokenKind, kind: Kind, role: Role) -> Parsed {
    let mark = parser.open();
    type_of(parser, Role::Operand)?;
    if parser.at(sign) {
        while parser.eat(sign) {
            type_of(parser, Role::Operand)?;
        }
        parser.close(mark, kind);
    }
    parser.role(role);
    Ok(())
}
