//! Types that are by themselves, and arrays and members of them.

use super::super::{Front, name, template};
use super::arguments::type_arguments;
use super::{allowing_conditions, any_type, member};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// `T[]`, `T[K]`
pub(super) fn postfix_type(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    non_array_type(parser)?;
    while parser.at(TokenKind::BracketOpen) && !parser.at_new_line() {
        parser.bump();
        if parser.at(TokenKind::BracketClose) {
            parser.role(Role::Element);
            parser.bump();
            parser.close(mark, Kind::ArrayType);
        } else {
            parser.role(Role::Object);
            allowing_conditions(parser, any_type)?;
            parser.role(Role::Index);
            parser.expect(TokenKind::BracketClose)?;
            parser.close(mark, Kind::IndexedType);
        }
    }
    Ok(())
}

fn non_array_type(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::Name => named_or_predefined(parser),
        TokenKind::Void => leaf(parser, Kind::PredefinedType),
        TokenKind::This => this_type(parser),
        TokenKind::String
        | TokenKind::Number
        | TokenKind::TrueWord
        | TokenKind::FalseWord
        | TokenKind::NullWord
        | TokenKind::Minus => literal_type(parser),
        TokenKind::Typeof => {
            if parser.next_kind() == TokenKind::Import {
                import_type(parser)
            } else {
                type_query(parser)
            }
        }
        TokenKind::Import => import_type(parser),
        TokenKind::BraceOpen => member::object_or_mapped_type(parser),
        TokenKind::BracketOpen => tuple_type(parser),
        TokenKind::ParenOpen => {
            let mark = parser.open();
            parser.bump();
            allowing_conditions(parser, any_type)?;
            parser.role(Role::Type);
            parser.expect(TokenKind::ParenClose)?;
            parser.close(mark, Kind::GroupType);
            Ok(())
        }
        TokenKind::FormatStart => template::template_type(parser, |parser| allowing_conditions(parser, any_type)),
        _ => parser.stop_expecting("a type"),
    }
}

fn leaf(parser: &mut Front, kind: Kind) -> Parsed {
    parser.leaf(kind, Role::Part);
    Ok(())
}

fn named_or_predefined(parser: &mut Front) -> Parsed {
    let predefined = matches!(
        parser.text(),
        "any"
            | "unknown"
            | "string"
            | "number"
            | "bigint"
            | "symbol"
            | "boolean"
            | "undefined"
            | "never"
            | "object"
            | "intrinsic"
    );
    if predefined && parser.text() != "intrinsic" && parser.next_kind() != TokenKind::Dot {
        return leaf(parser, Kind::PredefinedType);
    }
    if parser.text() == "asserts"
        && matches!(parser.next_kind(), TokenKind::Name | TokenKind::This)
        && !parser.next_is_on_new_line()
        && !matches!(parser.next_word().1, "is" | "extends" | "as" | "satisfies" | "of")
    {
        return assertion(parser);
    }
    named_type(parser)
}

/// `asserts x`, `asserts x is T`
pub(super) fn assertion(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.leaf(Kind::Name, Role::Name);
    if parser.eat_word("is") {
        any_type(parser)?;
        parser.role(Role::Type);
    }
    parser.close(mark, Kind::TypePredicate);
    Ok(())
}

/// `this`, `this is T`
fn this_type(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let predicate = parser.next_word() == (TokenKind::Name, "is") && !parser.next_is_on_new_line();
    parser.leaf(if predicate { Kind::This } else { Kind::PredefinedType }, Role::Name);
    if predicate {
        parser.bump();
        any_type(parser)?;
        parser.role(Role::Type);
        parser.close(mark, Kind::TypePredicate);
    }
    Ok(())
}

/// `"north"`, `-3`, `true`
fn literal_type(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let value = parser.open();
    let negative = parser.eat(TokenKind::Minus);
    let kind = match parser.kind() {
        TokenKind::Number => Kind::Number,
        TokenKind::String if !negative => Kind::String,
        TokenKind::NullWord if !negative => Kind::Null,
        TokenKind::TrueWord | TokenKind::FalseWord if !negative => Kind::Boolean,
        _ => return parser.stop_expecting("a number"),
    };
    parser.leaf(kind, if negative { Role::Operand } else { Role::Value });
    if negative {
        parser.close_as(value, Kind::Unary, Role::Value);
    }
    parser.close(mark, Kind::LiteralType);
    Ok(())
}

/// `A`, `A.B`, `A.B<C>`
pub(super) fn named_type(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    entity_name(parser)?;
    parser.role(Role::Name);
    opt_arguments(parser)?;
    parser.close(mark, Kind::NamedType);
    Ok(())
}

/// Type arguments on the line of what they are given to.
fn opt_arguments(parser: &mut Front) -> Parsed {
    if matches!(parser.kind(), TokenKind::Less | TokenKind::ShiftLeft) && !parser.at_new_line() {
        type_arguments(parser)?;
    }
    Ok(())
}

/// `A.B.C`
pub(in super::super) fn entity_name(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::This) {
        parser.leaf(Kind::This, Role::Part);
    } else {
        name::binding_identifier(parser, Role::Part)?;
    }
    while parser.at(TokenKind::Dot) {
        parser.role(Role::Object);
        parser.bump();
        name::any_word(parser, Kind::Name, Role::Name)?;
        parser.close(mark, Kind::Member);
    }
    Ok(())
}

/// `typeof x.y<T>`
fn type_query(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    entity_name(parser)?;
    parser.role(Role::Name);
    opt_arguments(parser)?;
    parser.close(mark, Kind::TypeQuery);
    Ok(())
}

/// `import("m", { with: { … } }).A<B>`, `typeof import("m")`
fn import_type(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.eat(TokenKind::Typeof);
    parser.bump();
    parser.expect(TokenKind::ParenOpen)?;
    any_type(parser)?;
    parser.role(Role::Argument);
    if parser.eat(TokenKind::Comma) {
        super::super::expression::assignment_expression(parser)?;
        parser.role(Role::Argument);
        parser.eat(TokenKind::Comma);
    }
    parser.expect(TokenKind::ParenClose)?;
    if parser.eat(TokenKind::Dot) {
        let path = parser.open();
        name::any_word(parser, Kind::Name, Role::Name)?;
        while parser.at(TokenKind::Dot) {
            parser.role(Role::Object);
            parser.bump();
            name::any_word(parser, Kind::Name, Role::Name)?;
            parser.close_as(path, Kind::Member, Role::Name);
        }
    }
    opt_arguments(parser)?;
    parser.close(mark, Kind::ImportType);
    Ok(())
}

/// `[A, b: B, C?, ...D]`
fn tuple_type(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.list(TokenKind::BracketClose, |parser| {
        allowing_conditions(parser, tuple_element)?;
        parser.role(Role::Element);
        Ok(())
    })?;
    parser.close(mark, Kind::TupleType);
    Ok(())
}

fn tuple_element(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if is_named_member(parser) {
        parser.eat(TokenKind::Ellipsis);
        name::any_word(parser, Kind::Name, Role::Name)?;
        parser.eat(TokenKind::Question);
        parser.expect(TokenKind::Colon)?;
        tuple_part(parser)?;
        parser.role(Role::Type);
        parser.close(mark, Kind::TupleMember);
        return Ok(());
    }
    tuple_part(parser)
}

/// A type with `...` before it or `?` after it.
fn tuple_part(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.eat(TokenKind::Ellipsis) {
        any_type(parser)?;
        parser.role(Role::Type);
        parser.close(mark, Kind::RestType);
        return Ok(());
    }
    any_type(parser)?;
    if parser.at(TokenKind::Question) {
        parser.role(Role::Type);
        parser.bump();
        parser.close(mark, Kind::OptionalType);
    }
    Ok(())
}

/// `name:`, `name?:`, `...name:`
fn is_named_member(parser: &mut Front) -> bool {
    let (name_token, kind) = match parser.kind() {
        TokenKind::Ellipsis => parser.next_token(),
        kind => (parser.position(), kind),
    };
    if !name::is_word(kind) {
        return false;
    }
    match parser.token_after(name_token) {
        (_, TokenKind::Colon) => true,
        (question, TokenKind::Question) => parser.token_after(question).1 == TokenKind::Colon,
        _ => false,
    }
}
