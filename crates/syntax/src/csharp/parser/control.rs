//! "The if statement", "Iteration statements".

use super::expression::{self, expression};
use super::{Front, ahead, pattern, separated, statement, types, variable};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// An expression in parentheses.
pub(super) fn parenthesized(parser: &mut Front, role: Role) -> Parsed {
    parser.expect(TokenKind::ParenOpen)?;
    super::in_brackets(parser, |parser| expression(parser, role))?;
    parser.expect(TokenKind::ParenClose)
}

/// `if_statement`
pub(super) fn if_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parenthesized(parser, Role::Condition)?;
    statement::embedded(parser, Role::Body)?;
    if parser.eat(TokenKind::Else) {
        statement::embedded(parser, Role::Else)?;
    }
    super::done(parser, mark, Kind::If)
}

/// `while_statement`
pub(super) fn while_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parenthesized(parser, Role::Condition)?;
    statement::embedded(parser, Role::Body)?;
    super::done(parser, mark, Kind::While)
}

/// `do_statement`
pub(super) fn do_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    statement::embedded(parser, Role::Body)?;
    parser.expect(TokenKind::While)?;
    parenthesized(parser, Role::Condition)?;
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, Kind::DoWhile)
}

/// `for_statement`
pub(super) fn for_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::ParenOpen)?;
    if !parser.at(TokenKind::Semicolon) {
        let start = parser.open();
        let declares = parser.at(TokenKind::Ref)
            || super::at_word(parser, "scoped") && variable::scopes(parser)
            || ahead::begins_variable(parser);
        if declares {
            variable::declaration(parser, start)?;
            parser.role(Role::Start);
        } else {
            steps(parser, Role::Start)?;
        }
    }
    parser.expect(TokenKind::Semicolon)?;
    if !parser.at(TokenKind::Semicolon) {
        expression(parser, Role::Condition)?;
    }
    parser.expect(TokenKind::Semicolon)?;
    if !parser.at(TokenKind::ParenClose) {
        steps(parser, Role::Step)?;
    }
    parser.expect(TokenKind::ParenClose)?;
    statement::embedded(parser, Role::Body)?;
    super::done(parser, mark, Kind::For)
}

/// `statement_expression_list`
fn steps(parser: &mut Front, role: Role) -> Parsed {
    separated(parser, |parser| {
        statement::statement_expression(parser)?;
        parser.role(role);
        Ok(())
    })
}

/// `foreach_statement: 'await'? 'foreach' '(' (type identifier | expression) 'in' expression ')' embedded_statement`
pub(super) fn foreach_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::Name) {
        parser.bump();
    }
    parser.bump();
    parser.expect(TokenKind::ParenOpen)?;
    target(parser)?;
    parser.expect(TokenKind::In)?;
    expression(parser, Role::Iterable)?;
    parser.expect(TokenKind::ParenClose)?;
    statement::embedded(parser, Role::Body)?;
    super::done(parser, mark, Kind::For)
}

/// The variable of a loop, or those that the parts of a value go to.
fn target(parser: &mut Front) -> Parsed {
    if pattern::begins_parts(parser) || parser.at(TokenKind::ParenOpen) && !ahead::begins_variable(parser) {
        expression::without_assignment(parser)?;
        parser.role(Role::Target);
        return Ok(());
    }
    let mark = parser.open();
    if super::at_word(parser, "scoped") && variable::scopes(parser) {
        parser.bump();
    }
    types::reference_words(parser);
    types::type_of(parser, Role::Type)?;
    super::name(parser, Role::Item)?;
    parser.close_as(mark, Kind::Declaration, Role::Target);
    Ok(())
}
