//! Functions, classes, and parameters of all sorts.

use super::arguments::{on_bases, star_annotation};
use super::expression::{expression, star_expression};
use super::statement::colon_block;
use super::target;
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `function_def_raw: ['async'] 'def' NAME [type_params] '(' [params] ')' ['->' expression] ':' block`, its decorators, if
/// any, being taken since `mark`.
pub(super) fn on_def(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.eat(TokenKind::Async);
    parser.expect(TokenKind::Def)?;
    target::name(parser, Role::Name)?;
    type_parameters(parser)?;
    let parameters = parser.open();
    parser.expect(TokenKind::ParenOpen)?;
    parameter_list(parser, TokenKind::ParenClose, true)?;
    parser.expect(TokenKind::ParenClose)?;
    parser.close_as(parameters, Kind::Parameters, Role::Parameters);
    if parser.eat(TokenKind::Arrow) {
        expression(parser)?;
        parser.role(Role::Returns);
    }
    colon_block(parser, Role::Body)?;
    parser.close(mark, Kind::Function);
    Ok(())
}

/// `class_def_raw: 'class' NAME [type_params] ['(' [arguments] ')'] ':' block`
pub(super) fn on_class(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.bump();
    target::name(parser, Role::Name)?;
    type_parameters(parser)?;
    if parser.at(TokenKind::ParenOpen) {
        on_bases(parser)?;
    }
    colon_block(parser, Role::Body)?;
    parser.close(mark, Kind::Class);
    Ok(())
}

/// `lambda_params`
pub(super) fn lambda_parameters(parser: &mut Parser) -> Parsed {
    if parser.at(TokenKind::Colon) {
        return Ok(());
    }
    let mark = parser.open();
    parameter_list(parser, TokenKind::Colon, false)?;
    parser.close_as(mark, Kind::Parameters, Role::Parameters);
    Ok(())
}

/// What came before among the parameters, for the order they must keep.
#[derive(Default)]
struct Seen {
    count: u32,
    slash: bool,
    /// A parameter that takes the rest of the positional arguments, or the lone star in its place.
    star: bool,
    lone_star_waits: bool,
    default: bool,
    keyword_rest: bool,
}

fn parameter_list(parser: &mut Parser, close: TokenKind, typed: bool) -> Parsed {
    let mut seen = Seen::default();
    while !parser.at(close) {
        if seen.keyword_rest {
            return parser.stop(Problem::Rule("nothing can follow the '**' parameter"));
        }
        parameter(parser, &mut seen, typed)?;
        parser.role(Role::Parameter);
        seen.count += 1;
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    if seen.lone_star_waits {
        return parser.stop(Problem::Rule("a named parameter must follow a lone '*'"));
    }
    Ok(())
}

fn parameter(parser: &mut Parser, seen: &mut Seen, typed: bool) -> Parsed {
    let mark = parser.open();
    match parser.kind() {
        TokenKind::Slash => {
            if seen.count == 0 || seen.slash || seen.star {
                return parser.stop(Problem::Rule("'/' is allowed once, after a parameter and before any '*'"));
            }
            seen.slash = true;
            parser.bump();
        }
        TokenKind::Star => {
            if seen.star {
                return parser.stop(Problem::Rule("'*' is allowed only once among parameters"));
            }
            seen.star = true;
            parser.bump();
            if parser.at(TokenKind::Comma) {
                seen.lone_star_waits = true;
            } else {
                rest_parameter(parser, typed, true)?;
            }
        }
        TokenKind::StarStar => {
            if seen.lone_star_waits {
                return parser.stop(Problem::Rule("a named parameter must follow a lone '*'"));
            }
            seen.keyword_rest = true;
            parser.bump();
            rest_parameter(parser, typed, false)?;
        }
        _ => plain_parameter(parser, seen, typed)?,
    }
    parser.close(mark, Kind::Parameter);
    Ok(())
}

fn plain_parameter(parser: &mut Parser, seen: &mut Seen, typed: bool) -> Parsed {
    target::name(parser, Role::Name)?;
    seen.lone_star_waits = false;
    if typed && parser.eat(TokenKind::Colon) {
        expression(parser)?;
        parser.role(Role::Type);
    }
    if parser.eat(TokenKind::Assign) {
        seen.default = true;
        expression(parser)?;
        parser.role(Role::Default);
    } else if seen.default && !seen.star {
        return parser.stop(Problem::Rule("a parameter without a default follows one with a default"));
    }
    Ok(())
}

/// The name after `*` or `**`, with its type.
fn rest_parameter(parser: &mut Parser, typed: bool, positional: bool) -> Parsed {
    target::name(parser, Role::Name)?;
    if typed && parser.eat(TokenKind::Colon) {
        if positional {
            star_annotation(parser)?
        } else {
            expression(parser)?
        }
        parser.role(Role::Type);
    }
    if parser.at(TokenKind::Assign) {
        return parser.stop(Problem::Rule("a parameter that takes the rest cannot have a default"));
    }
    Ok(())
}

/// `type_params: '[' ','.type_param+ [','] ']'`, or nothing.
pub(super) fn type_parameters(parser: &mut Parser) -> Parsed {
    if !parser.at(TokenKind::BracketOpen) {
        return Ok(());
    }
    let mark = parser.open();
    parser.bump();
    loop {
        type_parameter(parser)?;
        if !parser.eat(TokenKind::Comma) || parser.at(TokenKind::BracketClose) {
            break;
        }
    }
    parser.expect(TokenKind::BracketClose)?;
    parser.close_as(mark, Kind::TypeParameters, Role::TypeParameters);
    Ok(())
}

/// `type_param: NAME [':' expression] ['=' expression] | '*' NAME ['=' star_expression] | '**' NAME ['=' expression]`
fn type_parameter(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let starred = parser.eat(TokenKind::Star);
    let double_starred = !starred && parser.eat(TokenKind::StarStar);
    target::name(parser, Role::Name)?;
    if !starred && !double_starred && parser.eat(TokenKind::Colon) {
        expression(parser)?;
        parser.role(Role::Bound);
    }
    if parser.eat(TokenKind::Assign) {
        if starred {
            star_expression(parser)?
        } else {
            expression(parser)?
        }
        parser.role(Role::Default);
    }
    parser.close_as(mark, Kind::TypeParameter, Role::Parameter);
    Ok(())
}
