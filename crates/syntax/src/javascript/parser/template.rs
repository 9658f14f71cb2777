//! "Template Literals".

use super::super::lexer::{Goal, escapes};
use super::{Front, expression};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Role, TokenKind};

/// `TemplateLiteral`
pub(super) fn template(parser: &mut Front) -> Parsed {
    parts(parser, Kind::FormatString, expression::expression, true)
}

/// A template after a function, which may give its text any meaning.
pub(super) fn tagged(parser: &mut Front) -> Parsed {
    parts(parser, Kind::FormatString, expression::expression, false)
}

/// A template with types in its interpolations.
pub(super) fn template_type(parser: &mut Front, inner: fn(&mut Front) -> Parsed) -> Parsed {
    parts(parser, Kind::TemplateType, inner, true)
}

/// Text and interpolations up to the closing backquote. After a mistake in an interpolation the template is read to its end all the same.
fn parts(parser: &mut Front, kind: Kind, inner: fn(&mut Front) -> Parsed, checked: bool) -> Parsed {
    let mark = parser.open();
    let mut outcome = Ok(());
    parser.bump_for(Goal::Template);
    loop {
        match parser.kind() {
            TokenKind::FormatText => {
                if let Some(problem) = checked.then(|| escapes(parser.text(), false)).flatten() {
                    let span = parser.token_span(parser.position());
                    parser.fault(span, problem);
                }
                parser.bump_for(Goal::Template);
            }
            TokenKind::DollarBrace => outcome = outcome.and(interpolation(parser, inner)),
            TokenKind::FormatEnd => {
                parser.bump();
                parser.close(mark, kind);
                return outcome;
            }
            // The lexer has reported that the template is never closed.
            _ => return Err(Stop),
        }
    }
}

fn interpolation(parser: &mut Front, inner: fn(&mut Front) -> Parsed) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let mut outcome = parser.within_brackets(|parser| parser.nested(inner));
    parser.role(Role::Value);
    if outcome.is_ok() && !parser.at(TokenKind::BraceClose) {
        outcome = parser.stop_expecting("'}'");
    }
    if outcome.is_err() {
        skip_to_brace(parser);
    }
    if parser.at(TokenKind::BraceClose) {
        parser.bump_for(Goal::Template);
    }
    parser.close_as(mark, Kind::Interpolation, Role::Part);
    outcome
}

/// Leaves out tokens up to the brace that closes the interpolation.
fn skip_to_brace(parser: &mut Front) {
    let mut open = 0u32;
    loop {
        match parser.kind() {
            TokenKind::EndOfFile => return,
            TokenKind::BraceClose if open == 0 => return,
            TokenKind::BraceOpen | TokenKind::DollarBrace => open += 1,
            TokenKind::BraceClose => open -= 1,
            _ => {}
        }
        parser.bump();
    }
}
