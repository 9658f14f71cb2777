//! Bodies ("Structural Elements", HCL native syntax), one function a rule.

mod expression;
mod template;

use crate::parse::{Parsed, Parser};
use crate::tree::{Fault, Kind, Mark, Problem, Role, Token, TokenKind, Tree};
use expression::expression;

/// `ConfigFile = Body`
pub(super) fn config_file(source: &str, tokens: Vec<Token>, faults: Vec<Fault>) -> Tree {
    let mut parser = Parser::new(source, tokens, faults);
    let mark = parser.open_file();
    loop {
        body(&mut parser);
        if parser.at(TokenKind::EndOfFile) {
            break;
        }
        let (stray, span) = (parser.open(), parser.token_span(parser.position()));
        parser.fault(span, Problem::Unopened(TokenKind::BraceClose));
        parser.bump();
        parser.close_as(stray, Kind::Error, Role::Statement);
    }
    let mut parsing = parser.finish(mark);
    parsing.faults.sort_by_key(|fault| fault.span);
    parsing.into_tree()
}

/// `Body = (Attribute | Block | OneLineBlock)*`
fn body(parser: &mut Parser) {
    while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
        if !parser.eat(TokenKind::Newline) {
            entry(parser);
        }
    }
}

/// What is on a line of its own: after a mistake, the rest of it is left out.
fn entry(parser: &mut Parser) {
    let (before, mark) = (parser.fault_count(), parser.open());
    let outcome = on_entry(parser).and_then(|()| match parser.kind() {
        TokenKind::Newline | TokenKind::EndOfFile | TokenKind::BraceClose => Ok(()),
        _ => parser.stop_expecting("the end of the line"),
    });
    if outcome.is_err() {
        leave_out(parser, before, mark);
    }
    parser.eat(TokenKind::Newline);
}

/// Leaves out an entry with a mistake, which begins at `mark`, when there were `before` faults.
fn leave_out(parser: &mut Parser, before: usize, mark: Mark) {
    skip_entry(parser);
    parser.close_as(mark, Kind::Error, Role::Statement);
    parser.keep_first_fault(before, mark);
}

/// Up to the end of the line of an entry, with what is in brackets.
fn skip_entry(parser: &mut Parser) {
    let mut open = 0u32;
    loop {
        match parser.kind() {
            TokenKind::EndOfFile => return,
            TokenKind::Newline | TokenKind::BraceClose if open == 0 => return,
            TokenKind::BraceOpen | TokenKind::DollarBrace => open += 1,
            TokenKind::BraceClose => open -= 1,
            _ => {}
        }
        parser.bump();
    }
}

fn on_entry(parser: &mut Parser) -> Parsed {
    if !is_name(parser.kind()) {
        return parser.stop_expecting("a name");
    }
    if parser.following() == TokenKind::Assign { attribute(parser) } else { block(parser) }
}

/// The words for values are names where a name is meant.
fn is_name(kind: TokenKind) -> bool {
    matches!(kind, TokenKind::Name | TokenKind::TrueWord | TokenKind::FalseWord | TokenKind::NullWord)
}

/// `Attribute = Identifier "=" Expression Newline`
fn attribute(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.leaf(Kind::Name, Role::Target);
    parser.expect(TokenKind::Assign)?;
    expression(parser, Role::Value)?;
    parser.close_as(mark, Kind::Assignment, Role::Statement);
    Ok(())
}

/// `Block = Identifier (StringLit|Identifier)* "{" Newline Body "}"`; one on a single line holds at most one attribute.
fn block(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.leaf(Kind::Name, Role::Name);
    loop {
        match parser.kind() {
            TokenKind::String => parser.leaf(Kind::String, Role::Label),
            kind if is_name(kind) => parser.leaf(Kind::Name, Role::Label),
            TokenKind::BraceOpen => break,
            _ => return parser.stop_expecting("'=' or '{'"),
        }
    }
    let body_mark = parser.open();
    parser.nested(|parser| {
        let open = parser.token_span(parser.position());
        parser.bump();
        if parser.at(TokenKind::Newline) {
            body(parser);
        } else if !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
            entry_of_one_line(parser);
        }
        if !parser.eat(TokenKind::BraceClose) {
            parser.fault(open, Problem::Unclosed(TokenKind::BraceOpen));
        }
        Ok(())
    })?;
    parser.close_as(body_mark, Kind::Block, Role::Body);
    parser.close_as(mark, Kind::ConfigBlock, Role::Statement);
    Ok(())
}

/// What a block on a single line holds: one attribute.
fn entry_of_one_line(parser: &mut Parser) {
    let (before, mark) = (parser.fault_count(), parser.open());
    let is_attribute = is_name(parser.kind()) && parser.following() == TokenKind::Assign;
    let outcome = if is_attribute { attribute(parser) } else { parser.stop(ONE_LINE) };
    let outcome = outcome.and_then(|()| if parser.at(TokenKind::BraceClose) { Ok(()) } else { parser.stop(ONE_LINE) });
    if outcome.is_err() {
        leave_out(parser, before, mark);
    }
}

/// What is wrong with a block on a single line that holds more.
const ONE_LINE: Problem = Problem::Rule("a block of one line holds one attribute: break the line behind '{'");
