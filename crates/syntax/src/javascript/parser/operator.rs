//! Operators by their precedence, from "Binary Logical Operators" down to "Update Expressions".

use super::super::lexer::Goal;
use super::{Front, chain, target, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// How tightly an operator binds.
mod power {
    pub(super) const NULLISH: u8 = 1;
    pub(super) const OR: u8 = 2;
    pub(super) const AND: u8 = 3;
    pub(super) const BIT_OR: u8 = 4;
    pub(super) const BIT_XOR: u8 = 5;
    pub(super) const BIT_AND: u8 = 6;
    pub(super) const EQUALITY: u8 = 7;
    pub(super) const RELATION: u8 = 8;
    pub(super) const SHIFT: u8 = 9;
    pub(super) const SUM: u8 = 10;
    pub(super) const TERM: u8 = 11;
    pub(super) const POWER: u8 = 12;
}

/// The power of the operator at the current token; zero where there is none.
#[inline]
fn power_here(parser: &mut Front) -> u8 {
    match parser.kind() {
        TokenKind::QuestionQuestion => power::NULLISH,
        TokenKind::BarBar => power::OR,
        TokenKind::AndAnd => power::AND,
        TokenKind::Bar => power::BIT_OR,
        TokenKind::Caret => power::BIT_XOR,
        TokenKind::Ampersand => power::BIT_AND,
        TokenKind::Equal | TokenKind::NotEqual | TokenKind::StrictEqual | TokenKind::StrictNotEqual => power::EQUALITY,
        TokenKind::Less | TokenKind::LessEqual | TokenKind::GreaterEqual | TokenKind::Instanceof => power::RELATION,
        TokenKind::In if !parser.context().no_in => power::RELATION,
        TokenKind::Greater => {
            parser.join_greater(Goal::Greater);
            match parser.kind() {
                TokenKind::Greater | TokenKind::GreaterEqual => power::RELATION,
                TokenKind::ShiftRight | TokenKind::ShiftRightZero => power::SHIFT,
                _ => 0,
            }
        }
        TokenKind::ShiftLeft | TokenKind::ShiftRight | TokenKind::ShiftRightZero => power::SHIFT,
        TokenKind::Plus | TokenKind::Minus => power::SUM,
        TokenKind::Star | TokenKind::Slash | TokenKind::Percent => power::TERM,
        TokenKind::StarStar => power::POWER,
        TokenKind::Name if parser.has_types() && at_cast(parser) => power::RELATION,
        _ => 0,
    }
}

/// `as` and `satisfies` between a value and a type, on the line of the value.
fn at_cast(parser: &Front) -> bool {
    matches!(parser.text(), "as" | "satisfies") && !parser.at_new_line()
}

/// `ShortCircuitExpression : LogicalORExpression | CoalesceExpression`
pub(super) fn short_circuit(parser: &mut Front) -> Parsed {
    binary(parser, power::NULLISH)
}

/// Operators that bind at least as tightly as `least`.
fn binary(parser: &mut Front, least: u8) -> Parsed {
    let mark = parser.open();
    // `#quay in boat`: only there may a private name stand alone.
    if parser.at(TokenKind::PrivateName) && parser.next_kind() == TokenKind::In && least <= power::RELATION {
        parser.leaf(Kind::PrivateName, Role::Operand);
    } else {
        unary(parser)?;
    }
    loop {
        let power = power_here(parser);
        if power == 0 || power < least {
            return Ok(());
        }
        match power {
            power::NULLISH | power::OR | power::AND => logical(parser, mark, power)?,
            power::EQUALITY => relation(parser, mark, power)?,
            power::RELATION if parser.at(TokenKind::Name) => cast(parser, mark)?,
            power::RELATION => relation(parser, mark, power)?,
            // Binds to the right; an operator before the left side would be read wrongly by somebody.
            power::POWER => {
                refuse_unary_base(parser, mark)?;
                operands(parser, mark, power)?;
            }
            _ => operands(parser, mark, power + 1)?,
        }
    }
}

fn operands(parser: &mut Front, mark: Mark, right: u8) -> Parsed {
    parser.role(Role::Left);
    parser.bump();
    if right == power::POWER {
        parser.nested(|parser| binary(parser, right))?;
    } else {
        binary(parser, right)?;
    }
    parser.role(Role::Right);
    parser.close(mark, Kind::Binary);
    Ok(())
}

fn relation(parser: &mut Front, mark: Mark, power: u8) -> Parsed {
    parser.role(Role::Operand);
    parser.bump();
    binary(parser, power + 1)?;
    parser.role(Role::Operand);
    parser.close(mark, Kind::Comparison);
    Ok(())
}

/// Operands joined by one logical operator; `??` does not mix with the others without parentheses.
fn logical(parser: &mut Front, mark: Mark, power: u8) -> Parsed {
    let operator = parser.kind();
    let mixes = |parser: &Front, since: Mark| {
        parser.last_since(since).is_some_and(|operand| {
            let joins = |kind| operand_holds(parser, operand.first_token(), operand.end_token(), kind);
            operand.kind() == Kind::Logical
                && match operator {
                    TokenKind::QuestionQuestion => !joins(TokenKind::QuestionQuestion),
                    _ => joins(TokenKind::QuestionQuestion),
                }
        })
    };
    let mut mixed = mixes(parser, mark);
    parser.role(Role::Operand);
    while parser.eat(operator) {
        let operand = parser.open();
        binary(parser, power + 1)?;
        mixed |= mixes(parser, operand);
        parser.role(Role::Operand);
    }
    parser.close(mark, Kind::Logical);
    if mixed {
        parser.fault_since(mark, Problem::Rule("'??' mixes with '&&' and '||' only in parentheses"));
    }
    Ok(())
}

/// Whether the operator of a logical expression is of this kind: checks the tokens outside of brackets.
fn operand_holds(parser: &Front, first: u32, end: u32, operator: TokenKind) -> bool {
    let mut open = 0u32;
    for token in first..end {
        let kind = parser.kind_of(token);
        if kind.opens() || kind == TokenKind::DollarBrace {
            open += 1;
        } else if kind.closes() {
            open = open.saturating_sub(1);
        } else if open == 0 && kind == operator {
            return true;
        }
    }
    false
}

/// `x as T`, `x satisfies T`
fn cast(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Value);
    parser.bump();
    types::type_or_const(parser)?;
    parser.role(Role::Type);
    parser.close(mark, Kind::Cast);
    Ok(())
}

fn refuse_unary_base(parser: &mut Front, mark: Mark) -> Parsed {
    let unary = parser.last_since(mark).is_some_and(|base| matches!(base.kind(), Kind::Unary | Kind::Await));
    let awaits = parser.last_since(mark).is_some_and(|base| base.kind() == Kind::Await);
    if unary && !(awaits && parser.has_types()) {
        return parser.stop(Problem::Rule("an operator before the base of '**' needs parentheses"));
    }
    Ok(())
}

/// `UnaryExpression`
#[inline]
fn unary(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::Delete
        | TokenKind::Void
        | TokenKind::Typeof
        | TokenKind::Plus
        | TokenKind::Minus
        | TokenKind::Tilde
        | TokenKind::Exclamation => {
            let mark = parser.open();
            parser.bump();
            parser.nested(unary)?;
            parser.role(Role::Operand);
            parser.close(mark, Kind::Unary);
            Ok(())
        }
        TokenKind::PlusPlus | TokenKind::MinusMinus => {
            let mark = parser.open();
            parser.bump();
            let operand = parser.open();
            parser.nested(unary)?;
            target::check(parser, operand, target::Use::Update)?;
            parser.role(Role::Operand);
            parser.close(mark, Kind::Update);
            Ok(())
        }
        TokenKind::Less if parser.has_types() && !parser.own.dialect.markup => type_assertion(parser),
        TokenKind::Name if at_await(parser) => {
            let mark = parser.open();
            parser.bump();
            parser.nested(unary)?;
            parser.role(Role::Value);
            parser.close(mark, Kind::Await);
            Ok(())
        }
        _ => update(parser),
    }
}

/// `<T>x`
fn type_assertion(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    types::type_or_const(parser)?;
    parser.role(Role::Type);
    parser.expect(TokenKind::Greater)?;
    parser.nested(unary)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::Cast);
    Ok(())
}

/// Whether `await` is an operator here: in an asynchronous function, or at the top of a module, where it is a name to scripts, if
/// what follows on the line can only be a value.
fn at_await(parser: &mut Front) -> bool {
    if !parser.at_word("await") {
        return false;
    }
    let context = parser.context();
    if context.in_async || (parser.own.is_module && !context.in_function) {
        return true;
    }
    if context.in_function && !parser.has_types() {
        return false;
    }
    let (kind, word) = parser.next_word();
    let value = match kind {
        TokenKind::Name => word != "of" || parser.has_types(),
        TokenKind::ParenOpen | TokenKind::BracketOpen | TokenKind::BraceOpen | TokenKind::FormatStart => {
            !context.in_function && !parser.has_types()
        }
        TokenKind::Number
        | TokenKind::String
        | TokenKind::This
        | TokenKind::New
        | TokenKind::FunctionWord
        | TokenKind::Class
        | TokenKind::Import
        | TokenKind::NullWord
        | TokenKind::Super
        | TokenKind::TrueWord
        | TokenKind::FalseWord => true,
        _ => false,
    };
    value && !parser.next_is_on_new_line()
}

/// `UpdateExpression`
#[inline]
fn update(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    chain::left_hand_side(parser)?;
    if matches!(parser.kind(), TokenKind::PlusPlus | TokenKind::MinusMinus) && !parser.at_new_line() {
        target::check(parser, mark, target::Use::Update)?;
        parser.role(Role::Operand);
        parser.bump();
        parser.close(mark, Kind::Update);
    }
    Ok(())
}
