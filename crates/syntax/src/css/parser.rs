//! Rules and declarations ("Parsing", CSS Syntax 3, 5), one function a rule.

use super::selector::selector_list;
use super::value::{LINE_COMMENT, components, ends_declaration};
use crate::parse::{Parsed, Parser};
use crate::tree::{Fault, Kind, Problem, Role, Token, TokenKind, Tree};

/// "Consume a stylesheet's contents"
pub(super) fn style_sheet(source: &str, tokens: Vec<Token>, faults: Vec<Fault>) -> Tree {
    whole(source, tokens, faults, |parser| {
        while !parser.at(TokenKind::EndOfFile) {
            match parser.kind() {
                TokenKind::AtWord => at_rule(parser),
                // The marks of a comment of HTML mean nothing here.
                TokenKind::MarkupCommentMark => parser.bump(),
                TokenKind::BraceClose => stray(parser),
                _ => style_rule(parser),
            }
        }
    })
}

/// "Consume a block's contents", of which only declarations are meant.
pub(super) fn declarations(source: &str, tokens: Vec<Token>, faults: Vec<Fault>) -> Tree {
    whole(source, tokens, faults, |parser| {
        while !parser.at(TokenKind::EndOfFile) {
            match parser.kind() {
                TokenKind::Semicolon => parser.bump(),
                TokenKind::BraceClose => stray(parser),
                _ => declaration(parser),
            }
        }
    })
}

fn whole(source: &str, tokens: Vec<Token>, faults: Vec<Fault>, contents: impl FnOnce(&mut Parser)) -> Tree {
    let mut parser = Parser::new(source, tokens, faults);
    let mark = parser.open_file();
    contents(&mut parser);
    let mut parsing = parser.finish(mark);
    parsing.faults.sort_by_key(|fault| fault.span);
    parsing.into_tree()
}

/// A closing brace that nothing opened.
fn stray(parser: &mut Parser) {
    let mark = parser.open();
    let span = parser.token_span(parser.position());
    parser.fault(span, Problem::Unopened(TokenKind::BraceClose));
    parser.bump();
    parser.close_as(mark, Kind::Error, Role::Statement);
}

/// "Consume a qualified rule": a list of selectors and a block.
fn style_rule(parser: &mut Parser) {
    let (before, mark) = (parser.fault_count(), parser.open());
    let selected = selector_list(parser, Role::Selector, |kind| kind == TokenKind::BraceOpen);
    if selected.is_err() {
        skip_to_block(parser);
        parser.close_as(mark, Kind::Error, Role::Selector);
        parser.keep_first_fault(before, mark);
    }
    if parser.at(TokenKind::BraceOpen) {
        block(parser);
    } else if selected.is_ok() {
        let _ = parser.stop_expecting("'{'");
        parser.eat(TokenKind::Semicolon);
    }
    parser.close_as(mark, Kind::StyleRule, Role::Statement);
}

/// Leaves out what cannot be a selector, up to the block behind it. A block that was never begun ends with a semicolon, or where another
/// one is closed.
fn skip_to_block(parser: &mut Parser) {
    while !matches!(parser.kind(), TokenKind::BraceOpen | TokenKind::BraceClose | TokenKind::EndOfFile) {
        if parser.eat(TokenKind::Semicolon) {
            break;
        }
        parser.bump();
    }
}

/// "Consume an at-rule": a word, what it is about, and a block or a semicolon.
fn at_rule(parser: &mut Parser) {
    let mark = parser.open();
    parser.leaf(Kind::AtKeyword, Role::Name);
    let prelude = parser.open();
    let ends = |kind| matches!(kind, TokenKind::BraceOpen | TokenKind::Semicolon | TokenKind::BraceClose);
    if !ends(parser.kind()) && !parser.at(TokenKind::EndOfFile) {
        components(parser, Role::Part, ends);
        parser.close_as(prelude, Kind::Prelude, Role::Condition);
    }
    if parser.at(TokenKind::BraceOpen) {
        block(parser);
    } else {
        parser.eat(TokenKind::Semicolon);
    }
    parser.close_as(mark, Kind::AtRule, Role::Statement);
}

/// "Consume a block": declarations and rules in braces.
fn block(parser: &mut Parser) {
    let mark = parser.open();
    // What is too deep is left out and told by the guard.
    let _ = parser.nested(|parser| {
        let open = parser.token_span(parser.position());
        parser.bump();
        loop {
            match parser.kind() {
                TokenKind::BraceClose => {
                    parser.bump();
                    break;
                }
                TokenKind::EndOfFile => {
                    parser.fault(open, Problem::Unclosed(TokenKind::BraceOpen));
                    break;
                }
                TokenKind::Semicolon | TokenKind::MarkupCommentMark => parser.bump(),
                TokenKind::AtWord => at_rule(parser),
                _ if begins_declaration(parser) => declaration(parser),
                _ => style_rule(parser),
            }
        }
        Ok(())
    });
    parser.close_as(mark, Kind::Block, Role::Body);
}

/// Whether what begins here is a declaration: "if it is not, consume a qualified rule instead". A name with a colon behind it may begin
/// either; then what comes first decides, a block or the end of the declaration.
fn begins_declaration(parser: &Parser) -> bool {
    let mut at = parser.position();
    if parser.at(TokenKind::Star) {
        at += 1;
    }
    if parser.kind_or_end(at) != TokenKind::Name {
        // Something else that ends without a block was meant for a declaration.
        return !meets_block(parser, parser.position());
    }
    let is_custom = parser.token_text(at).starts_with("--");
    let mut colon = at + 1;
    while parser.kind_or_end(colon).is_trivia() {
        colon += 1;
    }
    match parser.kind_or_end(colon) {
        TokenKind::Colon => is_custom || !meets_block(parser, colon + 1),
        _ => !meets_block(parser, colon),
    }
}

/// Whether a block comes before the end of a declaration.
fn meets_block(parser: &Parser, from: crate::tree::TokenId) -> bool {
    let mut at = from;
    let mut line_ended = None;
    loop {
        match parser.kind_or_end(at) {
            TokenKind::BraceOpen => return line_ended.is_none_or(|place| !declares(parser, from, place)),
            TokenKind::Semicolon | TokenKind::BraceClose | TokenKind::EndOfFile => return false,
            TokenKind::LineEnd if line_ended.is_none() => line_ended = Some(at),
            _ => {}
        }
        at += 1;
    }
}

/// Whether what is left of the line up to a place looks like the value of a declaration whose semicolon is missing: one that goes on with
/// no comma, behind `name: `.
fn declares(parser: &Parser, from: crate::tree::TokenId, line_end: crate::tree::TokenId) -> bool {
    let behind_colon = from > 0 && parser.kind_of(from - 1) == TokenKind::Colon;
    let mut solid = (from..line_end).rev().map(|at| parser.kind_of(at)).filter(|kind| !kind.is_trivia());
    behind_colon
        && parser.kind_or_end(from) == TokenKind::Blank
        && solid.next().is_some_and(|last| last != TokenKind::Comma)
}

/// "Consume a declaration": a name, a colon, a value.
fn declaration(parser: &mut Parser) {
    let (before, mark) = (parser.fault_count(), parser.open());
    if on_declaration(parser).is_err() {
        skip_declaration(parser);
        parser.close_as(mark, Kind::Error, Role::Statement);
        parser.keep_first_fault(before, mark);
    }
    parser.eat(TokenKind::Semicolon);
}

fn on_declaration(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::Slash) && parser.kind_or_end(parser.position() + 1) == TokenKind::Slash {
        return parser.stop(LINE_COMMENT);
    }
    parser.eat(TokenKind::Star);
    if !parser.at(TokenKind::Name) {
        return parser.stop_expecting("a property");
    }
    let is_custom = parser.text().starts_with("--");
    // `progid:` begins what one old browser alone reads.
    let takes_colons = is_custom || is_filter(parser.text());
    parser.bump();
    parser.close_as(mark, Kind::Name, Role::Name);
    parser.expect(TokenKind::Colon)?;
    value(parser, is_custom, takes_colons);
    parser.close_as(mark, Kind::StyleDeclaration, Role::Statement);
    Ok(())
}

fn is_filter(property: &str) -> bool {
    let name = property.trim_start_matches(['-', '_']);
    name.get(name.len().saturating_sub(6)..).is_some_and(|end| end.eq_ignore_ascii_case("filter"))
}

/// The value of a declaration, with the mark of its importance. Only a custom property may be without one.
fn value(parser: &mut Parser, is_custom: bool, takes_colons: bool) {
    let mark = parser.open();
    let mut importance = None;
    while !ends_declaration(parser.kind()) && !parser.at(TokenKind::EndOfFile) {
        match parser.kind() {
            TokenKind::Exclamation => {
                importance = Some(parser.open());
                parser.bump();
                let is_flag = parser.at(TokenKind::Name);
                parser.eat(TokenKind::Name);
                if is_flag && (ends_declaration(parser.kind()) || parser.at(TokenKind::EndOfFile)) {
                    break;
                }
            }
            TokenKind::Colon if !takes_colons && begins_next(parser) => {
                let span = parser.token_span(parser.position());
                parser.fault(span, Problem::Rule("a semicolon is missing before this declaration"));
                parser.bump();
            }
            _ => {
                importance = None;
                super::value::component(parser, Role::Part);
            }
        }
    }
    if let Some(flag) = importance {
        parser.close_as(flag, Kind::ImportantFlag, Role::Part);
    }
    if parser.taken_end() > mark.token() {
        parser.close_as(mark, Kind::StyleValue, Role::Value);
    } else if !is_custom {
        let _ = parser.stop_expecting("a value");
    }
}

/// Whether the name before the current colon begins its line: it is the next declaration's.
fn begins_next(parser: &Parser) -> bool {
    let mut at = parser.taken_end();
    if at == 0 || parser.kind_of(at - 1) != TokenKind::Name {
        return false;
    }
    at -= 1;
    while at > 0 {
        at -= 1;
        match parser.kind_of(at) {
            TokenKind::LineEnd => return true,
            TokenKind::Blank => {}
            _ => return false,
        }
    }
    false
}

/// Leaves out what is no declaration: up to its semicolon, or to the end of the block; blocks within it included.
fn skip_declaration(parser: &mut Parser) {
    let mut open = 0u32;
    loop {
        match parser.kind() {
            TokenKind::EndOfFile => return,
            TokenKind::Semicolon | TokenKind::BraceClose if open == 0 => return,
            TokenKind::BraceOpen => open += 1,
            TokenKind::BraceClose => open -= 1,
            _ => {}
        }
        parser.bump();
    }
}
