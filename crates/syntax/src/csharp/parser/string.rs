//! "Interpolated string expressions".

use super::{Front, expression};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// A string with holes.
pub(super) fn interpolated(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.bump();
        loop {
            match parser.kind() {
                TokenKind::FormatText => parser.bump(),
                TokenKind::BraceOpen => hole(parser)?,
                TokenKind::FormatEnd => {
                    parser.bump();
                    break;
                }
                // The lexer has told that it is never closed.
                _ => break,
            }
        }
        super::done(parser, mark, Kind::FormatString)
    })
}

/// `interpolation: '{' expression (',' constant_expression)? (':' format)? '}'`
fn hole(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    super::in_brackets(parser, |parser| expression::expression(parser, Role::Value))?;
    if parser.eat(TokenKind::Comma) {
        expression::expression(parser, Role::Conversion)?;
    }
    if parser.eat(TokenKind::Colon) {
        let format = parser.open();
        parser.eat(TokenKind::FormatText);
        parser.close_as(format, Kind::FormatSpec, Role::Format);
    }
    parser.expect(TokenKind::BraceClose)?;
    parser.close_as(mark, Kind::Interpolation, Role::Part);
    Ok(())
}
