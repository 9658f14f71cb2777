//! "Expressions" of the grammar, operators by their precedence.

use super::atom::primary;
use super::function::lambda_parameters;
use super::target;
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// How tightly an operator binds, from the section "Operator precedence" of the reference.
mod power {
    pub(super) const OR: u8 = 1;
    pub(super) const AND: u8 = 2;
    pub(super) const NOT: u8 = 3;
    pub(super) const COMPARISON: u8 = 4;
    pub(super) const BIT_OR: u8 = 5;
    pub(super) const BIT_XOR: u8 = 6;
    pub(super) const BIT_AND: u8 = 7;
    pub(super) const SHIFT: u8 = 8;
    pub(super) const SUM: u8 = 9;
    pub(super) const TERM: u8 = 10;
    pub(super) const FACTOR: u8 = 11;
}

/// The power of an operator between two operands; zero for what is none.
#[inline]
fn power_of(kind: TokenKind) -> u8 {
    match kind {
        TokenKind::Or => power::OR,
        TokenKind::And => power::AND,
        TokenKind::Less
        | TokenKind::LessEqual
        | TokenKind::Greater
        | TokenKind::GreaterEqual
        | TokenKind::Equal
        | TokenKind::NotEqual
        | TokenKind::In
        | TokenKind::Is
        | TokenKind::Not => power::COMPARISON,
        TokenKind::Bar => power::BIT_OR,
        TokenKind::Caret => power::BIT_XOR,
        TokenKind::Ampersand => power::BIT_AND,
        TokenKind::ShiftLeft | TokenKind::ShiftRight => power::SHIFT,
        TokenKind::Plus | TokenKind::Minus => power::SUM,
        TokenKind::Star | TokenKind::Slash | TokenKind::SlashSlash | TokenKind::Percent | TokenKind::At => power::TERM,
        _ => 0,
    }
}

/// `annotated_rhs: yield_expr | star_expressions`
pub(super) fn yield_or_star_expressions(parser: &mut Parser) -> Parsed {
    if parser.at(TokenKind::Yield) { yield_expression(parser) } else { star_expressions(parser) }
}

/// `yield_expr: 'yield' 'from' expression | 'yield' [star_expressions]`
pub(super) fn yield_expression(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.eat(TokenKind::From) {
        expression(parser)?;
        parser.role(Role::Value);
        parser.close(mark, Kind::YieldFrom);
        return Ok(());
    }
    if begins_expression(parser.kind()) || parser.at(TokenKind::Star) {
        star_expressions(parser)?;
        parser.role(Role::Value);
    }
    parser.close(mark, Kind::Yield);
    Ok(())
}

/// `star_expressions: ','.star_expression+ [',']`; a tuple where there is a comma.
pub(super) fn star_expressions(parser: &mut Parser) -> Parsed {
    tuple_of(parser, star_expression)
}

/// `star_expression: '*' bitwise_or | expression`
pub(super) fn star_expression(parser: &mut Parser) -> Parsed {
    if parser.at(TokenKind::Star) { spread(parser) } else { expression(parser) }
}

/// `star_named_expression: '*' bitwise_or | named_expression`
pub(super) fn star_named_expression(parser: &mut Parser) -> Parsed {
    if parser.at(TokenKind::Star) { spread(parser) } else { named_expression(parser) }
}

/// `'*' bitwise_or`
pub(super) fn spread(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    binary(parser, power::BIT_OR)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::Spread);
    Ok(())
}

/// One element, or a tuple without parentheses.
fn tuple_of(parser: &mut Parser, element: fn(&mut Parser) -> Parsed) -> Parsed {
    let mark = parser.open();
    element(parser)?;
    if !parser.at(TokenKind::Comma) {
        return Ok(());
    }
    parser.role(Role::Element);
    while parser.eat(TokenKind::Comma) {
        if !begins_expression(parser.kind()) && !parser.at(TokenKind::Star) {
            break;
        }
        element(parser)?;
        parser.role(Role::Element);
    }
    parser.close(mark, Kind::Tuple);
    Ok(())
}

/// Whether an expression can begin with this token.
pub(super) fn begins_expression(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::Name
            | TokenKind::Number
            | TokenKind::String
            | TokenKind::FormatStart
            | TokenKind::ParenOpen
            | TokenKind::BracketOpen
            | TokenKind::BraceOpen
            | TokenKind::Ellipsis
            | TokenKind::Plus
            | TokenKind::Minus
            | TokenKind::Tilde
            | TokenKind::Not
            | TokenKind::Lambda
            | TokenKind::Await
            | TokenKind::True
            | TokenKind::False
            | TokenKind::None
    )
}

/// `named_expression: NAME ':=' expression | expression !':='`
pub(super) fn named_expression(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    expression(parser)?;
    if !parser.at(TokenKind::ColonAssign) {
        return Ok(());
    }
    let lone_name = parser
        .last_since(mark)
        .is_some_and(|target| target.kind() == Kind::Name && target.first_token() == mark.token());
    if !lone_name {
        return parser.stop(Problem::Rule("':=' binds only a single name"));
    }
    parser.role(Role::Target);
    parser.bump();
    expression(parser)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::NamedExpression);
    Ok(())
}

/// `expression: disjunction ['if' disjunction 'else' expression] | lambdef`
#[inline]
pub(super) fn expression(parser: &mut Parser) -> Parsed {
    parser.nested(|parser| {
        if parser.at(TokenKind::Lambda) {
            return lambda(parser);
        }
        let mark = parser.open();
        binary(parser, power::OR)?;
        if parser.at(TokenKind::If) { conditional(parser, mark) } else { Ok(()) }
    })
}

fn conditional(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.role(Role::Value);
    parser.bump();
    disjunction(parser)?;
    parser.role(Role::Condition);
    parser.expect(TokenKind::Else)?;
    expression(parser)?;
    parser.role(Role::Else);
    parser.close(mark, Kind::Conditional);
    Ok(())
}

/// `lambdef: 'lambda' [lambda_params] ':' expression`
fn lambda(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    lambda_parameters(parser)?;
    parser.expect(TokenKind::Colon)?;
    expression(parser)?;
    parser.role(Role::Body);
    parser.close(mark, Kind::Lambda);
    Ok(())
}

/// `disjunction`: an expression without a condition of its own.
pub(super) fn disjunction(parser: &mut Parser) -> Parsed {
    binary(parser, power::OR)
}

/// An operand of a comparison: targets of loops are read so, for their `in` not to count as a comparison.
pub(super) fn operand(parser: &mut Parser) -> Parsed {
    binary(parser, power::BIT_OR)
}

/// `star_targets` of a loop, up to its `in`.
pub(super) fn loop_targets(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    tuple_of(parser, |parser| if parser.at(TokenKind::Star) { spread(parser) } else { operand(parser) })?;
    target::check_target(parser, mark, target::Use::Assign)
}

/// `disjunction` down to `term`: operators that bind at least as tightly as `least`.
fn binary(parser: &mut Parser, least: u8) -> Parsed {
    let mark = parser.open();
    unary(parser, least)?;
    loop {
        let power = power_of(parser.kind());
        if power == 0 || power < least {
            return Ok(());
        }
        match power {
            power::OR | power::AND => logical(parser, mark, power)?,
            power::COMPARISON => {
                if parser.at(TokenKind::Not) && parser.next_kind() != TokenKind::In {
                    return Ok(());
                }
                comparison(parser, mark)?;
            }
            _ => {
                parser.role(Role::Left);
                parser.bump();
                binary(parser, power + 1)?;
                parser.role(Role::Right);
                parser.close(mark, Kind::Binary);
            }
        }
    }
}

/// `conjunction ('or' conjunction)+` and `inversion ('and' inversion)+`
fn logical(parser: &mut Parser, mark: Mark, power: u8) -> Parsed {
    let operator = parser.kind();
    parser.role(Role::Operand);
    while parser.eat(operator) {
        binary(parser, power + 1)?;
        parser.role(Role::Operand);
    }
    parser.close(mark, Kind::Logical);
    Ok(())
}

/// `bitwise_or compare_op_bitwise_or_pair+`
fn comparison(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.role(Role::Operand);
    while power_of(parser.kind()) == power::COMPARISON {
        if parser.eat(TokenKind::Is) {
            parser.eat(TokenKind::Not);
        } else if parser.eat(TokenKind::Not) {
            parser.expect(TokenKind::In)?;
        } else {
            parser.bump();
        }
        binary(parser, power::COMPARISON + 1)?;
        parser.role(Role::Operand);
    }
    parser.close(mark, Kind::Comparison);
    Ok(())
}

/// `inversion: 'not' inversion`, `factor: ('+' | '-' | '~') factor | power`
#[inline]
fn unary(parser: &mut Parser, least: u8) -> Parsed {
    let inner = match parser.kind() {
        TokenKind::Not if least <= power::NOT => power::NOT,
        TokenKind::Plus | TokenKind::Minus | TokenKind::Tilde => power::FACTOR,
        _ => return power(parser),
    };
    let mark = parser.open();
    parser.bump();
    parser
        .nested(|parser| if inner == power::NOT { binary(parser, power::NOT) } else { unary(parser, power::FACTOR) })?;
    parser.role(Role::Operand);
    parser.close(mark, Kind::Unary);
    Ok(())
}

/// `power: await_primary ['**' factor]`
#[inline]
fn power(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    await_primary(parser)?;
    if !parser.at(TokenKind::StarStar) {
        return Ok(());
    }
    parser.role(Role::Left);
    parser.bump();
    parser.nested(|parser| unary(parser, power::FACTOR))?;
    parser.role(Role::Right);
    parser.close(mark, Kind::Binary);
    Ok(())
}

/// `await_primary: 'await' primary | primary`
#[inline]
fn await_primary(parser: &mut Parser) -> Parsed {
    if !parser.at(TokenKind::Await) {
        return primary(parser);
    }
    let mark = parser.open();
    parser.bump();
    primary(parser)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::Await);
    Ok(())
}
