//! Words, with all that may be in them.

use super::arithmetic;
use super::statements;
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Role, TokenKind};

/// Whether a word begins at the current token.
pub(super) fn at_word(parser: &Parser) -> bool {
    begins(parser.kind()) && !at_closing_backquote(parser)
}

/// Whether a word begins with a token.
pub(super) fn begins(kind: TokenKind) -> bool {
    is_part(kind) || matches!(kind, TokenKind::Number)
}

pub(super) fn is_part(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::ShellText
            | TokenKind::String
            | TokenKind::FormatStart
            | TokenKind::ShellParameter
            | TokenKind::DollarBrace
            | TokenKind::DollarParen
            | TokenKind::DollarParens
            | TokenKind::DollarBracket
            | TokenKind::ProcessOpen
            | TokenKind::PatternOpen
            | TokenKind::Backquote
    )
}

/// A word: parts that are side by side. A closing backquote is no part of it.
pub(super) fn word(parser: &mut Parser, role: Role) -> Parsed {
    if !at_word(parser) {
        return parser.stop_expecting("a word");
    }
    let mark = parser.open();
    part(parser)?;
    while parser.is_adjacent() && is_part(parser.kind()) && !at_closing_backquote(parser) {
        part(parser)?;
    }
    parser.close_as(mark, Kind::Word, role);
    Ok(())
}

/// Backquotes do not nest without a backslash: one that is met within a pair closes it.
fn at_closing_backquote(parser: &Parser) -> bool {
    parser.at(TokenKind::Backquote) && parser.in_backquotes()
}

pub(super) fn part(parser: &mut Parser) -> Parsed {
    match parser.kind() {
        TokenKind::String => parser.leaf(Kind::String, Role::Part),
        TokenKind::ShellParameter => parser.leaf(Kind::Expansion, Role::Part),
        TokenKind::FormatStart => return quoted(parser),
        TokenKind::DollarBrace => return braces(parser),
        TokenKind::DollarParen => return commands(parser, Kind::CommandSubstitution),
        TokenKind::ProcessOpen => return commands(parser, Kind::ProcessSubstitution),
        TokenKind::Backquote => return backquotes(parser),
        TokenKind::DollarParens | TokenKind::DollarBracket => return arithmetic_expansion(parser, Role::Part),
        TokenKind::PatternOpen => return alternatives(parser),
        _ => parser.bump(),
    }
    Ok(())
}

/// `" … "`
fn quoted(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    pieces(parser, TokenKind::FormatEnd)?;
    parser.close_as(mark, Kind::FormatString, Role::Part);
    Ok(())
}

/// Parts up to a token that closes what they are in.
fn pieces(parser: &mut Parser, close: TokenKind) -> Parsed {
    loop {
        match parser.kind() {
            kind if kind == close => {
                parser.bump();
                return Ok(());
            }
            TokenKind::FormatText => parser.bump(),
            TokenKind::Name => parser.leaf(Kind::Name, Role::Name),
            kind if is_part(kind) => part(parser)?,
            _ => return parser.stop_expecting(close.describe()),
        }
    }
}

/// `${ … }`
fn braces(parser: &mut Parser) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.bump();
        pieces(parser, TokenKind::BraceClose)?;
        parser.close_as(mark, Kind::Expansion, Role::Part);
        Ok(())
    })
}

/// `?( … )` and its like.
fn alternatives(parser: &mut Parser) -> Parsed {
    parser.nested(|parser| {
        parser.bump();
        pieces(parser, TokenKind::ParenClose)
    })
}

/// `$( … )`, `<( … )`
fn commands(parser: &mut Parser, kind: Kind) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.bump();
        statements(parser)?;
        parser.expect(TokenKind::ParenClose)?;
        parser.close_as(mark, kind, Role::Part);
        Ok(())
    })
}

/// `` ` … ` ``
fn backquotes(parser: &mut Parser) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.bump();
        parser.entering_backquotes(statements)?;
        parser.expect(TokenKind::Backquote)?;
        parser.close_as(mark, Kind::CommandSubstitution, Role::Part);
        Ok(())
    })
}

/// `(( … ))`, `$(( … ))` or `$[ … ]`
pub(super) fn arithmetic_expansion(parser: &mut Parser, role: Role) -> Parsed {
    let mark = parser.open();
    let close = if parser.at(TokenKind::DollarBracket) { TokenKind::BracketClose } else { TokenKind::ParensClose };
    parser.bump();
    arithmetic::inside(parser, close)?;
    parser.close_as(mark, Kind::Arithmetic, role);
    Ok(())
}

/// `[ … ]` after the name of an array.
pub(super) fn subscript(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    arithmetic::inside(parser, TokenKind::BracketClose)?;
    parser.close(mark, Kind::Arithmetic);
    Ok(())
}

/// The body of a here-document and the line that ends it.
pub(super) fn here_document(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    pieces(parser, TokenKind::HereEnd)?;
    parser.close_as(mark, Kind::HereDocument, Role::Part);
    Ok(())
}
