//! Operators between operands and before them ("Null coalescing operator" up to "Unary operators").

use super::{Front, ahead, initializer, lambda, pattern, query, suffix, switch, types};
use crate::csharp::lexer::Goal;
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenId, TokenKind};

/// How tightly operators bind.
pub(super) mod level {
    pub(in super::super) const OR: u8 = 1;
    pub(super) const AND: u8 = 2;
    pub(super) const BIT_OR: u8 = 3;
    pub(super) const BIT_XOR: u8 = 4;
    pub(super) const BIT_AND: u8 = 5;
    pub(super) const EQUALITY: u8 = 6;
    pub(super) const RELATION: u8 = 7;
    pub(in super::super) const SHIFT: u8 = 8;
    pub(super) const SUM: u8 = 9;
    pub(super) const TERM: u8 = 10;
}

/// `null_coalescing_expression: conditional_or_expression ('??' null_coalescing_expression)?`
pub(super) fn coalescing(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    operands(parser, level::OR)?;
    if !parser.at(TokenKind::QuestionQuestion) {
        return Ok(());
    }
    parser.role(Role::Operand);
    while parser.eat(TokenKind::QuestionQuestion) {
        if lambda::begins(parser) {
            lambda::lambda(parser)?;
        } else {
            operands(parser, level::OR)?;
        }
        parser.role(Role::Operand);
    }
    super::done(parser, mark, Kind::Logical)
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
        | TokenKind::Is
        | TokenKind::As => (level::RELATION, Kind::Comparison),
        TokenKind::ShiftLeft | TokenKind::ShiftRight | TokenKind::ShiftRightZero => (level::SHIFT, Kind::Binary),
        TokenKind::Plus | TokenKind::Minus => (level::SUM, Kind::Binary),
        TokenKind::Star | TokenKind::Slash | TokenKind::Percent => (level::TERM, Kind::Binary),
        _ => return None,
    })
}

/// Operands with operators between them that bind as tightly as this level at least.
pub(super) fn operands(parser: &mut Front, least: u8) -> Parsed {
    let mark = parser.open();
    changed(parser)?;
    loop {
        parser.join_greater(Goal::Greater);
        let Some((level, kind)) = level_of(parser.kind()).filter(|(level, _)| *level >= least) else { return Ok(()) };
        let operator = parser.kind();
        if operator == TokenKind::As {
            parser.role(Role::Value);
            parser.bump();
            types::asked_for(parser, Role::Type)?;
            parser.close(mark, Kind::Cast);
            continue;
        }
        let (left, right) =
            if kind == Kind::Binary { (Role::Left, Role::Right) } else { (Role::Operand, Role::Operand) };
        parser.role(left);
        parser.bump();
        if operator == TokenKind::Is {
            pattern::tested(parser)?;
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
    if query::begins(parser) {
        query::query(parser)?;
    } else {
        operands(parser, level + 1)?;
    }
    parser.role(role);
    Ok(())
}

/// `switch_expression`, `with_expression`: a choice by a value, or a changed copy of it.
fn changed(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    range(parser)?;
    loop {
        if parser.at(TokenKind::Switch) && parser.next_kind() == TokenKind::BraceOpen {
            switch::choice(parser, mark)?;
        } else if super::at_word(parser, "with") && parser.next_kind() == TokenKind::BraceOpen {
            parser.role(Role::Value);
            parser.bump();
            initializer::members(parser)?;
            parser.role(Role::Element);
            parser.close(mark, Kind::ChangedCopy);
        } else {
            return Ok(());
        }
    }
}

/// `range_expression: unary_expression? '..' unary_expression?`
fn range(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if !parser.at(TokenKind::DotDot) {
        unary(parser)?;
        if !parser.at(TokenKind::DotDot) {
            return Ok(());
        }
        parser.role(Role::Lower);
    }
    parser.bump();
    if begins_bound(parser) {
        unary(parser)?;
        parser.role(Role::Upper);
    }
    super::done(parser, mark, Kind::Range)
}

fn begins_bound(parser: &mut Front) -> bool {
    let kind = parser.kind();
    ahead::begins_operand(kind)
        || matches!(
            kind,
            TokenKind::ParenOpen | TokenKind::Caret | TokenKind::Minus | TokenKind::Plus | TokenKind::Tilde
        )
}

/// `unary_expression`
pub(super) fn unary(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let kind = match parser.kind() {
        TokenKind::PlusPlus | TokenKind::MinusMinus => Kind::Update,
        TokenKind::Plus
        | TokenKind::Minus
        | TokenKind::Exclamation
        | TokenKind::Tilde
        | TokenKind::Star
        | TokenKind::Ampersand
        | TokenKind::Caret
        | TokenKind::Ref => Kind::Unary,
        TokenKind::Throw => return throw(parser, mark),
        TokenKind::ParenOpen if begins_cast(parser) => return cast(parser, mark),
        TokenKind::Name if begins_await(parser) => {
            parser.bump();
            parser.nested(unary)?;
            parser.role(Role::Value);
            return super::done(parser, mark, Kind::Await);
        }
        _ => return suffix::primary(parser),
    };
    parser.bump();
    parser.nested(unary)?;
    parser.role(Role::Operand);
    super::done(parser, mark, kind)
}

/// `throw_expression: 'throw' null_coalescing_expression`
fn throw(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    parser.nested(coalescing)?;
    parser.role(Role::Exception);
    super::done(parser, mark, Kind::Throw)
}

/// `await` is a name where no operand is behind it.
fn begins_await(parser: &mut Front) -> bool {
    if parser.text() != "await" {
        return false;
    }
    let (next, kind) = parser.next_token();
    match kind {
        TokenKind::ParenOpen => true,
        TokenKind::Name => !is_word_of_query(parser, next) && !joins(parser, next),
        kind => ahead::begins_operand(kind),
    }
}

/// Whether a name is a word of a query around.
pub(super) fn is_word_of_query(parser: &Front, token: TokenId) -> bool {
    parser.own.state.in_query
        && matches!(
            parser.token_text(token),
            "from"
                | "where"
                | "select"
                | "group"
                | "into"
                | "orderby"
                | "join"
                | "let"
                | "in"
                | "on"
                | "equals"
                | "by"
                | "ascending"
                | "descending"
        )
}

/// Whether a name is a word that joins what is before it with what is behind it: patterns, a condition, or the members of a copy.
pub(super) fn joins(parser: &mut Front, token: TokenId) -> bool {
    let behind = parser.token_after(token).1;
    match parser.token_text(token) {
        "with" => behind == TokenKind::BraceOpen,
        "and" | "or" | "when" => {
            ahead::begins_operand(behind)
                || matches!(
                    behind,
                    TokenKind::ParenOpen
                        | TokenKind::BraceOpen
                        | TokenKind::BracketOpen
                        | TokenKind::Less
                        | TokenKind::LessEqual
                        | TokenKind::Greater
                        | TokenKind::GreaterEqual
                        | TokenKind::Exclamation
                        | TokenKind::Minus
                        | TokenKind::Plus
                )
        }
        _ => false,
    }
}

/// Whether a parenthesis begins a cast: a type is in it, and behind it what an operand may begin with. A sign may do so only where what is
/// in the parentheses can be nothing but a type.
pub(super) fn begins_cast(parser: &mut Front) -> bool {
    let first = parser.next_token();
    let Some(close) = ahead::behind_type(parser, first).filter(|close| close.1 == TokenKind::ParenClose) else {
        return false;
    };
    let (behind, kind) = parser.token_after(close.0);
    let last = last_before(parser, close.0);
    let is_surely_type = first.1 == TokenKind::PrimitiveType
        || first.1 == TokenKind::Void
        || matches!(last, TokenKind::Greater | TokenKind::Star | TokenKind::BracketClose | TokenKind::Question);
    match kind {
        TokenKind::Name => !is_word_of_query(parser, behind) && !joins(parser, behind),
        TokenKind::ParenOpen | TokenKind::Exclamation | TokenKind::Tilde => true,
        TokenKind::BracketOpen
        | TokenKind::Plus
        | TokenKind::Minus
        | TokenKind::Star
        | TokenKind::Ampersand
        | TokenKind::PlusPlus
        | TokenKind::MinusMinus
        | TokenKind::Caret
        | TokenKind::DotDot => is_surely_type,
        kind => ahead::begins_operand(kind),
    }
}

/// The kind of the last token before another one that is no trivia.
fn last_before(parser: &Front, token: TokenId) -> TokenKind {
    let before = (0..token).rev().map(|token| parser.kind_of(token)).find(|kind| !kind.is_trivia());
    before.unwrap_or(TokenKind::EndOfFile)
}

/// `cast_expression: '(' type ')' unary_expression`
fn cast(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    types::type_of(parser, Role::Type)?;
    parser.expect(TokenKind::ParenClose)?;
    parser.nested(|parser| if lambda::begins(parser) { lambda::lambda(parser) } else { unary(parser) })?;
    parser.role(Role::Value);
    super::done(parser, mark, Kind::Cast)
}
