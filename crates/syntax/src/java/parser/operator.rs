//! Operators between operands and before them ("Unary Operators" to "Conditional-Or Operator").

use super::{Front, ahead, lambda, pattern, primary, types};
use crate::java::lexer::Goal;
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// How tightly operators bind.
mod level {
    pub(super) const OR: u8 = 1;
    pub(super) const AND: u8 = 2;
    pub(super) const BIT_OR: u8 = 3;
    pub(super) const BIT_XOR: u8 = 4;
    pub(super) const BIT_AND: u8 = 5;
    pub(super) const EQUALITY: u8 = 6;
    pub(super) const RELATION: u8 = 7;
    pub(super) const SHIFT: u8 = 8;
    pub(super) const SUM: u8 = 9;
    pub(super) const TERM: u8 = 10;
}

/// `ConditionalOrExpression`
pub(super) fn binary(parser: &mut Front) -> Parsed {
    operands(parser, level::OR)
}

/// The level of an operator between two operands, with what both are; nothing for another token.
fn level_of(kind: TokenKind) -> Option<(u8, Kind)> {
    Some(match kind {
        TokenKind::BarBar => (level::OR, Kind::Logical),
        TokenKind::AndAnd => (level::AND, Kind::Logical),
        TokenKind::Bar => (level::BIT_OR, Kind::Binary),
        TokenKind::Caret => (level::BIT_XOR, Kind::Binary),
        TokenKind::Ampersand => (level::BIT_AND, Kind::Binary),
        TokenKind::Equal | TokenKind::NotEqual => (level::EQUALITY, Kind::Comparison),
        TokenKind::Less
        | TokenKind::LessEqual
        | TokenKind::Greater
        | TokenKind::GreaterEqual
        | TokenKind::Instanceof => (level::RELATION, Kind::Comparison),
        TokenKind::ShiftLeft | TokenKind::ShiftRight | TokenKind::ShiftRightZero => (level::SHIFT, Kind::Binary),
        TokenKind::Plus | TokenKind::Minus => (level::SUM, Kind::Binary),
        TokenKind::Star | TokenKind::Slash | TokenKind::Percent => (level::TERM, Kind::Binary),
        _ => return None,
    })
}

fn operands(parser: &mut Front, least: u8) -> Parsed {
    let mark = parser.open();
    unary(parser)?;
    loop {
        parser.join_greater(Goal::Greater);
        let Some((level, kind)) = level_of(parser.kind()).filter(|(level, _)| *level >= least) else { return Ok(()) };
        let operator = parser.kind();
        let (left, right) =
            if kind == Kind::Binary { (Role::Left, Role::Right) } else { (Role::Operand, Role::Operand) };
        parser.role(left);
        parser.bump();
        if operator == TokenKind::Instanceof {
            tested_type(parser)?;
        } else {
            operand_of(parser, level, right)?;
            // Operands that are joined by the same sign are operands of one.
            while kind == Kind::Logical && parser.at(operator) {
                parser.bump();
                operand_of(parser, level, right)?;
            }
        }
        parser.close(mark, kind);
    }
}

/// The operand behind an operator.
fn operand_of(parser: &mut Front, level: u8, role: Role) -> Parsed {
    operands(parser, level + 1)?;
    parser.role(role);
    Ok(())
}

/// `InstanceofExpression: RelationalExpression instanceof (ReferenceType | Pattern)`, behind its word.
fn tested_type(parser: &mut Front) -> Parsed {
    if pattern::begins(parser) {
        return pattern::pattern(parser, Role::Operand);
    }
    types::type_of(parser, Role::Operand)
}

/// `UnaryExpression`, `CastExpression`
fn unary(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let kind = match parser.kind() {
        TokenKind::PlusPlus | TokenKind::MinusMinus => Kind::Update,
        TokenKind::Plus | TokenKind::Minus | TokenKind::Exclamation | TokenKind::Tilde => Kind::Unary,
        TokenKind::ParenOpen if begins_cast(parser) => return cast(parser, mark),
        _ => return postfix(parser),
    };
    parser.bump();
    parser.nested(unary)?;
    parser.role(Role::Operand);
    parser.close(mark, kind);
    Ok(())
}

/// `PostfixExpression`
fn postfix(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    primary::primary(parser)?;
    while matches!(parser.kind(), TokenKind::PlusPlus | TokenKind::MinusMinus) {
        parser.role(Role::Operand);
        parser.bump();
        parser.close(mark, Kind::Update);
    }
    Ok(())
}

/// Whether a parenthesis begins a cast: a type is in it, and behind it what an operand may begin with. A sign may do so only behind a primitive type.
fn begins_cast(parser: &mut Front) -> bool {
    let mut token = parser.next_token();
    let is_primitive = token.1 == TokenKind::PrimitiveType;
    loop {
        let Some(behind) = ahead::behind_type(parser, token) else { return false };
        match behind.1 {
            TokenKind::Ampersand => token = parser.token_after(behind.0),
            TokenKind::ParenClose => {
                let first = parser.token_after(behind.0).1;
                let is_array = parser.kind_of(behind.0 - 1) == TokenKind::BracketClose;
                return is_primitive && !is_array || begins_operand(first);
            }
            _ => return false,
        }
    }
}

/// Whether a token begins a `UnaryExpressionNotPlusMinus`, or a lambda expression.
fn begins_operand(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::Name
            | TokenKind::Underscore
            | TokenKind::Number
            | TokenKind::String
            | TokenKind::Character
            | TokenKind::TrueWord
            | TokenKind::FalseWord
            | TokenKind::NullWord
            | TokenKind::ParenOpen
            | TokenKind::Exclamation
            | TokenKind::Tilde
            | TokenKind::This
            | TokenKind::Super
            | TokenKind::New
            | TokenKind::Switch
            | TokenKind::PrimitiveType
            | TokenKind::Void
    )
}

/// `CastExpression: ( Type {& InterfaceType} ) Operand`
fn cast(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    types::joined(parser, TokenKind::Ampersand, Kind::IntersectionType, Role::Type)?;
    parser.expect(TokenKind::ParenClose)?;
    parser.nested(|parser| if lambda::begins(parser) { lambda::lambda(parser) } else { unary(parser) })?;
    parser.role(Role::Value);
    parser.close(mark, Kind::Cast);
    Ok(())
}
