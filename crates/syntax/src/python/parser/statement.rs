//! Statements and blocks, and going on after a mistake in one.

use super::{compound, simple};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `statement: compound_stmt | simple_stmts`. Never stops: what it cannot understand becomes an error node.
pub(super) fn statement(parser: &mut Parser) {
    let mark = parser.open();
    let before = parser.fault_count();
    let outcome = match parser.kind() {
        // A stray mark of layout: the lexer or an earlier statement has reported why.
        TokenKind::Newline | TokenKind::Dedent => {
            parser.bump();
            return;
        }
        TokenKind::Indent => return unexpected_block(parser),
        _ if compound::begins(parser) => compound::compound_statement(parser),
        _ => return simple_statements(parser),
    };
    if outcome.is_err() {
        recover(parser, mark, before);
    }
    parser.role(Role::Statement);
}

/// `simple_stmts: ';'.simple_stmt+ [';'] NEWLINE`
pub(super) fn simple_statements(parser: &mut Parser) {
    loop {
        let mark = parser.open();
        let before = parser.fault_count();
        let outcome = simple::simple_statement(parser).and_then(|()| match parser.kind() {
            TokenKind::Semicolon | TokenKind::Newline | TokenKind::EndOfFile => Ok(()),
            _ => beyond_end(parser, mark),
        });
        if outcome.is_err() {
            recover(parser, mark, before);
            parser.role(Role::Statement);
            return;
        }
        parser.role(Role::Statement);
        if !parser.eat(TokenKind::Semicolon) || parser.at(TokenKind::Newline) {
            break;
        }
    }
    parser.eat(TokenKind::Newline);
}

/// Stops at a token where a statement is over. Python 2 had statements that begin with a word and are calls today.
#[cold]
fn beyond_end(parser: &mut Parser, mark: Mark) -> Parsed {
    let is_word = (mark.token() + 1..parser.position()).all(|token| parser.token_text(token).trim().is_empty());
    match parser.token_text(mark.token()) {
        "print" if is_word => {
            parser.stop(Problem::Rule("print is a function in Python 3: what it prints belongs in parentheses"))
        }
        "exec" if is_word => {
            parser.stop(Problem::Rule("exec is a function in Python 3: what it runs belongs in parentheses"))
        }
        _ => parser.stop_expecting("the end of the statement"),
    }
}

/// Makes an error node of the rest of the line and of a block that follows it, whose statements are understood as usual.
pub(super) fn recover(parser: &mut Parser, mark: Mark, before: usize) {
    let line_is_over = parser.position() > mark.token() && parser.at_line_start();
    if !line_is_over {
        parser.skip_to_line_end();
        parser.eat(TokenKind::Newline);
    }
    parser.keep_first_fault(before, mark);
    opt_stray_block(parser);
    // Clauses that go on with the statement that was not understood are no mistakes of their own.
    while matches!(parser.kind(), TokenKind::Elif | TokenKind::Else | TokenKind::Except | TokenKind::Finally) {
        parser.skip_to_line_end();
        parser.eat(TokenKind::Newline);
        opt_stray_block(parser);
    }
    parser.close(mark, Kind::Error);
}

fn opt_stray_block(parser: &mut Parser) {
    if parser.eat(TokenKind::Indent) {
        rest_of_block(parser);
    }
}

/// A block that belongs to no statement.
fn unexpected_block(parser: &mut Parser) {
    parser.bump();
    let mark = parser.open();
    let span = parser.token_span(parser.position());
    parser.fault(span, Problem::Rule("this line is indented, but nothing above it opens a block"));
    rest_of_block(parser);
    parser.close_as(mark, Kind::Error, Role::Statement);
}

/// The statements of a block whose `Indent` is taken, and its end.
fn rest_of_block(parser: &mut Parser) {
    let mark = parser.open();
    indented(parser, statement);
    parser.close_as(mark, Kind::Block, Role::Body);
    parser.eat(TokenKind::Dedent);
}

/// Everything up to the end of an indented block, item by item.
pub(super) fn indented(parser: &mut Parser, item: fn(&mut Parser)) {
    let mut too_deep = true;
    let _ = parser.nested(|parser| {
        too_deep = false;
        while !matches!(parser.kind(), TokenKind::Dedent | TokenKind::EndOfFile) {
            item(parser);
        }
        Ok(())
    });
    if too_deep {
        parser.skip_to_block_end();
    }
}

/// `block: NEWLINE INDENT statements DEDENT | simple_stmts`, after its colon.
pub(super) fn block(parser: &mut Parser, role: Role) -> Parsed {
    if !parser.eat(TokenKind::Newline) {
        if matches!(parser.kind(), TokenKind::EndOfFile) || compound::begins(parser) {
            return parser.stop_expecting("a simple statement or an indented block");
        }
        let mark = parser.open();
        simple_statements(parser);
        parser.close_as(mark, Kind::Block, role);
        return Ok(());
    }
    if !parser.at(TokenKind::Indent) {
        return parser.stop_expecting("an indented block");
    }
    parser.bump();
    rest_of_block(parser);
    parser.role(role);
    Ok(())
}

/// The colon before a block, and the block.
pub(super) fn colon_block(parser: &mut Parser, role: Role) -> Parsed {
    parser.expect(TokenKind::Colon)?;
    block(parser, role)
}
