//! "Structs", "Enumerations", "Unions", "Struct expressions".

use super::{Front, attribute, bound, expression, item, name, postfix, separated, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `Struct : StructStruct | TupleStruct`, `Union`, from the word on.
pub(super) fn definition(parser: &mut Front, mark: Mark) -> Parsed {
    let is_union = !parser.at(TokenKind::Struct);
    parser.bump();
    name(parser, Role::Name)?;
    bound::opt_parameters(parser)?;
    bound::opt_where(parser)?;
    match parser.kind() {
        TokenKind::BraceOpen => fields(parser)?,
        TokenKind::ParenOpen if !is_union => {
            types::tuple(parser, tuple_field)?;
            bound::opt_where(parser)?;
            parser.expect(TokenKind::Semicolon)?;
        }
        TokenKind::Semicolon if !is_union => parser.bump(),
        _ => return parser.stop_expecting("the fields"),
    }
    parser.close(mark, Kind::TypeDefinition);
    Ok(())
}

/// `StructFields` in braces.
fn fields(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    separated(parser, TokenKind::BraceClose, |parser| {
        let mark = parser.open();
        attribute::outer_attributes(parser)?;
        item::opt_visibility(parser)?;
        name(parser, Role::Name)?;
        parser.expect(TokenKind::Colon)?;
        types::type_of(parser, Role::Type)?;
        if parser.eat(TokenKind::Assign) {
            expression::expression(parser, Role::Value)?;
        }
        parser.close_as(mark, Kind::Field, Role::Statement);
        Ok(())
    })?;
    parser.close_as(mark, Kind::ObjectType, Role::Type);
    Ok(())
}

/// `TupleField : OuterAttribute* Visibility? Type`
fn tuple_field(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    attribute::outer_attributes(parser)?;
    item::opt_visibility(parser)?;
    types::type_of(parser, Role::Type)?;
    parser.close_as(mark, Kind::Field, Role::Element);
    Ok(())
}

/// `Enumeration : enum IDENTIFIER GenericParams? WhereClause? { EnumVariants? }`
pub(super) fn enumeration(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    name(parser, Role::Name)?;
    bound::opt_parameters(parser)?;
    bound::opt_where(parser)?;
    let body = parser.open();
    parser.expect(TokenKind::BraceOpen)?;
    separated(parser, TokenKind::BraceClose, variant)?;
    parser.close_as(body, Kind::Block, Role::Body);
    parser.close(mark, Kind::Enum);
    Ok(())
}

/// `EnumVariant : OuterAttribute* Visibility? IDENTIFIER ( EnumVariantTuple | EnumVariantStruct )? EnumVariantDiscriminant?`
fn variant(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    attribute::outer_attributes(parser)?;
    item::opt_visibility(parser)?;
    name(parser, Role::Name)?;
    match parser.kind() {
        TokenKind::BraceOpen => fields(parser)?,
        TokenKind::ParenOpen => types::tuple(parser, tuple_field)?,
        _ => {}
    }
    if parser.eat(TokenKind::Assign) {
        expression::expression(parser, Role::Value)?;
    }
    parser.close_as(mark, Kind::EnumMember, Role::Statement);
    Ok(())
}

/// `StructExpression : PathInExpression { ( StructExprFields | StructBase )? }`, whose path began at `mark` and was read.
pub(super) fn literal(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Type);
    parser.bump();
    while !parser.at(TokenKind::BraceClose) {
        let inner = parser.open();
        attribute::outer_attributes(parser)?;
        if parser.eat(TokenKind::DotDot) {
            if !parser.at(TokenKind::BraceClose) {
                expression::expression(parser, Role::Value)?;
            }
            parser.close_as(inner, Kind::Spread, Role::Element);
            break;
        }
        field_value(parser, inner)?;
        parser.role(Role::Element);
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    parser.expect(TokenKind::BraceClose)?;
    parser.close(mark, Kind::Composite);
    Ok(())
}

/// `StructExprField : OuterAttribute* ( IDENTIFIER | ( IDENTIFIER | TUPLE_INDEX ) : Expression )`
fn field_value(parser: &mut Front, mark: Mark) -> Parsed {
    match parser.kind() {
        TokenKind::Number if postfix::is_index(parser.text()) => parser.leaf(Kind::Number, Role::Key),
        _ if parser.next_kind() == TokenKind::Colon => name(parser, Role::Key)?,
        _ => {
            name(parser, Role::Name)?;
            parser.close(mark, Kind::ShorthandPair);
            return Ok(());
        }
    }
    parser.expect(TokenKind::Colon)?;
    expression::expression(parser, Role::Value)?;
    parser.close(mark, Kind::Pair);
    Ok(())
}
