//! The grammar of TOML (its ABNF, TOML 1.0), one function a rule.

use crate::parse::{Parsed, Parser};
use crate::tree::{Fault, Kind, Problem, Role, Token, TokenKind, Tree};

/// `toml = expression *( newline expression )`
pub(super) fn document(source: &str, tokens: Vec<Token>, faults: Vec<Fault>) -> Tree {
    let mut parser = Parser::new(source, tokens, faults);
    let mark = parser.open_file();
    let root = parser.open();
    entries(&mut parser);
    while parser.at(TokenKind::BracketOpen) {
        table(&mut parser);
    }
    parser.close_as(root, Kind::Dictionary, Role::Value);
    let mut parsing = parser.finish(mark);
    parsing.faults.sort_by_key(|fault| fault.span);
    parsing.into_tree()
}

/// Entries up to the next header.
fn entries(parser: &mut Parser) {
    while !matches!(parser.kind(), TokenKind::BracketOpen | TokenKind::EndOfFile) {
        if !parser.eat(TokenKind::Newline) {
            line(parser, pair);
        }
    }
}

/// What is on a line of its own: after a mistake, the rest of it is left out.
fn line(parser: &mut Parser, rule: fn(&mut Parser) -> Parsed) {
    let (before, part) = (parser.fault_count(), parser.open());
    let outcome = rule(parser).and_then(|()| match parser.kind() {
        TokenKind::Newline | TokenKind::EndOfFile => Ok(()),
        _ => parser.stop_expecting("the end of the line"),
    });
    if outcome.is_err() {
        parser.skip_to_line_end();
        parser.close_as(part, Kind::Error, Role::Element);
        parser.keep_first_fault(before, part);
    }
    parser.eat(TokenKind::Newline);
}

/// `table = std-table / array-table`, with the entries below it.
fn table(parser: &mut Parser) {
    let mark = parser.open();
    line(parser, header);
    entries(parser);
    parser.close_as(mark, Kind::Table, Role::Element);
}

/// `[key]` or `[[key]]`; no blank is between the brackets.
fn header(parser: &mut Parser) -> Parsed {
    parser.bump();
    let is_array = parser.at(TokenKind::BracketOpen) && parser.is_adjacent() && parser.eat(TokenKind::BracketOpen);
    key(parser)?;
    parser.expect(TokenKind::BracketClose)?;
    if is_array && !parser.is_adjacent() {
        return parser.stop_expecting("']]'");
    }
    if is_array { parser.expect(TokenKind::BracketClose) } else { Ok(()) }
}

/// `keyval = key keyval-sep val`
fn pair(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    key(parser)?;
    on_one_line(parser)?;
    parser.expect(TokenKind::Assign)?;
    on_one_line(parser)?;
    value(parser, Role::Value)?;
    parser.close_as(mark, Kind::Pair, Role::Element);
    Ok(())
}

/// `key = simple-key / dotted-key`
fn key(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    simple_key(parser, Role::Key)?;
    if !parser.at(TokenKind::Dot) {
        return Ok(());
    }
    parser.role(Role::Part);
    while parser.eat(TokenKind::Dot) {
        on_one_line(parser)?;
        simple_key(parser, Role::Part)?;
    }
    parser.close_as(mark, Kind::DottedKey, Role::Key);
    Ok(())
}

/// `simple-key = quoted-key / unquoted-key`
fn simple_key(parser: &mut Parser, role: Role) -> Parsed {
    match parser.kind() {
        TokenKind::Name => parser.leaf(Kind::Name, role),
        TokenKind::String if is_long(parser.text()) => {
            return parser.stop(Problem::Rule("a key is in single quotes or in double ones, not in three"));
        }
        TokenKind::String => parser.leaf(Kind::String, role),
        _ => return parser.stop_expecting("a key"),
    }
    Ok(())
}

fn is_long(literal: &str) -> bool {
    literal.len() > 5 && (literal.starts_with("\"\"\"") || literal.starts_with("'''"))
}

/// `val = string / boolean / array / inline-table / date-time / float / integer`
fn value(parser: &mut Parser, role: Role) -> Parsed {
    match parser.kind() {
        TokenKind::BracketOpen => return parser.nested(|parser| array(parser, role)),
        TokenKind::BraceOpen => return parser.nested(|parser| inline_table(parser, role)),
        TokenKind::String => parser.leaf(Kind::String, role),
        TokenKind::Number => parser.leaf(Kind::Number, role),
        TokenKind::DateTime => parser.leaf(Kind::DateTime, role),
        TokenKind::TrueWord | TokenKind::FalseWord => parser.leaf(Kind::Boolean, role),
        // The lexer told what is wrong with it.
        TokenKind::Name => parser.leaf(Kind::Name, role),
        _ => return parser.stop_expecting("a value"),
    }
    Ok(())
}

/// `array = array-open [ array-values ] ws-comment-newline array-close`
fn array(parser: &mut Parser, role: Role) -> Parsed {
    let mark = parser.open();
    let open = parser.token_span(parser.position());
    parser.bump();
    while !parser.at(TokenKind::BracketClose) {
        if matches!(parser.kind(), TokenKind::Newline | TokenKind::EndOfFile) {
            return unclosed(parser, open, TokenKind::BracketOpen);
        }
        value(parser, Role::Element)?;
        if !parser.eat(TokenKind::Comma) && !parser.at(TokenKind::BracketClose) {
            let ends = matches!(parser.kind(), TokenKind::Newline | TokenKind::EndOfFile);
            return if ends { unclosed(parser, open, TokenKind::BracketOpen) } else { parser.stop_expecting("','") };
        }
    }
    parser.bump();
    parser.close_as(mark, Kind::List, role);
    Ok(())
}

/// `inline-table = inline-table-open [ inline-table-keyvals ] inline-table-close`: on one line, and no comma after the last entry.
fn inline_table(parser: &mut Parser, role: Role) -> Parsed {
    let mark = parser.open();
    let open = parser.token_span(parser.position());
    parser.bump();
    let mut had_comma = false;
    while !parser.at(TokenKind::BraceClose) {
        if matches!(parser.kind(), TokenKind::Newline | TokenKind::EndOfFile) {
            return unclosed(parser, open, TokenKind::BraceOpen);
        }
        on_one_line(parser)?;
        pair(parser)?;
        on_one_line(parser)?;
        had_comma = parser.eat(TokenKind::Comma);
        if !had_comma && !parser.at(TokenKind::BraceClose) {
            let ends = matches!(parser.kind(), TokenKind::Newline | TokenKind::EndOfFile);
            return if ends { unclosed(parser, open, TokenKind::BraceOpen) } else { parser.stop_expecting("','") };
        }
    }
    on_one_line(parser)?;
    if had_comma {
        let span = parser.token_span(parser.position());
        parser.fault(span, Problem::Rule("no comma is after the last entry of an inline table"));
    }
    parser.bump();
    parser.close_as(mark, Kind::Dictionary, role);
    Ok(())
}

/// Stops if the line ended before the current token: an entry is on one line, but for the arrays in it.
fn on_one_line(parser: &mut Parser) -> Parsed {
    if parser.trivia_before().any(|token| parser.kind_of(token) == TokenKind::LineEnd) {
        return parser.stop(Problem::Rule("an entry of an inline table is on one line"));
    }
    Ok(())
}

/// A bracket that is open at the end of its entry.
fn unclosed(parser: &mut Parser, open: crate::text::Span, bracket: TokenKind) -> Parsed {
    parser.fault(open, Problem::Unclosed(bracket));
    Err(crate::parse::Stop)
}
