//! "Jump statements", "The try statement", "The yield statement".

use super::expression::expression;
use super::{Front, control, name, statement, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// `return_statement`
pub(super) fn leaving(parser: &mut Front, kind: Kind) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !parser.at(TokenKind::Semicolon) {
        expression(parser, Role::Value)?;
    }
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, kind)
}

/// `throw_statement`
pub(super) fn throw(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !parser.at(TokenKind::Semicolon) {
        expression(parser, Role::Exception)?;
    }
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, Kind::Throw)
}

/// `break_statement`, `continue_statement`
pub(super) fn plain(parser: &mut Front, kind: Kind) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, kind)
}

/// `goto_statement: 'goto' (identifier | 'case' constant_expression | 'default') ';'`
pub(super) fn goto(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.eat(TokenKind::Case) {
        expression(parser, Role::Value)?;
    } else if !parser.eat(TokenKind::Default) {
        name(parser, Role::Label)?;
    }
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, Kind::Goto)
}

/// `'yield' 'return' expression ';'`
pub(super) fn yields(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.bump();
    expression(parser, Role::Value)?;
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, Kind::Yield)
}

/// `'yield' 'break' ';'`, which leaves the function.
pub(super) fn stops_yielding(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.bump();
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, Kind::Return)
}

/// `try_statement`
pub(super) fn try_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let word = parser.token_span(parser.position());
    parser.bump();
    statement::block(parser, Role::Body)?;
    let mut is_handled = false;
    while parser.at(TokenKind::Catch) {
        catch(parser)?;
        is_handled = true;
    }
    if parser.eat(TokenKind::Finally) {
        statement::block(parser, Role::Finally)?;
        is_handled = true;
    }
    if !is_handled {
        parser.fault(word, Problem::Rule("a 'try' needs a handler or a 'finally'"));
    }
    super::done(parser, mark, Kind::Try)
}

/// `catch_clause: 'catch' ('(' type identifier? ')')? ('when' '(' expression ')')? block`
fn catch(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.eat(TokenKind::ParenOpen) {
        types::type_of(parser, Role::Type)?;
        if parser.at(TokenKind::Name) {
            name(parser, Role::Name)?;
        }
        parser.expect(TokenKind::ParenClose)?;
    }
    if super::at_word(parser, "when") {
        parser.bump();
        control::parenthesized(parser, Role::Guard)?;
    }
    statement::block(parser, Role::Body)?;
    parser.close_as(mark, Kind::Catch, Role::Handler);
    Ok(())
}
