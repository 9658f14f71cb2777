//! "Lambda Expressions".

use super::{Front, ahead, expression, member, statement, variable_name};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// Whether a lambda expression begins here: a name or parameters in parentheses, and an arrow.
pub(super) fn begins(parser: &mut Front) -> bool {
    if parser.own.state.before_arrow {
        return false;
    }
    match parser.kind() {
        TokenKind::Name | TokenKind::Underscore => parser.next_kind() == TokenKind::Arrow,
        TokenKind::ParenOpen => {
            // Most parentheses hold something else, which their first tokens tell.
            let (first, kind) = parser.next_token();
            let may_begin = match kind {
                TokenKind::ParenClose
                | TokenKind::PrimitiveType
                | TokenKind::Modifier
                | TokenKind::At
                | TokenKind::Underscore => true,
                TokenKind::Name => matches!(
                    parser.token_after(first).1,
                    TokenKind::Comma
                        | TokenKind::ParenClose
                        | TokenKind::Name
                        | TokenKind::Underscore
                        | TokenKind::Dot
                        | TokenKind::Less
                        | TokenKind::BracketOpen
                        | TokenKind::Ellipsis
                        | TokenKind::At
                ),
                _ => false,
            };
            let here = parser.current();
            may_begin && ahead::behind_parentheses(parser, here).1 == TokenKind::Arrow
        }
        _ => false,
    }
}

/// `LambdaExpression: LambdaParameters -> LambdaBody`
pub(super) fn lambda(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parameters(parser)?;
        parser.expect(TokenKind::Arrow)?;
        if parser.at(TokenKind::BraceOpen) {
            statement::block(parser, Role::Body)?;
        } else {
            expression::expression(parser, Role::Body)?;
        }
        parser.close(mark, Kind::Lambda);
        Ok(())
    })
}

/// `LambdaParameters: ( [LambdaParameterList] ) | ConciseLambdaParameter`
fn parameters(parser: &mut Front) -> Parsed {
    if !parser.at(TokenKind::ParenOpen) {
        let mark = parser.open();
        concise(parser)?;
        parser.close_as(mark, Kind::Parameters, Role::Parameters);
        return Ok(());
    }
    let (first, kind) = parser.next_token();
    let is_concise = matches!(kind, TokenKind::Name | TokenKind::Underscore)
        && matches!(parser.token_after(first).1, TokenKind::Comma | TokenKind::ParenClose);
    if !is_concise {
        return member::parameters(parser);
    }
    let mark = parser.open();
    parser.bump();
    super::separated(parser, concise)?;
    parser.expect(TokenKind::ParenClose)?;
    parser.close_as(mark, Kind::Parameters, Role::Parameters);
    Ok(())
}

/// A parameter by its name alone.
fn concise(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    variable_name(parser, Role::Name)?;
    parser.close_as(mark, Kind::Parameter, Role::Parameter);
    Ok(())
}
