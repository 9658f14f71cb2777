//! "Trait and lifetime bounds", "Generic parameters", "Where clauses".

use super::{Front, arguments, attribute, expression, literal, name, path, separated, statement, types};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Role, TokenKind};

/// `TypeParamBounds : TypeParamBound ( + TypeParamBound )* +?`, none at all included. Gives whether a trait is among them.
pub(super) fn bounds(parser: &mut Front) -> Result<bool, Stop> {
    let mut has_trait = false;
    while begins_bound(parser.kind()) {
        has_trait |= !matches!(parser.kind(), TokenKind::Lifetime | TokenKind::Use);
        bound(parser)?;
        if !parser.eat(TokenKind::Plus) {
            break;
        }
    }
    Ok(has_trait)
}

/// `LifetimeBounds : ( Lifetime + )* Lifetime?`
fn lifetime_bounds(parser: &mut Front) {
    while parser.at(TokenKind::Lifetime) {
        parser.leaf(Kind::Lifetime, Role::Bound);
        if !parser.eat(TokenKind::Plus) {
            break;
        }
    }
}

fn begins_bound(kind: TokenKind) -> bool {
    path::begins(kind)
        || matches!(
            kind,
            TokenKind::Lifetime
                | TokenKind::Question
                | TokenKind::Tilde
                | TokenKind::ParenOpen
                | TokenKind::For
                | TokenKind::Use
                | TokenKind::Const
                | TokenKind::Async
                | TokenKind::BracketOpen
                | TokenKind::Less
        )
}

/// `TypeParamBound : Lifetime | TraitBound | UseBound`
pub(super) fn bound(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::Lifetime => parser.leaf(Kind::Lifetime, Role::Bound),
        TokenKind::ParenOpen => {
            let mark = parser.open();
            parser.bump();
            parser.nested(bound)?;
            parser.role(Role::Type);
            parser.expect(TokenKind::ParenClose)?;
            parser.close(mark, Kind::GroupType);
        }
        TokenKind::Use => captured(parser)?,
        _ => trait_bound(parser)?,
    }
    parser.role(Role::Bound);
    Ok(())
}

/// `TraitBound : ( ? | ForLifetimes )? TypePath`, with the words that say where it holds.
fn trait_bound(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let mut is_marked = false;
    loop {
        match parser.kind() {
            TokenKind::For => for_lifetimes(parser)?,
            TokenKind::Question if !is_marked => parser.bump(),
            TokenKind::Tilde => {
                parser.bump();
                parser.expect(TokenKind::Const)?;
            }
            TokenKind::Const | TokenKind::Async => parser.bump(),
            TokenKind::BracketOpen => {
                parser.bump();
                parser.expect(TokenKind::Const)?;
                parser.expect(TokenKind::BracketClose)?;
            }
            _ => break,
        }
        is_marked = true;
    }
    path::in_type(parser)?;
    if is_marked {
        parser.role(Role::Operand);
        parser.close(mark, Kind::TypeOperator);
    }
    Ok(())
}

/// `UseBound : use < … >`: what a hidden type captures.
fn captured(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    arguments::type_arguments(parser)?;
    parser.close(mark, Kind::NamedType);
    Ok(())
}

/// `TypePathFn : ( TypePathFnInputs? ) ( -> TypeNoBounds )?`
pub(super) fn function_arguments(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.bump();
        separated(parser, TokenKind::ParenClose, |parser| types::type_of(parser, Role::Argument))?;
        if parser.eat(TokenKind::Arrow) {
            types::type_without_bounds(parser, Role::Returns)?;
        }
        parser.close(mark, Kind::TypeArguments);
        Ok(())
    })?;
    parser.role(Role::TypeArguments);
    Ok(())
}

/// `ForLifetimes : for GenericParams`
pub(super) fn for_lifetimes(parser: &mut Front) -> Parsed {
    parser.bump();
    if !parser.at(TokenKind::Less) {
        return parser.expect(TokenKind::Less);
    }
    parameters(parser)
}

/// `GenericParams : < ( GenericParam , )* GenericParam ,? >`, if there are any.
pub(super) fn opt_parameters(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Less) { parameters(parser) } else { Ok(()) }
}

fn parameters(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.bump();
        separated(parser, TokenKind::Greater, parameter)?;
        parser.close(mark, Kind::TypeParameters);
        Ok(())
    })?;
    parser.role(Role::TypeParameters);
    Ok(())
}

/// `GenericParam : OuterAttribute* ( LifetimeParam | TypeParam | ConstParam )`
fn parameter(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    attribute::outer_attributes(parser)?;
    match parser.kind() {
        TokenKind::Lifetime => {
            parser.leaf(Kind::Lifetime, Role::Name);
            if parser.eat(TokenKind::Colon) {
                lifetime_bounds(parser);
            }
        }
        TokenKind::Const => constant(parser)?,
        _ => {
            name(parser, Role::Name)?;
            if parser.eat(TokenKind::Colon) {
                bounds(parser)?;
            }
            if parser.eat(TokenKind::Assign) {
                types::type_of(parser, Role::Default)?;
            }
        }
    }
    parser.close_as(mark, Kind::TypeParameter, Role::Parameter);
    Ok(())
}

/// `ConstParam : const IDENTIFIER : Type ( = ( Block | IDENTIFIER | -? LiteralExpression ) )?`
fn constant(parser: &mut Front) -> Parsed {
    parser.bump();
    name(parser, Role::Name)?;
    parser.expect(TokenKind::Colon)?;
    types::type_of(parser, Role::Type)?;
    if parser.eat(TokenKind::Assign) {
        match parser.kind() {
            TokenKind::BraceOpen => statement::block(parser, Role::Default)?,
            TokenKind::Minus => expression::negative_literal(parser, Role::Default)?,
            kind if literal::is_literal(kind) => literal::literal(parser, Role::Default),
            _ => name(parser, Role::Default)?,
        }
    }
    Ok(())
}

/// `WhereClause : where ( WhereClauseItem , )* WhereClauseItem?`, if there is one.
pub(super) fn opt_where(parser: &mut Front) -> Parsed {
    if !parser.at(TokenKind::Where) {
        return Ok(());
    }
    let mark = parser.open();
    parser.bump();
    while !matches!(
        parser.kind(),
        TokenKind::BraceOpen | TokenKind::Semicolon | TokenKind::Assign | TokenKind::EndOfFile | TokenKind::Comma
    ) {
        clause(parser)?;
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    parser.close_as(mark, Kind::WhereClause, Role::Condition);
    Ok(())
}

/// `WhereClauseItem : Lifetime : LifetimeBounds | ForLifetimes? Type : TypeParamBounds?`
fn clause(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    attribute::outer_attributes(parser)?;
    if parser.at(TokenKind::Lifetime) {
        parser.leaf(Kind::Lifetime, Role::Type);
        parser.expect(TokenKind::Colon)?;
        lifetime_bounds(parser);
    } else {
        if parser.at(TokenKind::For) {
            for_lifetimes(parser)?;
        }
        types::type_of(parser, Role::Type)?;
        parser.expect(TokenKind::Colon)?;
        bounds(parser)?;
    }
    parser.close_as(mark, Kind::TypeBound, Role::Part);
    Ok(())
}
