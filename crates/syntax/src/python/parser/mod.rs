//! The grammar of Python, one function a rule, in the order of the reference's "Full Grammar specification" (3.14).

mod arguments;
mod atom;
mod compound;
mod expression;
mod function;
mod import;
mod pattern;
mod simple;
mod statement;
mod string;
mod target;

use crate::parse::Parser;
use crate::tree::{Fault, Role, Token, TokenKind, Tree};

/// `file: [statements] ENDMARKER`
pub(super) fn module(source: &str, tokens: Vec<Token>, faults: Vec<Fault>) -> Tree {
    let mut parser = Parser::new(source, tokens, faults);
    let mark = parser.open_file();
    while !parser.at(TokenKind::EndOfFile) {
        statement::statement(&mut parser);
    }
    let mut parsing = parser.finish(mark);
    parsing.faults = first_of_each_line(&parsing.tokens, parsing.faults);
    parsing.into_tree()
}

/// `eval: expressions NEWLINE* ENDMARKER`
pub(super) fn lone_expression(source: &str, tokens: Vec<Token>, faults: Vec<Fault>) -> Tree {
    let mut parser = Parser::new(source, tokens, faults);
    let mark = parser.open_file();
    let _ = expression::star_expressions(&mut parser);
    parser.role(Role::Value);
    while parser.eat(TokenKind::Newline) {}
    parser.skip_to_end();
    parser.finish(mark).into_tree()
}

/// One mistake gives one finding: what follows on the same logical line is most often its consequence.
fn first_of_each_line(tokens: &[Token], mut faults: Vec<Fault>) -> Vec<Fault> {
    faults.sort_by_key(|fault| fault.span);
    let mut line_ends =
        tokens.iter().filter(|token| token.kind == TokenKind::Newline).map(|token| token.start).peekable();
    let mut told_until: Option<u32> = None;
    faults.retain(|fault| {
        if told_until.is_some_and(|end| fault.span.start <= end) {
            return false;
        }
        while line_ends.next_if(|end| *end < fault.span.start).is_some() {}
        told_until = Some(line_ends.peek().copied().unwrap_or(u32::MAX));
        true
    });
    faults
}
