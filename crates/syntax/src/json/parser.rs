//! The grammar of JSON ("JSON Grammar", RFC 8259, 2 to 5), one function a rule.

use super::Dialect;
use crate::parse::{Parsed, Parser, Stop};
use crate::tree::{Fault, Kind, Problem, Role, Token, TokenKind, Tree};

/// `JSON-text = ws value ws`
pub(super) fn document(source: &str, tokens: Vec<Token>, faults: Vec<Fault>, dialect: Dialect) -> Tree {
    let lexed = faults.len();
    let mut parser = Parser::new(source, tokens, faults);
    let mark = parser.open_file();
    let rest = parser.open();
    if value(&mut parser, Role::Value, dialect).is_err() {
        skip_to_end(&mut parser);
        parser.close_as(rest, Kind::Error, Role::Part);
    }
    parser.skip_to_end();
    let mut parsing = parser.finish(mark);
    one_a_line(source, &mut parsing.faults, lexed);
    parsing.faults.sort_by_key(|fault| fault.span);
    parsing.into_tree()
}

/// Drops what was expected behind another mistake on a line: it is most often a consequence of that.
fn one_a_line(source: &str, faults: &mut Vec<Fault>, lexed: usize) {
    let mut last: Option<usize> = None;
    let mut index = 0;
    faults.retain(|fault| {
        let start = fault.span.start as usize;
        let is_grammar = index >= lexed;
        index += 1;
        let follows = last.is_some_and(|last| last <= start && !source[last..start].contains(['\n', '\r']));
        if is_grammar && !follows {
            last = Some(start);
        }
        !(is_grammar && follows && matches!(fault.problem, Problem::Expected { .. }))
    });
}

fn skip_to_end(parser: &mut Parser) {
    while !parser.at(TokenKind::EndOfFile) {
        parser.bump();
    }
}

/// `value = false / null / true / object / array / number / string`
fn value(parser: &mut Parser, role: Role, dialect: Dialect) -> Parsed {
    match parser.kind() {
        TokenKind::BraceOpen => parser.nested(|parser| object(parser, role, dialect)),
        TokenKind::BracketOpen => parser.nested(|parser| array(parser, role, dialect)),
        TokenKind::String => leaf(parser, Kind::String, role),
        TokenKind::Number => leaf(parser, Kind::Number, role),
        TokenKind::TrueWord | TokenKind::FalseWord => leaf(parser, Kind::Boolean, role),
        TokenKind::NullWord => leaf(parser, Kind::Null, role),
        TokenKind::Name => bare_word(parser, role),
        _ => parser.stop_expecting("a value"),
    }
}

fn leaf(parser: &mut Parser, kind: Kind, role: Role) -> Parsed {
    parser.leaf(kind, role);
    Ok(())
}

/// A word that is no value, such as a string without quotes: one mistake, after which all goes on.
fn bare_word(parser: &mut Parser, role: Role) -> Parsed {
    let span = parser.token_span(parser.position());
    parser.fault(span, Problem::Rule("a word is no value: a string is in double quotes"));
    leaf(parser, Kind::Name, role)
}

/// `object = begin-object [ member *( value-separator member ) ] end-object`
fn object(parser: &mut Parser, role: Role, dialect: Dialect) -> Parsed {
    let list = Brackets { open: TokenKind::BraceOpen, close: TokenKind::BraceClose, kind: Kind::Dictionary };
    elements(parser, list, role, dialect, member)
}

/// `array = begin-array [ value *( value-separator value ) ] end-array`
fn array(parser: &mut Parser, role: Role, dialect: Dialect) -> Parsed {
    let list = Brackets { open: TokenKind::BracketOpen, close: TokenKind::BracketClose, kind: Kind::List };
    elements(parser, list, role, dialect, |parser, dialect| value(parser, Role::Element, dialect))
}

/// `member = string name-separator value`
fn member(parser: &mut Parser, dialect: Dialect) -> Parsed {
    let mark = parser.open();
    match parser.kind() {
        TokenKind::String => parser.leaf(Kind::String, Role::Key),
        TokenKind::Name | TokenKind::Number | TokenKind::TrueWord | TokenKind::FalseWord | TokenKind::NullWord => {
            let span = parser.token_span(parser.position());
            parser.fault(span, Problem::Rule("a key is a string in double quotes"));
            parser.leaf(Kind::Name, Role::Key);
        }
        _ => return parser.stop_expecting("a key"),
    }
    parser.expect(TokenKind::Colon)?;
    value(parser, Role::Value, dialect)?;
    parser.close_as(mark, Kind::Pair, Role::Element);
    Ok(())
}

/// What encloses elements, and what they are together.
#[derive(Clone, Copy)]
struct Brackets {
    open: TokenKind,
    close: TokenKind,
    kind: Kind,
}

/// Elements with commas between them, in brackets.
fn elements(
    parser: &mut Parser,
    list: Brackets,
    role: Role,
    dialect: Dialect,
    element: fn(&mut Parser, Dialect) -> Parsed,
) -> Parsed {
    let mark = parser.open();
    let open = parser.token_span(parser.position());
    parser.bump();
    while !parser.at(list.close) {
        if parser.at(TokenKind::EndOfFile) {
            parser.fault(open, Problem::Unclosed(list.open));
            break;
        }
        if parser.kind().closes() {
            let span = parser.token_span(parser.position());
            parser.fault(span, Problem::Mismatched { open: list.open, close: parser.kind() });
            break;
        }
        let (before, part) = (parser.fault_count(), parser.open());
        if element(parser, dialect).is_err() {
            leave_out_element(parser);
            parser.close_as(part, Kind::Error, Role::Element);
            parser.keep_first_fault(before, part);
        }
        after_element(parser, list, dialect);
    }
    // A bracket of the other sort closes what is around.
    parser.eat(list.close);
    parser.close_as(mark, list.kind, role);
    Ok(())
}

/// The comma after an element, or what ends the list.
fn after_element(parser: &mut Parser, list: Brackets, dialect: Dialect) {
    let comma = parser.token_span(parser.position());
    if parser.eat(TokenKind::Comma) {
        if parser.at(list.close) && dialect == Dialect::Strict {
            parser.fault(comma, Problem::Rule("no comma is after the last element"));
        }
        // Commas one after the other are one mistake.
        while parser.at(TokenKind::Comma) {
            let _: Result<(), Stop> = parser.stop_expecting("a value");
            while parser.eat(TokenKind::Comma) {}
        }
    } else if !parser.at(list.close) && !parser.kind().closes() && !parser.at(TokenKind::EndOfFile) {
        // A comma that is missing is all that is wrong where an element follows.
        let _: Result<(), Stop> = parser.stop_expecting("','");
    }
}

/// Leaves out what is left of an element: up to the comma after it, or the bracket around it.
fn leave_out_element(parser: &mut Parser) {
    let mut open = 0u32;
    loop {
        match parser.kind() {
            TokenKind::EndOfFile => return,
            TokenKind::Comma if open == 0 => return,
            kind if kind.opens() => open += 1,
            kind if kind.closes() && open == 0 => return,
            kind if kind.closes() => open -= 1,
            _ => {}
        }
        parser.bump();
    }
}
