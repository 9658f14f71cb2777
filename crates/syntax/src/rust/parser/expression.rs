//! "Expressions": from those that bind loosest down to the operands.

use super::{
    Front, attribute, closure, control, literal, macros, operator, path, postfix, separated, statement, structure,
};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// What a brace behind a path begins.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Braces {
    /// The fields of a value.
    Fields,
    /// The block of the statement around: between `if`, `while`, `for` or `match` and its block.
    Block,
}

/// `Expression`
pub(super) fn expression(parser: &mut Front, role: Role) -> Parsed {
    expression_before(parser, role, Braces::Fields)
}

/// `Expression`, or one `except StructExpression`.
pub(super) fn expression_before(parser: &mut Front, role: Role, braces: Braces) -> Parsed {
    parser.nested(|parser| {
        if !parser.at(TokenKind::Pound) {
            return operator::assignment(parser, braces);
        }
        let mark = parser.open();
        attribute::outer_attributes(parser)?;
        operator::assignment(parser, braces)?;
        parser.role(Role::Value);
        parser.close(mark, Kind::Attributed);
        Ok(())
    })?;
    parser.role(role);
    Ok(())
}

/// `- LiteralExpression`
pub(super) fn negative_literal(parser: &mut Front, role: Role) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !literal::is_literal(parser.kind()) {
        return parser.stop_expecting("a number");
    }
    literal::literal(parser, Role::Operand);
    parser.close_as(mark, Kind::Unary, role);
    Ok(())
}

/// Whether an expression may begin with a token.
pub(super) fn begins(kind: TokenKind, braces: Braces) -> bool {
    literal::is_literal(kind)
        || path::begins(kind)
        || match kind {
            TokenKind::BraceOpen => braces == Braces::Fields,
            _ => matches!(
                kind,
                TokenKind::ParenOpen
                    | TokenKind::BracketOpen
                    | TokenKind::Minus
                    | TokenKind::Exclamation
                    | TokenKind::Star
                    | TokenKind::Ampersand
                    | TokenKind::AndAnd
                    | TokenKind::Bar
                    | TokenKind::BarBar
                    | TokenKind::Less
                    | TokenKind::ShiftLeft
                    | TokenKind::DotDot
                    | TokenKind::RangeInclusive
                    | TokenKind::Lifetime
                    | TokenKind::If
                    | TokenKind::Let
                    | TokenKind::MatchWord
                    | TokenKind::Loop
                    | TokenKind::While
                    | TokenKind::For
                    | TokenKind::Unsafe
                    | TokenKind::Async
                    | TokenKind::Move
                    | TokenKind::StaticWord
                    | TokenKind::Const
                    | TokenKind::Return
                    | TokenKind::Break
                    | TokenKind::Continue
                    | TokenKind::Yield
                    | TokenKind::Underscore
                    | TokenKind::Pound
            ),
        }
}

/// An operand with what is behind it: calls, members, indices, `?`.
pub(super) fn operand(parser: &mut Front, braces: Braces) -> Parsed {
    let mark = parser.open();
    primary(parser, braces)?;
    postfix::suffixes(parser, mark)
}

/// What is alone, or in brackets, or begun by a word.
fn primary(parser: &mut Front, braces: Braces) -> Parsed {
    match parser.kind() {
        kind if literal::is_literal(kind) => literal::literal(parser, Role::Part),
        TokenKind::Try if parser.next_kind() == TokenKind::BraceOpen => return worded_block(parser),
        TokenKind::ParenOpen => return parenthesized(parser),
        TokenKind::BracketOpen => return list(parser),
        TokenKind::BraceOpen => return statement::block(parser, Role::Part),
        TokenKind::Underscore => parser.leaf(Kind::WildcardPattern, Role::Part),
        TokenKind::Bar | TokenKind::BarBar | TokenKind::Move | TokenKind::StaticWord | TokenKind::For
            if closure::begins(parser) =>
        {
            return closure::closure(parser, braces);
        }
        TokenKind::Async if closure::begins(parser) => return closure::closure(parser, braces),
        TokenKind::Async | TokenKind::Unsafe | TokenKind::Const => return worded_block(parser),
        TokenKind::If => return control::if_expression(parser),
        TokenKind::MatchWord => return control::match_expression(parser),
        TokenKind::Loop | TokenKind::While | TokenKind::For => return control::loop_expression(parser),
        TokenKind::Lifetime => return control::labeled(parser),
        TokenKind::Return | TokenKind::Yield => return control::leaving(parser, braces),
        TokenKind::Break => return control::break_expression(parser, braces),
        TokenKind::Continue => return control::continue_expression(parser),
        TokenKind::Less | TokenKind::ShiftLeft => return begun_by_path(parser, braces),
        kind if path::begins(kind) => return begun_by_path(parser, braces),
        _ => return parser.stop_expecting("a value"),
    }
    Ok(())
}

/// `PathExpression | StructExpression | MacroInvocation`
fn begun_by_path(parser: &mut Front, braces: Braces) -> Parsed {
    let mark = parser.open();
    path::in_expression(parser)?;
    if parser.at(TokenKind::BraceOpen) && braces == Braces::Fields {
        return structure::literal(parser, mark);
    }
    if macros::follows_path(parser) {
        macros::call(parser, mark)?;
    }
    Ok(())
}

/// `UnsafeBlockExpression`, `AsyncBlockExpression`, `ConstBlockExpression`: a block with words before it.
pub(super) fn worded_block(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.eat(TokenKind::Async) {
        parser.eat(TokenKind::Move);
    } else {
        parser.bump();
    }
    statement::block(parser, Role::Body)?;
    parser.close(mark, Kind::BlockExpression);
    Ok(())
}

/// `GroupedExpression | TupleExpression`
fn parenthesized(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let (mut count, mut comma) = (0, false);
    while !parser.at(TokenKind::ParenClose) {
        expression(parser, Role::Element)?;
        count += 1;
        comma = parser.eat(TokenKind::Comma);
        if !comma {
            break;
        }
    }
    let is_group = count == 1 && !comma;
    if is_group {
        parser.role(Role::Value);
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close(mark, if is_group { Kind::Group } else { Kind::Tuple });
    Ok(())
}

/// `ArrayExpression : [ ArrayElements? ]`
fn list(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !parser.at(TokenKind::BracketClose) {
        expression(parser, Role::Element)?;
        if parser.eat(TokenKind::Semicolon) {
            expression(parser, Role::Index)?;
            parser.expect(TokenKind::BracketClose)?;
            parser.close(mark, Kind::RepeatedList);
            return Ok(());
        }
        if !parser.at(TokenKind::BracketClose) {
            parser.expect(TokenKind::Comma)?;
        }
    }
    separated(parser, TokenKind::BracketClose, |parser| expression(parser, Role::Element))?;
    parser.close(mark, Kind::List);
    Ok(())
}
