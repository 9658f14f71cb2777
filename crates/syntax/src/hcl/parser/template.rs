//! Templates ("Templates", HCL native syntax): strings with parts, and here-documents.

use super::expression::{expression, targets};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Role, TokenKind};

/// `QuotedTemplate`
pub(super) fn quoted(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parts(parser, TokenKind::FormatText)?;
    if parser.at(TokenKind::FormatEnd) {
        parser.bump();
    }
    // Where the quote is missing, the lexer told of it.
    parser.close(mark, Kind::FormatString);
    Ok(())
}

/// `HeredocTemplate`
pub(super) fn here_document(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parts(parser, TokenKind::HereText)?;
    if parser.at(TokenKind::HereEnd) {
        parser.bump();
    }
    parser.close(mark, Kind::HereDocument);
    Ok(())
}

/// Texts and parts side by side.
fn parts(parser: &mut Parser, text: TokenKind) -> Parsed {
    loop {
        match parser.kind() {
            kind if kind == text => parser.bump(),
            TokenKind::DollarBrace => parser.nested(part)?,
            _ => return Ok(()),
        }
    }
}

/// `${ expression }`, or a word that steers what is around it: `%{ if … }`, `%{ else }`, `%{ endif }`, `%{ for … in … }`, `%{ endfor }`.
fn part(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let steers = parser.text().starts_with('%');
    parser.bump();
    let kind = if steers {
        directive(parser)?;
        Kind::TemplateDirective
    } else {
        expression(parser, Role::Value)?;
        Kind::Interpolation
    };
    parser.eat(TokenKind::Tilde);
    parser.expect(TokenKind::BraceClose)?;
    parser.close_as(mark, kind, Role::Part);
    Ok(())
}

fn directive(parser: &mut Parser) -> Parsed {
    let word = if parser.at(TokenKind::Name) { parser.text() } else { "" };
    match word {
        "if" => {
            parser.bump();
            expression(parser, Role::Condition)
        }
        "for" => {
            parser.bump();
            targets(parser)?;
            expression(parser, Role::Iterable)
        }
        "else" | "endif" | "endfor" => {
            parser.bump();
            Ok(())
        }
        _ => parser.stop_expecting("if, else, endif, for or endfor"),
    }
}
