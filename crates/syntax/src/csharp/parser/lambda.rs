//! "Anonymous function expressions".

use super::{Front, ahead, attribute, expression, name, parameter, separated, statement, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenId, TokenKind};

/// Whether a lambda expression begins here: perhaps attributes and modifiers, a name or parameters in parentheses, and an arrow.
pub(super) fn begins(parser: &mut Front) -> bool {
    match parser.kind() {
        TokenKind::Name | TokenKind::ParenOpen | TokenKind::PrimitiveType | TokenKind::Void => {}
        TokenKind::BracketOpen | TokenKind::StaticWord | TokenKind::Ref => {}
        _ => return false,
    }
    if parser.own.state.before_arrow {
        return false;
    }
    let here = parser.current();
    let Some(mut token) = ahead::behind_attributes(parser, here) else { return false };
    while is_modifier(parser, token.0, token.1) {
        token = parser.token_after(token.0);
    }
    match token.1 {
        TokenKind::Delegate => here != token,
        TokenKind::Name if parser.token_after(token.0).1 == TokenKind::FatArrow => true,
        TokenKind::ParenOpen => begins_parameters(parser, token),
        TokenKind::PrimitiveType | TokenKind::Void | TokenKind::Ref => begins_typed(parser, token),
        _ => false,
    }
}

/// `async`, where something that can be a function is behind it, and `static`.
fn is_modifier(parser: &mut Front, token: TokenId, kind: TokenKind) -> bool {
    match kind {
        TokenKind::StaticWord => true,
        TokenKind::Name if parser.token_text(token) == "async" => {
            let next = parser.token_after(token);
            match next.1 {
                TokenKind::Name | TokenKind::StaticWord | TokenKind::Delegate => true,
                TokenKind::ParenOpen => ahead::behind_brackets(parser, next).1 == TokenKind::FatArrow,
                _ => false,
            }
        }
        _ => false,
    }
}

/// Whether parentheses hold parameters. Most hold something else, which their first tokens tell.
fn begins_parameters(parser: &mut Front, open: (TokenId, TokenKind)) -> bool {
    let (first, kind) = parser.token_after(open.0);
    let may_begin = match kind {
        TokenKind::ParenClose
        | TokenKind::PrimitiveType
        | TokenKind::BracketOpen
        | TokenKind::ParenOpen
        | TokenKind::Params
        | TokenKind::Void
        | TokenKind::Delegate
        | TokenKind::Ref
        | TokenKind::Out
        | TokenKind::In => true,
        TokenKind::Name => matches!(
            parser.token_after(first).1,
            TokenKind::Comma
                | TokenKind::ParenClose
                | TokenKind::Name
                | TokenKind::Dot
                | TokenKind::Less
                | TokenKind::BracketOpen
                | TokenKind::Question
                | TokenKind::Star
                | TokenKind::ColonColon
                | TokenKind::Ref
                | TokenKind::PrimitiveType
        ),
        _ => false,
    };
    may_begin && ahead::behind_brackets(parser, open).1 == TokenKind::FatArrow
}

/// Whether a type begins here that a lambda expression gives, with its parameters behind it.
fn begins_typed(parser: &mut Front, token: (TokenId, TokenKind)) -> bool {
    let first = ahead::behind_reference_words(parser, token);
    let Some(open) = ahead::behind_type(parser, first).filter(|open| open.1 == TokenKind::ParenOpen) else {
        return false;
    };
    ahead::behind_brackets(parser, open).1 == TokenKind::FatArrow
}

/// `lambda_expression`
pub(super) fn lambda(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        attribute::sections(parser)?;
        while is_modifier(parser, parser.position(), parser.kind()) {
            parser.bump();
        }
        if parser.at(TokenKind::Delegate) {
            return anonymous_from(parser, mark);
        }
        if matches!(parser.kind(), TokenKind::PrimitiveType | TokenKind::Void | TokenKind::Ref) {
            types::returned(parser)?;
        }
        parameters(parser)?;
        parser.expect(TokenKind::FatArrow)?;
        if parser.at(TokenKind::BraceOpen) {
            statement::block(parser, Role::Body)?;
        } else {
            expression::expression(parser, Role::Body)?;
        }
        super::done(parser, mark, Kind::Lambda)
    })
}

/// Parameters in parentheses, or one name alone.
fn parameters(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if !parser.at(TokenKind::ParenOpen) {
        concise(parser)?;
        parser.close_as(mark, Kind::Parameters, Role::Parameters);
        return Ok(());
    }
    if !are_concise(parser) {
        return parameter::parameters(parser);
    }
    parser.bump();
    separated(parser, concise)?;
    parser.expect(TokenKind::ParenClose)?;
    parser.close_as(mark, Kind::Parameters, Role::Parameters);
    Ok(())
}

/// Whether the first parameter has a name and no type.
fn are_concise(parser: &mut Front) -> bool {
    let mut token = parser.next_token();
    while parameter::is_modifier(parser, token.0, token.1) {
        token = parser.token_after(token.0);
    }
    token.1 == TokenKind::Name
        && matches!(parser.token_after(token.0).1, TokenKind::Comma | TokenKind::ParenClose | TokenKind::Assign)
}

/// A parameter by its name alone.
fn concise(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    while parameter::is_modifier(parser, parser.position(), parser.kind()) {
        parser.bump();
    }
    name(parser, Role::Name)?;
    parser.close_as(mark, Kind::Parameter, Role::Parameter);
    Ok(())
}

/// `anonymous_method_expression: 'delegate' explicit_anonymous_function_signature? block`
pub(super) fn anonymous(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    anonymous_from(parser, mark)
}

fn anonymous_from(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    if parser.at(TokenKind::ParenOpen) {
        parameter::parameters(parser)?;
    }
    statement::block(parser, Role::Body)?;
    super::done(parser, mark, Kind::Lambda)
}
