//! Arithmetic ("Arithmetic Expansion", POSIX.1-2024, 2.6.4; "Shell Arithmetic" of bash 5.2), operators by their precedence.
//!
//! Shells look into arithmetic only when they run it, and its text may be made by expansions. So nothing is refused here: what does not
//! fit is in the node as it is.

use super::word;
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Role, TokenKind};

/// The operators between two operands, the longest first, with how tightly they bind.
const BINARY: &[(&str, u8, Kind)] = &[
    ("**", 12, Kind::Binary),
    ("<<", 9, Kind::Binary),
    (">>", 9, Kind::Binary),
    ("<=", 8, Kind::Comparison),
    (">=", 8, Kind::Comparison),
    ("==", 7, Kind::Comparison),
    ("!=", 7, Kind::Comparison),
    ("&&", 3, Kind::Logical),
    ("||", 2, Kind::Logical),
    ("<", 8, Kind::Comparison),
    (">", 8, Kind::Comparison),
    ("*", 11, Kind::Binary),
    ("/", 11, Kind::Binary),
    ("%", 11, Kind::Binary),
    ("+", 10, Kind::Binary),
    ("-", 10, Kind::Binary),
    ("&", 6, Kind::Binary),
    ("^", 5, Kind::Binary),
    ("|", 4, Kind::Binary),
];

/// The power of `**`, which binds to the right.
const POWER: u8 = 12;

/// The operators that change what is before them.
const ASSIGNING: &[&str] = &["<<=", ">>=", "*=", "/=", "%=", "+=", "-=", "&=", "^=", "|="];

/// What is between the brackets, the closing one included.
pub(super) fn inside(parser: &mut Parser, close: TokenKind) -> Parsed {
    loop {
        if parser.eat(close) {
            return Ok(());
        }
        let before = parser.position();
        sequence(parser);
        if parser.position() > before {
            parser.role(Role::Operand);
        } else {
            anything(parser, close)?;
        }
    }
}

/// A token that fits nowhere, such as the `;` in the head of a loop.
fn anything(parser: &mut Parser, close: TokenKind) -> Parsed {
    match parser.kind() {
        TokenKind::BracketOpen | TokenKind::BracketClose | TokenKind::ParenOpen | TokenKind::ParenClose => {
            parser.bump()
        }
        kind if word::is_part(kind) => word::part(parser)?,
        _ => return parser.stop_expecting(close.describe()),
    }
    Ok(())
}

/// `a, b`
fn sequence(parser: &mut Parser) {
    let mark = parser.open();
    let first = parser.position();
    assignment(parser);
    if parser.position() == first || !at(parser, ",") {
        return;
    }
    while at(parser, ",") {
        parser.role(Role::Element);
        take(parser, 1);
        assignment(parser);
    }
    parser.role(Role::Element);
    parser.close(mark, Kind::Sequence);
}

/// `a = b`, `a += b`, `a ? b : c`
fn assignment(parser: &mut Parser) {
    let mark = parser.open();
    let _ = parser.nested(|parser| {
        let first = parser.position();
        binary(parser, 0);
        if parser.position() == first {
            return Ok(());
        }
        let assigning = ASSIGNING.iter().find(|operator| at(parser, operator));
        if let Some(operator) = assigning {
            value_of(parser, mark, operator.len(), Kind::CompoundAssignment);
        } else if at(parser, "=") && !at(parser, "==") {
            value_of(parser, mark, 1, Kind::Assignment);
        } else if at(parser, "?") {
            choice(parser, mark);
        }
        Ok(())
    });
}

fn value_of(parser: &mut Parser, mark: Mark, length: usize, kind: Kind) {
    parser.role(Role::Target);
    take(parser, length);
    part_of(parser, Role::Value, assignment);
    parser.close(mark, kind);
}

fn choice(parser: &mut Parser, mark: Mark) {
    parser.role(Role::Condition);
    take(parser, 1);
    part_of(parser, Role::Value, assignment);
    if at(parser, ":") {
        take(parser, 1);
        part_of(parser, Role::Else, assignment);
    }
    parser.close(mark, Kind::Conditional);
}

/// Reads a part that may be missing, and says what it is.
fn part_of(parser: &mut Parser, role: Role, rule: fn(&mut Parser)) {
    let before = parser.position();
    rule(parser);
    if parser.position() > before {
        parser.role(role);
    }
}

/// Operators that bind more tightly than `least`.
fn binary(parser: &mut Parser, least: u8) {
    let mark = parser.open();
    let first = parser.position();
    unary(parser);
    if parser.position() == first {
        return;
    }
    while let Some((operator, power, kind)) = operator_here(parser).filter(|(_, power, _)| *power > least) {
        let (left, right) =
            if kind == Kind::Binary { (Role::Left, Role::Right) } else { (Role::Operand, Role::Operand) };
        parser.role(left);
        take(parser, operator.len());
        let before = parser.position();
        let inner = if power == POWER { power - 1 } else { power };
        let _ = parser.nested(|parser| {
            binary(parser, inner);
            Ok(())
        });
        if parser.position() > before {
            parser.role(right);
        }
        parser.close(mark, kind);
    }
}

/// The operator between two operands that is here; one that assigns is none.
fn operator_here(parser: &Parser) -> Option<(&'static str, u8, Kind)> {
    if !parser.at(TokenKind::ShellText) || ASSIGNING.iter().any(|operator| at(parser, operator)) {
        return None;
    }
    BINARY.iter().copied().find(|(operator, _, _)| at(parser, operator))
}

/// `!a`, `-a`, `++a`
fn unary(parser: &mut Parser) {
    let length = ["++", "--", "!", "~", "+", "-"].iter().find(|operator| at(parser, operator)).map(|found| found.len());
    let Some(length) = length.filter(|_| !at(parser, "!=")) else { return postfix(parser) };
    let mark = parser.open();
    take(parser, length);
    let before = parser.position();
    let _ = parser.nested(|parser| {
        unary(parser);
        Ok(())
    });
    if parser.position() > before {
        parser.role(Role::Operand);
    }
    parser.close(mark, if length == 2 { Kind::Update } else { Kind::Unary });
}

/// `a[1]`, `a++`
fn postfix(parser: &mut Parser) {
    let mark = parser.open();
    let first = parser.position();
    operand(parser);
    if parser.position() == first {
        return;
    }
    while (at(parser, "[") || parser.at(TokenKind::BracketOpen)) && parser.is_adjacent() {
        parser.role(Role::Object);
        parser.bump();
        part_of(parser, Role::Index, sequence);
        if at(parser, "]") || parser.at(TokenKind::BracketClose) {
            parser.bump();
        }
        parser.close(mark, Kind::Subscript);
    }
    if at(parser, "++") || at(parser, "--") {
        parser.role(Role::Operand);
        take(parser, 2);
        parser.close(mark, Kind::Update);
    }
}

/// A number, a name, an expansion, or several of them side by side; or something in parentheses.
fn operand(parser: &mut Parser) {
    if parser.at(TokenKind::ParenOpen) {
        return group(parser);
    }
    let mark = parser.open();
    let mut pieces = 0;
    while at_piece(parser) && (pieces == 0 || parser.is_adjacent()) {
        match parser.kind() {
            TokenKind::Number => parser.leaf(Kind::Number, Role::Part),
            TokenKind::Name => parser.leaf(Kind::Name, Role::Part),
            _ if word::part(parser).is_err() => return,
            _ => {}
        }
        pieces += 1;
    }
    if pieces > 1 {
        parser.close(mark, Kind::Word);
    }
}

fn group(parser: &mut Parser) {
    let mark = parser.open();
    parser.bump();
    part_of(parser, Role::Value, sequence);
    parser.eat(TokenKind::ParenClose);
    parser.close(mark, Kind::Group);
}

fn at_piece(parser: &Parser) -> bool {
    match parser.kind() {
        TokenKind::Number | TokenKind::Name => true,
        TokenKind::ShellText => false,
        kind => word::is_part(kind),
    }
}

/// Whether these characters are here, one token each.
fn at(parser: &Parser, operator: &str) -> bool {
    let (first, rest) = operator.split_at(1);
    parser.at(TokenKind::ShellText)
        && parser.text() == first
        && parser.bytes_behind(parser.position()).starts_with(rest.as_bytes())
}

/// Takes an operator of this many characters.
fn take(parser: &mut Parser, length: usize) {
    (0..length).for_each(|_| parser.bump());
}
