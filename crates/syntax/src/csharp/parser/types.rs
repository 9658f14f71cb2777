//! "Types".

use super::{Front, attribute, listed, name, separated};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// Whether a question mark behind a type belongs to it where an operator may be meant.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Question {
    /// Always.
    Belongs,
    /// Only where no value is behind it.
    MayAsk,
}

/// `type`
pub(super) fn type_of(parser: &mut Front, role: Role) -> Parsed {
    any(parser, Question::Belongs)?;
    parser.role(role);
    Ok(())
}

/// A type behind `is` or `as`.
pub(super) fn asked_for(parser: &mut Front, role: Role) -> Parsed {
    any(parser, Question::MayAsk)?;
    parser.role(role);
    Ok(())
}

/// `return_type: ref_return_type | type | 'void'`, or the type of a property, in the role of what is returned.
pub(super) fn returned(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Ref) {
        reference_words(parser);
        return type_of(parser, Role::Returns);
    }
    or_void(parser, Role::Returns)
}

/// A type, or `void` alone.
pub(super) fn or_void(parser: &mut Front, role: Role) -> Parsed {
    if !parser.at(TokenKind::Void) || parser.next_kind() == TokenKind::Star {
        return type_of(parser, role);
    }
    parser.leaf(Kind::PredefinedType, role);
    Ok(())
}

/// `'ref' 'readonly'?` before a type.
pub(super) fn reference_words(parser: &mut Front) {
    if parser.eat(TokenKind::Ref) && parser.at(TokenKind::Modifier) && parser.text() == "readonly" {
        parser.bump();
    }
}

fn any(parser: &mut Front, question: Question) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        if parser.at(TokenKind::Void) && parser.next_kind() != TokenKind::Star {
            return parser.stop(Problem::Rule("no value has the type 'void'"));
        }
        element(parser, question)?;
        while parser.at(TokenKind::BracketOpen) && super::ahead::is_rank(parser) {
            parser.role(Role::Element);
            rank(parser)?;
            parser.close(mark, Kind::ArrayType);
            marks(parser, mark, question);
        }
        Ok(())
    })
}

/// A type without the ranks of an array.
pub(super) fn element(parser: &mut Front, question: Question) -> Parsed {
    let mark = parser.open();
    match parser.kind() {
        TokenKind::PrimitiveType | TokenKind::Void => parser.leaf(Kind::PredefinedType, Role::Part),
        TokenKind::Name => named(parser)?,
        TokenKind::ParenOpen => tuple(parser)?,
        TokenKind::Delegate => function_pointer(parser)?,
        _ => return parser.stop_expecting("a type"),
    }
    marks(parser, mark, question);
    Ok(())
}

/// `?` once, and `*` as often as it is there, behind a type that began at `mark`: no pointer may be absent.
fn marks(parser: &mut Front, mark: Mark, question: Question) {
    if parser.at(TokenKind::Question) && (question == Question::Belongs || !super::ahead::begins_operand_behind(parser))
    {
        parser.role(Role::Type);
        parser.bump();
        parser.close(mark, Kind::OptionalType);
    }
    while parser.at(TokenKind::Star) {
        parser.role(Role::Element);
        parser.bump();
        parser.close(mark, Kind::PointerType);
    }
}

/// `'[' ','* ']'`
pub(super) fn rank(parser: &mut Front) -> Parsed {
    parser.expect(TokenKind::BracketOpen)?;
    while parser.eat(TokenKind::Comma) {}
    parser.expect(TokenKind::BracketClose)
}

/// `namespace_or_type_name`: names with dots between them, each perhaps with arguments, perhaps behind an alias.
pub(super) fn named(parser: &mut Front) -> Parsed {
    named_while(parser, |parser| parser.at(TokenKind::Dot) && parser.next_kind() == TokenKind::Name)
}

/// The same, as long as the dot that is next belongs to it.
pub(super) fn named_while(parser: &mut Front, goes_on: impl Fn(&mut Front) -> bool) -> Parsed {
    let mark = parser.open();
    let first = parser.open();
    name(parser, Role::Name)?;
    if parser.at(TokenKind::ColonColon) {
        parser.role(Role::Object);
        parser.bump();
        name(parser, Role::Name)?;
        parser.close_as(first, Kind::Path, Role::Name);
    }
    loop {
        let has_arguments = parser.at(TokenKind::Less);
        if has_arguments {
            parser.role(Role::Name);
            arguments(parser)?;
        }
        if !goes_on(parser) {
            break;
        }
        if has_arguments {
            parser.close(first, Kind::Instantiation);
        }
        parser.role(Role::Object);
        parser.bump();
        name(parser, Role::Name)?;
        parser.close_as(first, Kind::Member, Role::Name);
    }
    super::done(parser, mark, Kind::NamedType)
}

/// Names with dots between them, perhaps behind an alias.
pub(super) fn qualified_name(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    name(parser, Role::Name)?;
    if parser.at(TokenKind::ColonColon) {
        parser.role(Role::Object);
        parser.bump();
        name(parser, Role::Name)?;
        parser.close(mark, Kind::Path);
    }
    while parser.at(TokenKind::Dot) {
        parser.role(Role::Object);
        parser.bump();
        name(parser, Role::Name)?;
        parser.close(mark, Kind::Member);
    }
    Ok(())
}

/// `type_argument_list: '<' type (',' type)* '>'`; in `typeof` the types may be left open.
pub(super) fn arguments(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.expect(TokenKind::Less)?;
        if matches!(parser.kind(), TokenKind::Comma | TokenKind::Greater) {
            while parser.eat(TokenKind::Comma) {}
        } else {
            separated(parser, |parser| {
                attribute::sections(parser)?;
                type_of(parser, Role::Argument)
            })?;
        }
        parser.expect(TokenKind::Greater)?;
        super::done(parser, mark, Kind::TypeArguments)
    })?;
    parser.role(Role::TypeArguments);
    Ok(())
}

/// `type_parameter_list`, if there is one, with the variance of each.
pub(super) fn opt_parameters(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if !parser.eat(TokenKind::Less) {
        return Ok(());
    }
    separated(parser, |parser| {
        let mark = parser.open();
        attribute::sections(parser)?;
        if matches!(parser.kind(), TokenKind::In | TokenKind::Out) {
            parser.bump();
        }
        name(parser, Role::Name)?;
        parser.close_as(mark, Kind::TypeParameter, Role::Parameter);
        Ok(())
    })?;
    parser.expect(TokenKind::Greater)?;
    parser.close_as(mark, Kind::TypeParameters, Role::TypeParameters);
    Ok(())
}

/// `tuple_type: '(' type identifier? (',' type identifier?)+ ')'`
fn tuple(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let mut count = 0;
    loop {
        count += 1;
        let element = parser.open();
        type_of(parser, Role::Type)?;
        if parser.at(TokenKind::Name) {
            name(parser, Role::Name)?;
            parser.close(element, Kind::TupleMember);
        }
        parser.role(Role::Element);
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    if count < 2 {
        return parser.expect(TokenKind::Comma);
    }
    parser.expect(TokenKind::ParenClose)?;
    super::done(parser, mark, Kind::TupleType)
}

/// `'delegate' '*' ('managed' | 'unmanaged' ('[' … ']')?)? '<' … '>'`
fn function_pointer(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::Star)?;
    if parser.at(TokenKind::Name) {
        parser.bump();
        if parser.eat(TokenKind::BracketOpen) {
            listed(parser, TokenKind::BracketClose, |parser| name(parser, Role::Part))?;
        }
    }
    let parameters = parser.open();
    parser.expect(TokenKind::Less)?;
    separated(parser, |parser| {
        let mark = parser.open();
        while matches!(parser.kind(), TokenKind::Ref | TokenKind::In | TokenKind::Out | TokenKind::Modifier) {
            parser.bump();
        }
        or_void(parser, Role::Type)?;
        parser.close_as(mark, Kind::Parameter, Role::Parameter);
        Ok(())
    })?;
    parser.expect(TokenKind::Greater)?;
    parser.close_as(parameters, Kind::Parameters, Role::Parameters);
    super::done(parser, mark, Kind::FunctionType)
}
