//! "Method parameters".

use super::{Front, attribute, expression, name, separated, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenId, TokenKind};

/// `'(' parameter_list? ')'`
pub(super) fn parameters(parser: &mut Front) -> Parsed {
    bracketed(parser, TokenKind::ParenOpen, TokenKind::ParenClose)
}

/// Parameters in these brackets.
pub(super) fn bracketed(parser: &mut Front, open: TokenKind, close: TokenKind) -> Parsed {
    let mark = parser.open();
    parser.expect(open)?;
    if !parser.at(close) {
        super::in_brackets(parser, |parser| separated(parser, parameter))?;
    }
    parser.expect(close)?;
    parser.close_as(mark, Kind::Parameters, Role::Parameters);
    Ok(())
}

/// `fixed_parameter: attributes? parameter_modifier? type identifier default_argument?`
fn parameter(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    attribute::sections(parser)?;
    // What takes arguments that nobody wrote down.
    if parser.at(TokenKind::Name) && parser.text() == "__arglist" {
        parser.leaf(Kind::Name, Role::Name);
        parser.close_as(mark, Kind::Parameter, Role::Parameter);
        return Ok(());
    }
    while is_modifier(parser, parser.position(), parser.kind()) {
        parser.bump();
    }
    types::type_of(parser, Role::Type)?;
    name(parser, Role::Name)?;
    if parser.eat(TokenKind::Assign) {
        expression::expression(parser, Role::Default)?;
    }
    parser.close_as(mark, Kind::Parameter, Role::Parameter);
    Ok(())
}

/// Whether a token is a word before a parameter that says how it is given.
pub(super) fn is_modifier(parser: &mut Front, token: TokenId, kind: TokenKind) -> bool {
    match kind {
        TokenKind::Ref | TokenKind::Out | TokenKind::In | TokenKind::Params | TokenKind::This => true,
        TokenKind::Modifier => parser.token_text(token) == "readonly",
        TokenKind::Name if parser.token_text(token) == "scoped" => {
            let (next, kind) = parser.token_after(token);
            match kind {
                TokenKind::Ref | TokenKind::In | TokenKind::Out | TokenKind::PrimitiveType => true,
                TokenKind::Name => !matches!(
                    parser.token_after(next).1,
                    TokenKind::Comma | TokenKind::ParenClose | TokenKind::Assign | TokenKind::Semicolon | TokenKind::In
                ),
                _ => false,
            }
        }
        _ => false,
    }
}
