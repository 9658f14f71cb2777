//! Strings side by side, format strings with their expressions, and what their contents must keep to.

use super::super::literal;
use super::expression::yield_or_star_expressions;
use crate::parse::{Parsed, Parser};
use crate::text::Span;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// `strings: (fstring | string)+ | tstring+`
pub(super) fn strings(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let first = string(parser)?;
    if !matches!(parser.kind(), TokenKind::String | TokenKind::FormatStart) {
        return Ok(());
    }
    parser.role(Role::Part);
    let mut mixed = false;
    while matches!(parser.kind(), TokenKind::String | TokenKind::FormatStart) {
        let kind = string(parser)?;
        parser.role(Role::Part);
        mixed |= family(kind) != family(first);
    }
    parser.close(mark, Kind::Concatenation);
    if mixed {
        parser.fault_since(mark, Problem::Rule("string, bytes and template literals cannot be joined"));
    }
    Ok(())
}

/// Literals of one family can be side by side.
fn family(kind: Kind) -> Kind {
    if kind == Kind::FormatString { Kind::String } else { kind }
}

fn string(parser: &mut Parser) -> Result<Kind, crate::parse::Stop> {
    if parser.at(TokenKind::FormatStart) {
        return format_string(parser);
    }
    let span = parser.token_span(parser.position());
    let literal = literal::StringLiteral::of(parser.text());
    if let Some(problem) = literal.problem() {
        parser.fault(span, problem);
    }
    let kind = if literal.is_bytes() { Kind::Bytes } else { Kind::String };
    parser.leaf(kind, Role::Part);
    Ok(kind)
}

/// `fstring: FSTRING_START fstring_middle* FSTRING_END`, and the same for template strings.
fn format_string(parser: &mut Parser) -> Result<Kind, crate::parse::Stop> {
    let mark = parser.open();
    let prefix = parser.text();
    let kind = if prefix.contains(['t', 'T']) { Kind::TemplateString } else { Kind::FormatString };
    let raw = prefix.contains(['r', 'R']);
    parser.bump();
    parts(parser, raw)?;
    if !parser.eat(TokenKind::FormatEnd) {
        // The lexer has reported that the string is never closed.
        return Err(crate::parse::Stop);
    }
    parser.close(mark, kind);
    Ok(kind)
}

/// `fstring_middle: fstring_replacement_field | FSTRING_MIDDLE`
fn parts(parser: &mut Parser, raw: bool) -> Parsed {
    loop {
        match parser.kind() {
            TokenKind::FormatText => {
                let span = parser.token_span(parser.position());
                if let Some(problem) = (!raw).then(|| literal::escape_problem(parser.text(), false)).flatten() {
                    parser.fault(span, problem);
                }
                parser.bump();
            }
            TokenKind::BraceOpen => interpolation(parser, raw)?,
            _ => return Ok(()),
        }
    }
}

/// `fstring_replacement_field: '{' annotated_rhs ['='] ['!' NAME] [':' fstring_format_spec*] '}'`
fn interpolation(parser: &mut Parser, raw: bool) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if matches!(parser.kind(), TokenKind::BraceClose | TokenKind::Colon | TokenKind::Exclamation | TokenKind::Assign) {
        return parser.stop_expecting("an expression");
    }
    yield_or_star_expressions(parser)?;
    parser.role(Role::Value);
    parser.eat(TokenKind::Assign);
    if parser.at(TokenKind::Exclamation) {
        conversion(parser)?;
    }
    if parser.eat(TokenKind::Colon) {
        let spec = parser.open();
        parser.nested(|parser| parts(parser, raw))?;
        parser.close_as(spec, Kind::FormatSpec, Role::Format);
    }
    parser.expect(TokenKind::BraceClose)?;
    parser.close_as(mark, Kind::Interpolation, Role::Part);
    Ok(())
}

/// `fstring_conversion: "!" NAME`, the name being `s`, `r` or `a` and being directly after the mark.
fn conversion(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let after_mark = parser.position() + 1;
    parser.bump();
    if !parser.at(TokenKind::Name) || parser.position() != after_mark || !matches!(parser.text(), "s" | "r" | "a") {
        let span = parser.token_span(parser.position());
        parser.fault(Span::new(span.start, span.end), Problem::Rule("a conversion is '!s', '!r' or '!a'"));
        return Err(crate::parse::Stop);
    }
    parser.bump();
    parser.close_as(mark, Kind::Conversion, Role::Conversion);
    Ok(())
}
