//! Component values ("Consume a component value", CSS Syntax 3, 5.4.7): what preludes, values and brackets are made of.

use crate::parse::Parser;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// What is wrong where two slashes begin what is meant to be a comment.
pub(super) const LINE_COMMENT: Problem = Problem::Rule("a comment is written between /* and */");

/// Where component values end.
pub(super) type Ends = fn(TokenKind) -> bool;

/// What ends a declaration.
pub(super) fn ends_declaration(kind: TokenKind) -> bool {
    matches!(kind, TokenKind::Semicolon | TokenKind::BraceClose)
}

/// Component values up to what ends them, or to the end of the file.
pub(super) fn components(parser: &mut Parser, role: Role, ends: Ends) {
    while !ends(parser.kind()) && !parser.at(TokenKind::EndOfFile) {
        component(parser, role);
    }
}

/// One component value. What stands for itself, such as a comma, is no node.
#[inline]
pub(super) fn component(parser: &mut Parser, role: Role) {
    match parser.kind() {
        TokenKind::Name if is_function(parser) => function(parser, role),
        TokenKind::Name => parser.leaf(Kind::Name, role),
        TokenKind::Number => parser.leaf(Kind::Number, role),
        TokenKind::Dimension => parser.leaf(Kind::Dimension, role),
        TokenKind::Percentage => parser.leaf(Kind::Percentage, role),
        TokenKind::String => parser.leaf(Kind::String, role),
        TokenKind::Hash => parser.leaf(Kind::HashValue, role),
        TokenKind::Url => parser.leaf(Kind::Url, role),
        TokenKind::AtWord => parser.leaf(Kind::AtKeyword, role),
        TokenKind::ParenOpen => bracketed(parser, role, TokenKind::ParenClose, Kind::Group, Role::Value),
        TokenKind::BracketOpen => bracketed(parser, role, TokenKind::BracketClose, Kind::List, Role::Element),
        TokenKind::BraceOpen => bracketed(parser, role, TokenKind::BraceClose, Kind::Block, Role::Part),
        TokenKind::ParenClose | TokenKind::BracketClose | TokenKind::BraceClose => {
            let span = parser.token_span(parser.position());
            parser.fault(span, Problem::Unopened(parser.kind()));
            parser.bump();
        }
        _ => parser.bump(),
    }
}

/// Whether the bracket of a function's arguments directly follows the current name.
pub(super) fn is_function(parser: &Parser) -> bool {
    parser.kind_or_end(parser.position() + 1) == TokenKind::ParenOpen
}

/// `name( values )`
fn function(parser: &mut Parser, role: Role) {
    let mark = parser.open();
    parser.leaf(Kind::Name, Role::Callee);
    bracketed(parser, Role::Arguments, TokenKind::ParenClose, Kind::Arguments, Role::Argument);
    parser.close_as(mark, Kind::Call, role);
}

/// Component values in brackets.
pub(super) fn bracketed(parser: &mut Parser, role: Role, close: TokenKind, kind: Kind, inner: Role) {
    let mark = parser.open();
    // What is too deep is left out and told by the guard.
    let _ = parser.nested(|parser| {
        let (open, opening) = (parser.token_span(parser.position()), parser.kind());
        parser.bump();
        loop {
            match parser.kind() {
                here if here == close => {
                    parser.bump();
                    break;
                }
                TokenKind::EndOfFile => {
                    parser.fault(open, Problem::Unclosed(opening));
                    break;
                }
                // What is around goes on there: the bracket is the one that is missing.
                TokenKind::BraceOpen | TokenKind::BraceClose | TokenKind::Semicolon
                    if opening != TokenKind::BraceOpen && ends_line(parser) =>
                {
                    parser.fault(open, Problem::Unclosed(opening));
                    break;
                }
                _ => component(parser, inner),
            }
        }
        Ok(())
    });
    parser.close_as(mark, kind, role);
}

/// Whether the current token ends what is around a bracket: a semicolon may be in one, but hardly at the end of a line.
fn ends_line(parser: &Parser) -> bool {
    !parser.at(TokenKind::Semicolon) || matches!(parser.kind_or_end(parser.position() + 1), TokenKind::LineEnd)
}
