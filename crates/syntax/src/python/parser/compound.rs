//! Statements with blocks: "Compound statements" of the grammar.

use super::expression::{expression, loop_targets, named_expression, operand, star_expressions};
use super::function::{on_class, on_def};
use super::pattern::{is_match_statement, on_match};
use super::statement::{block, colon_block};
use super::target::{self, Use, check_target};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// Whether a compound statement begins here.
pub(super) fn begins(parser: &Parser) -> bool {
    match parser.kind() {
        TokenKind::If
        | TokenKind::While
        | TokenKind::For
        | TokenKind::Try
        | TokenKind::With
        | TokenKind::Def
        | TokenKind::Class
        | TokenKind::Async
        | TokenKind::At => true,
        TokenKind::Name => parser.text() == "match" && is_match_statement(parser),
        _ => false,
    }
}

/// `compound_stmt`
pub(super) fn compound_statement(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    match parser.kind() {
        TokenKind::If => on_if(parser),
        TokenKind::While => on_while(parser),
        TokenKind::For => on_for(parser, mark),
        TokenKind::Try => on_try(parser),
        TokenKind::With => on_with(parser, mark),
        TokenKind::Def => on_def(parser, mark),
        TokenKind::Class => on_class(parser, mark),
        TokenKind::Async => on_async(parser, mark),
        TokenKind::At => decorated(parser, mark),
        _ => on_match(parser),
    }
}

/// `decorators: ('@' named_expression NEWLINE)+` and what they are above.
fn decorated(parser: &mut Parser, mark: Mark) -> Parsed {
    while parser.at(TokenKind::At) {
        let decorator = parser.open();
        parser.bump();
        named_expression(parser)?;
        parser.role(Role::Value);
        parser.close_as(decorator, Kind::Decorator, Role::Decorator);
        parser.expect(TokenKind::Newline)?;
    }
    match parser.kind() {
        TokenKind::Class => on_class(parser, mark),
        TokenKind::Def => on_def(parser, mark),
        TokenKind::Async if parser.next_kind() == TokenKind::Def => on_def(parser, mark),
        _ => parser.stop_expecting("a function or a class"),
    }
}

fn on_async(parser: &mut Parser, mark: Mark) -> Parsed {
    match parser.next_kind() {
        TokenKind::Def => on_def(parser, mark),
        TokenKind::For => on_for(parser, mark),
        TokenKind::With => on_with(parser, mark),
        _ => {
            parser.bump();
            parser.stop_expecting("'def', 'for' or 'with'")
        }
    }
}

/// `if_stmt: 'if' named_expression ':' block ('elif' named_expression ':' block)* ['else' ':' block]`. A chain is read in a
/// loop: its length is not bounded by the depth that nested code may have.
fn on_if(parser: &mut Parser) -> Parsed {
    let mut open = Vec::new();
    while open.is_empty() || parser.at(TokenKind::Elif) {
        open.push(parser.open());
        parser.bump();
        named_expression(parser)?;
        parser.role(Role::Condition);
        colon_block(parser, Role::Body)?;
    }
    opt_else(parser)?;
    for (depth, mark) in open.into_iter().enumerate().rev() {
        parser.close(mark, Kind::If);
        if depth > 0 {
            parser.role(Role::Else);
        }
    }
    Ok(())
}

/// `else_block: 'else' ':' block`, or nothing.
fn opt_else(parser: &mut Parser) -> Parsed {
    if parser.eat(TokenKind::Else) { colon_block(parser, Role::Else) } else { Ok(()) }
}

/// `while_stmt: 'while' named_expression ':' block [else_block]`
fn on_while(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    named_expression(parser)?;
    parser.role(Role::Condition);
    colon_block(parser, Role::Body)?;
    opt_else(parser)?;
    parser.close(mark, Kind::While);
    Ok(())
}

/// `for_stmt: ['async'] 'for' star_targets 'in' star_expressions ':' block [else_block]`
fn on_for(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.eat(TokenKind::Async);
    parser.bump();
    loop_targets(parser)?;
    parser.role(Role::Target);
    parser.expect(TokenKind::In)?;
    star_expressions(parser)?;
    parser.role(Role::Iterable);
    colon_block(parser, Role::Body)?;
    opt_else(parser)?;
    parser.close(mark, Kind::For);
    Ok(())
}

/// `try_stmt: 'try' ':' block (finally_block | except_block+ [else_block] [finally_block])`
fn on_try(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    colon_block(parser, Role::Body)?;
    let mut stars = None;
    while parser.at(TokenKind::Except) {
        let starred = on_except(parser)?;
        if *stars.get_or_insert(starred) != starred {
            return parser.stop(Problem::Rule("'except' and 'except*' cannot be in one 'try'"));
        }
    }
    if stars.is_some() {
        opt_else(parser)?;
    }
    if parser.eat(TokenKind::Finally) {
        colon_block(parser, Role::Finally)?;
    } else if stars.is_none() {
        return parser.stop_expecting("'except' or 'finally'");
    }
    parser.close(mark, Kind::Try);
    Ok(())
}

/// `except_block: 'except' ['*'] expressions ['as' NAME] ':' block | 'except' ':' block`; tells whether it had a star.
fn on_except(parser: &mut Parser) -> Result<bool, crate::parse::Stop> {
    let mark = parser.open();
    parser.bump();
    let starred = parser.eat(TokenKind::Star);
    if starred || !parser.at(TokenKind::Colon) {
        exceptions(parser)?;
    }
    colon_block(parser, Role::Body)?;
    parser.close_as(mark, Kind::Catch, Role::Handler);
    Ok(starred)
}

/// Several exceptions without parentheses (PEP 758) cannot be given a name.
fn exceptions(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    expression(parser)?;
    if parser.at(TokenKind::Comma) {
        parser.role(Role::Element);
        while parser.eat(TokenKind::Comma) {
            if parser.at(TokenKind::Colon) {
                break;
            }
            expression(parser)?;
            parser.role(Role::Element);
        }
        parser.close_as(mark, Kind::Tuple, Role::Exception);
        if parser.at(TokenKind::As) {
            return parser.stop(Problem::Rule("several exceptions with a name need parentheses"));
        }
        return Ok(());
    }
    parser.role(Role::Exception);
    if parser.eat(TokenKind::As) {
        target::name(parser, Role::Name)?;
    }
    Ok(())
}

/// `with_stmt: ['async'] 'with' ('(' ','.with_item+ [','] ')' | ','.with_item+) ':' block`
fn on_with(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.eat(TokenKind::Async);
    parser.bump();
    let bracketed = items_are_bracketed(parser);
    if bracketed {
        parser.bump();
    }
    loop {
        with_item(parser)?;
        if !parser.eat(TokenKind::Comma) || (bracketed && parser.at(TokenKind::ParenClose)) {
            break;
        }
    }
    if bracketed {
        parser.expect(TokenKind::ParenClose)?;
    }
    colon_block(parser, Role::Body)?;
    parser.close(mark, Kind::With);
    Ok(())
}

/// `with_item: expression ['as' star_target]`
fn with_item(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    expression(parser)?;
    parser.role(Role::Value);
    if parser.eat(TokenKind::As) {
        let target = parser.open();
        operand(parser)?;
        check_target(parser, target, Use::Assign)?;
        parser.role(Role::Target);
    }
    parser.close_as(mark, Kind::WithItem, Role::Item);
    Ok(())
}

/// Whether the parenthesis here is the one around all items, and not part of the first item's expression: the one that closes it
/// is before the colon, and nothing directly within it makes it an expression of its own.
fn items_are_bracketed(parser: &Parser) -> bool {
    if !parser.at(TokenKind::ParenOpen) {
        return false;
    }
    let mut depth = 0u32;
    let mut before = TokenKind::ParenOpen;
    let mut closed = false;
    for (_, kind) in parser.ahead() {
        if closed {
            return kind == TokenKind::Colon;
        }
        let starts_item = matches!(before, TokenKind::ParenOpen | TokenKind::Comma);
        match kind {
            TokenKind::ParenClose if depth == 0 && before == TokenKind::ParenOpen => return false,
            TokenKind::ParenClose if depth == 0 => closed = true,
            TokenKind::ColonAssign | TokenKind::For if depth == 0 => return false,
            TokenKind::Star | TokenKind::Yield if depth == 0 && starts_item => return false,
            _ if kind.opens() => depth += 1,
            _ if kind.closes() && depth > 0 => depth -= 1,
            TokenKind::Newline | TokenKind::EndOfFile => return false,
            _ => {}
        }
        before = kind;
    }
    false
}

/// `block` for the cases of a match.
pub(super) fn case_block(parser: &mut Parser) -> Parsed {
    parser.expect(TokenKind::Colon)?;
    block(parser, Role::Body)
}
