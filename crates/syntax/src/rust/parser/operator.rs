//! "Operator expressions", "Range expressions".

use super::expression::{Braces, begins, operand};
use super::{Front, pattern, split, types};
use crate::parse::Parsed;
use crate::rust::lexer::Goal;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// How tightly operators bind.
mod level {
    pub(super) const OR: u8 = 1;
    pub(super) const AND: u8 = 2;
    pub(super) const COMPARISON: u8 = 3;
    pub(super) const BIT_OR: u8 = 4;
    pub(super) const BIT_XOR: u8 = 5;
    pub(super) const BIT_AND: u8 = 6;
    pub(super) const SHIFT: u8 = 7;
    pub(super) const SUM: u8 = 8;
    pub(super) const TERM: u8 = 9;
}

/// `AssignmentExpression : Expression = Expression`, `CompoundAssignmentExpression`, or what binds tighter.
pub(super) fn assignment(parser: &mut Front, braces: Braces) -> Parsed {
    let mark = parser.open();
    range(parser, braces)?;
    assigned(parser, mark, braces)
}

/// What may stand behind an operand that is read already, which began at `mark`.
pub(super) fn behind_operand(parser: &mut Front, mark: Mark, braces: Braces) -> Parsed {
    casts(parser, mark)?;
    operands(parser, mark, level::OR, braces)?;
    range_behind(parser, mark, braces)?;
    assigned(parser, mark, braces)
}

/// An assignment to what began at `mark`, if one is here.
fn assigned(parser: &mut Front, mark: Mark, braces: Braces) -> Parsed {
    if parser.last_since(mark).is_some_and(|node| node.kind() == Kind::Range) {
        return Ok(());
    }
    parser.join_greater(Goal::Greater);
    let kind = match parser.kind() {
        TokenKind::Assign => Kind::Assignment,
        kind if kind.is_compound_assignment() => Kind::CompoundAssignment,
        _ => return Ok(()),
    };
    parser.role(Role::Target);
    parser.bump();
    parser.nested(|parser| assignment(parser, braces))?;
    parser.role(Role::Value);
    parser.close(mark, kind);
    Ok(())
}

/// `RangeExpression`, or what binds tighter.
fn range(parser: &mut Front, braces: Braces) -> Parsed {
    let mark = parser.open();
    binary(parser, level::OR, braces)?;
    range_behind(parser, mark, braces)
}

/// A range whose first end began at `mark`, or is left out, if one is here. Ranges are not joined to another one.
fn range_behind(parser: &mut Front, mark: Mark, braces: Braces) -> Parsed {
    let before = parser.last_since(mark).map(|node| node.kind());
    if !at_range(parser) || before == Some(Kind::Range) {
        return Ok(());
    }
    if before.is_some() {
        parser.role(Role::Lower);
    }
    let needs_end = parser.at(TokenKind::RangeInclusive);
    parser.bump();
    if begins(parser.kind(), braces) && !at_range(parser) {
        binary(parser, level::OR, braces)?;
        parser.role(Role::Upper);
    } else if needs_end {
        return parser.stop_expecting("a value");
    }
    parser.close(mark, Kind::Range);
    Ok(())
}

fn at_range(parser: &Front) -> bool {
    matches!(parser.kind(), TokenKind::DotDot | TokenKind::RangeInclusive)
}

/// The level of an operator between two operands, with what both are; nothing for another token.
fn level_of(kind: TokenKind) -> Option<(u8, Kind)> {
    Some(match kind {
        TokenKind::BarBar => (level::OR, Kind::Logical),
        TokenKind::AndAnd => (level::AND, Kind::Logical),
        TokenKind::Equal
        | TokenKind::NotEqual
        | TokenKind::Less
        | TokenKind::LessEqual
        | TokenKind::Greater
        | TokenKind::GreaterEqual => (level::COMPARISON, Kind::Comparison),
        TokenKind::Bar => (level::BIT_OR, Kind::Binary),
        TokenKind::Caret => (level::BIT_XOR, Kind::Binary),
        TokenKind::Ampersand => (level::BIT_AND, Kind::Binary),
        TokenKind::ShiftLeft | TokenKind::ShiftRight => (level::SHIFT, Kind::Binary),
        TokenKind::Plus | TokenKind::Minus => (level::SUM, Kind::Binary),
        TokenKind::Star | TokenKind::Slash | TokenKind::Percent => (level::TERM, Kind::Binary),
        _ => return None,
    })
}

fn binary(parser: &mut Front, least: u8, braces: Braces) -> Parsed {
    let mark = parser.open();
    if at_range(parser) {
        return range_behind(parser, mark, braces);
    }
    unary(parser, braces)?;
    casts(parser, mark)?;
    operands(parser, mark, least, braces)
}

/// Operators that bind at least as tightly as `least`, behind an operand that began at `mark`.
fn operands(parser: &mut Front, mark: Mark, least: u8, braces: Braces) -> Parsed {
    loop {
        parser.join_greater(Goal::Greater);
        let Some((level, kind)) = level_of(parser.kind()).filter(|(level, _)| *level >= least) else { return Ok(()) };
        let operator = parser.kind();
        let (left, right) =
            if kind == Kind::Binary { (Role::Left, Role::Right) } else { (Role::Operand, Role::Operand) };
        parser.role(left);
        parser.bump();
        operand_of(parser, level, right, braces)?;
        // Operands that are joined by the same sign are operands of one.
        while kind == Kind::Logical && parser.at(operator) {
            parser.bump();
            operand_of(parser, level, right, braces)?;
        }
        parser.close(mark, kind);
        parser.join_greater(Goal::Greater);
        if kind == Kind::Comparison && level_of(parser.kind()).is_some_and(|(level, _)| level == level::COMPARISON) {
            return parser.stop(Problem::Rule("comparisons are not chained: use '&&'"));
        }
    }
}

/// The operand behind an operator.
fn operand_of(parser: &mut Front, level: u8, role: Role, braces: Braces) -> Parsed {
    binary(parser, level + 1, braces)?;
    parser.role(role);
    Ok(())
}

/// `TypeCastExpression : Expression as TypeNoBounds`, as often as it stands there, of what began at `mark`.
fn casts(parser: &mut Front, mark: Mark) -> Parsed {
    while parser.at(TokenKind::As) {
        parser.role(Role::Value);
        parser.bump();
        types::type_without_bounds(parser, Role::Type)?;
        parser.close(mark, Kind::Cast);
    }
    Ok(())
}

/// `BorrowExpression | DereferenceExpression | NegationExpression`, or a condition that binds names.
fn unary(parser: &mut Front, braces: Braces) -> Parsed {
    match parser.kind() {
        TokenKind::Minus | TokenKind::Exclamation | TokenKind::Star => {}
        TokenKind::Ampersand | TokenKind::AndAnd => return borrow(parser, braces),
        TokenKind::Let => return let_condition(parser, braces),
        _ => return operand(parser, braces),
    }
    let mark = parser.open();
    parser.bump();
    parser.nested(|parser| unary_with_attributes(parser, braces))?;
    parser.role(Role::Operand);
    parser.close(mark, Kind::Unary);
    Ok(())
}

fn unary_with_attributes(parser: &mut Front, braces: Braces) -> Parsed {
    if !parser.at(TokenKind::Pound) {
        return unary(parser, braces);
    }
    let mark = parser.open();
    super::attribute::outer_attributes(parser)?;
    unary(parser, braces)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::Attributed);
    Ok(())
}

/// `BorrowExpression : ( & | && ) ( mut | raw const | raw mut )? Expression`
fn borrow(parser: &mut Front, braces: Braces) -> Parsed {
    split(parser, TokenKind::AndAnd);
    let mark = parser.open();
    parser.bump();
    let is_raw = parser.at(TokenKind::Name)
        && parser.text() == "raw"
        && matches!(parser.next_kind(), TokenKind::Const | TokenKind::Mut);
    if is_raw {
        parser.bump();
        parser.bump();
    } else {
        parser.eat(TokenKind::Mut);
    }
    parser.nested(|parser| {
        if !at_range(parser) {
            return unary_with_attributes(parser, braces);
        }
        let inner = parser.open();
        range_behind(parser, inner, braces)
    })?;
    parser.role(Role::Operand);
    parser.close(mark, Kind::Unary);
    Ok(())
}

/// `let Pattern = Scrutinee`, as a part of a condition.
fn let_condition(parser: &mut Front, braces: Braces) -> Parsed {
    let mark = parser.open();
    parser.bump();
    pattern::pattern(parser, Role::Pattern)?;
    parser.expect(TokenKind::Assign)?;
    parser.nested(|parser| binary(parser, level::COMPARISON, braces))?;
    parser.role(Role::Value);
    parser.close(mark, Kind::LetCondition);
    Ok(())
}
