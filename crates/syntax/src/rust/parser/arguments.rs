//! "Generic arguments".

use super::{Front, bound, expression, literal, separated, split, statement, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `GenericArgs : < ( GenericArg , )* GenericArg ,? >`
pub(super) fn type_arguments(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        split(parser, TokenKind::ShiftLeft);
        parser.expect(TokenKind::Less)?;
        separated(parser, TokenKind::Greater, argument)?;
        parser.close(mark, Kind::TypeArguments);
        Ok(())
    })?;
    parser.role(Role::TypeArguments);
    Ok(())
}

/// `GenericArg : Lifetime | Type | GenericArgsConst | GenericArgsBinding | GenericArgsBounds`
fn argument(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    match parser.kind() {
        TokenKind::Lifetime if !follows_plus(parser) => parser.leaf(Kind::Lifetime, Role::Argument),
        TokenKind::BraceOpen => statement::block(parser, Role::Argument)?,
        TokenKind::Minus => expression::negative_literal(parser, Role::Argument)?,
        kind if literal::is_literal(kind) => literal::literal(parser, Role::Argument),
        _ => {
            types::type_of(parser, Role::Argument)?;
            named(parser, mark)?;
        }
    }
    parser.role(Role::Argument);
    Ok(())
}

fn follows_plus(parser: &mut Front) -> bool {
    parser.next_kind() == TokenKind::Plus
}

/// Whether what began at `mark` is a name, perhaps with arguments.
fn is_name(parser: &Front, mark: Mark) -> bool {
    parser.last_since(mark).is_some_and(|node| {
        let first = node.children_backwards().last();
        node.kind() == Kind::NamedType && first.is_some_and(|first| first.kind() == Kind::Name)
    })
}

/// `GenericArgsBinding : IDENTIFIER GenericArgs? = Type`, `GenericArgsBounds : IDENTIFIER GenericArgs? : TypeParamBounds`
fn named(parser: &mut Front, mark: Mark) -> Parsed {
    match parser.kind() {
        TokenKind::Assign => {
            parser.role(Role::Name);
            parser.bump();
            match parser.kind() {
                TokenKind::BraceOpen => statement::block(parser, Role::Value)?,
                TokenKind::Minus => expression::negative_literal(parser, Role::Value)?,
                kind if literal::is_literal(kind) => literal::literal(parser, Role::Value),
                _ => types::type_of(parser, Role::Value)?,
            }
        }
        TokenKind::Colon if is_name(parser, mark) => {
            parser.role(Role::Name);
            parser.bump();
            bound::bounds(parser)?;
        }
        _ => return Ok(()),
    }
    parser.close(mark, Kind::KeywordArgument);
    Ok(())
}
