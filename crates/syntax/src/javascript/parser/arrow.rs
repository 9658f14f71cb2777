//! "Arrow Function Definitions" and "Async Arrow Function Definitions".
//!
//! What is in parentheses turns out to be parameters only after them. Where the first tokens leave it open, it is tried as
//! parameters first; a place where that did not fit is remembered, so that no place is tried twice.

use super::function::{self, Sort};
use super::{Front, expression, name, types};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Mark, Role, TokenKind};

/// What the first tokens say.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Sign {
    Yes,
    No,
    Perhaps,
}

/// An arrow function, if one begins here. Whether it did.
#[inline]
pub(super) fn opt_arrow_function(parser: &mut Front) -> Result<bool, Stop> {
    match parser.kind() {
        TokenKind::Name => begun_by_name(parser),
        TokenKind::ParenOpen | TokenKind::Less => begun_by_bracket(parser, false),
        _ => Ok(false),
    }
}

/// `x => …`, `async x => …`, `async ( … ) => …`
#[inline]
fn begun_by_name(parser: &mut Front) -> Result<bool, Stop> {
    if parser.text() == "async" {
        let (next, kind) = parser.next_token();
        match kind {
            TokenKind::ParenOpen | TokenKind::Less if !parser.next_is_on_new_line() => {
                return begun_by_bracket(parser, true);
            }
            TokenKind::Name if !parser.next_is_on_new_line() && parser.token_after(next).1 == TokenKind::FatArrow => {
                let mark = parser.open();
                parser.bump();
                lone_parameter(parser)?;
                return arrow_and_body(parser, mark, Sort { is_async: true, ..Sort::default() }).map(|()| true);
            }
            _ => {}
        }
    }
    if !is_arrow_behind_name(parser) {
        return Ok(false);
    }
    let mark = parser.open();
    lone_parameter(parser)?;
    arrow_and_body(parser, mark, Sort::default()).map(|()| true)
}

/// Whether `=>` follows the current name, looked for in the text: most names are no parameters.
#[inline]
fn is_arrow_behind_name(parser: &mut Front) -> bool {
    match parser.bytes_behind(parser.position()) {
        [b'=', b'>', ..] | [b' ', b'=', b'>', ..] => true,
        [b' ' | b'\t' | 0x0b | 0x0c | b'/' | 0x80.., ..] => parser.next_kind() == TokenKind::FatArrow,
        _ => false,
    }
}

fn lone_parameter(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    name::binding_identifier(parser, Role::Name)?;
    parser.close_as(mark, Kind::Parameter, Role::Parameter);
    parser.close_as(mark, Kind::Parameters, Role::Parameters);
    Ok(())
}

fn begun_by_bracket(parser: &mut Front, is_async: bool) -> Result<bool, Stop> {
    let place = parser.position();
    if parser.own.tried_in_vain.contains(&place) {
        return Ok(false);
    }
    let sign = if is_async { sign_after_async(parser) } else { sign_here(parser) };
    let mark = parser.open();
    let sort = Sort { is_async, ..Sort::default() };
    match sign {
        Sign::No => Ok(false),
        Sign::Yes => {
            head(parser, sort)?;
            arrow_and_body(parser, mark, sort).map(|()| true)
        }
        Sign::Perhaps => {
            if !parser.attempt(|parser| head_before_arrow(parser, sort)) {
                parser.own.tried_in_vain.insert(place);
                return Ok(false);
            }
            arrow_and_body(parser, mark, sort).map(|()| true)
        }
    }
}

/// The sign after `async`.
fn sign_after_async(parser: &mut Front) -> Sign {
    let (bracket, kind) = parser.next_token();
    match kind {
        // `async(x)` is a call more often than not: only what follows the parentheses tells.
        TokenKind::ParenOpen => match sign_of_parentheses(parser, bracket) {
            Sign::Yes if parser.token_after(bracket).1 == TokenKind::ParenClose => Sign::Perhaps,
            Sign::Yes if parser.token_after(bracket).1 == TokenKind::Ellipsis => Sign::Perhaps,
            sign => sign,
        },
        _ if parser.has_types() => Sign::Perhaps,
        _ => Sign::No,
    }
}

fn sign_here(parser: &mut Front) -> Sign {
    if parser.at(TokenKind::ParenOpen) {
        return sign_of_parentheses(parser, parser.position());
    }
    if !parser.has_types() {
        return Sign::No;
    }
    let (first, kind) = parser.next_token();
    if kind != TokenKind::Name && kind != TokenKind::Const {
        return Sign::No;
    }
    if !parser.own.dialect.markup {
        return Sign::Perhaps;
    }
    // Where tags may be, `<T>` begins one; `<T,>`, `<T extends U>` and `<const T` do not.
    let (second, kind) = if kind == TokenKind::Const { parser.token_after(first) } else { (first, TokenKind::Name) };
    if kind != TokenKind::Name {
        return Sign::No;
    }
    match parser.token_after(second) {
        (extends, TokenKind::Extends) => match parser.token_after(extends).1 {
            TokenKind::Assign | TokenKind::Greater | TokenKind::Slash => Sign::No,
            _ => Sign::Yes,
        },
        (_, TokenKind::Comma | TokenKind::Assign) => Sign::Yes,
        _ => Sign::No,
    }
}

fn sign_of_parentheses(parser: &mut Front, open: u32) -> Sign {
    let types = parser.has_types();
    let (first, kind) = parser.token_after(open);
    match kind {
        TokenKind::ParenClose => match parser.token_after(first).1 {
            TokenKind::FatArrow => Sign::Yes,
            TokenKind::Colon if types => Sign::Perhaps,
            TokenKind::BraceOpen if types => Sign::Yes,
            _ => Sign::No,
        },
        TokenKind::BracketOpen | TokenKind::BraceOpen => Sign::Perhaps,
        TokenKind::Ellipsis => Sign::Yes,
        TokenKind::At if types => Sign::Perhaps,
        TokenKind::Name | TokenKind::This if types || kind == TokenKind::Name => {
            let (second, behind) = parser.token_after(first);
            match behind {
                TokenKind::Colon if types => Sign::Yes,
                TokenKind::Question if types => match parser.token_after(second).1 {
                    TokenKind::Colon | TokenKind::Comma | TokenKind::Assign | TokenKind::ParenClose => Sign::Yes,
                    _ => Sign::No,
                },
                TokenKind::Comma | TokenKind::Assign | TokenKind::ParenClose => Sign::Perhaps,
                TokenKind::Name | TokenKind::BracketOpen | TokenKind::BraceOpen | TokenKind::This
                    if types && is_modifier(parser, first) =>
                {
                    Sign::Perhaps
                }
                _ => Sign::No,
            }
        }
        _ => Sign::No,
    }
}

fn is_modifier(parser: &Front, token: u32) -> bool {
    matches!(parser.token_text(token), "public" | "private" | "protected" | "readonly" | "override")
}

/// Everything before the arrow. Whether the type of the result is in it.
fn head(parser: &mut Front, sort: Sort) -> Result<bool, Stop> {
    if sort.is_async {
        parser.bump();
    }
    types::opt_type_parameters(parser)?;
    parser.within(|context| enter(sort, context), function::parameters)?;
    let typed = parser.has_types() && parser.at(TokenKind::Colon);
    types::opt_return_type(parser)?;
    Ok(typed)
}

/// The same, where an arrow follows.
fn head_before_arrow(parser: &mut Front, sort: Sort) -> Parsed {
    let typed = head(parser, sort)?;
    if !parser.at(TokenKind::FatArrow) || (typed && !leaves_colon(parser, sort)) {
        return Err(Stop);
    }
    Ok(())
}

/// Looking further ahead than this many arrow functions within each other would take too long.
const LOOKED_INTO: u8 = 3;

/// `a ? (b) : c => d`: the colon may belong to the choice around it. It is a type's if another colon follows the function.
fn leaves_colon(parser: &mut Front, sort: Sort) -> bool {
    let context = parser.context();
    if !context.in_choice || context.looked_into == LOOKED_INTO {
        return true;
    }
    parser.looks_like(|parser| {
        parser.own.context.looked_into += 1;
        parser.bump();
        body(parser, sort).is_ok() && parser.at(TokenKind::Colon)
    })
}

/// What the parameters and the body of an arrow function allow; some of it comes from around it.
fn enter(sort: Sort, context: &mut super::Context) {
    context.in_async = sort.is_async;
    context.in_generator = false;
    context.no_in = false;
    context.in_choice = false;
}

/// `=> ConciseBody`
fn arrow_and_body(parser: &mut Front, mark: Mark, sort: Sort) -> Parsed {
    if parser.at_new_line() && parser.at(TokenKind::FatArrow) {
        return parser.stop_expecting("'=>' on the line of the parameters");
    }
    parser.expect(TokenKind::FatArrow)?;
    body(parser, sort)?;
    parser.close(mark, Kind::Lambda);
    Ok(())
}

fn body(parser: &mut Front, sort: Sort) -> Parsed {
    if parser.at(TokenKind::BraceOpen) {
        let inside = |context: &mut super::Context| {
            let around = *context;
            sort.enter(context);
            // An arrow function has no object and no class of its own.
            context.in_method = around.in_method;
            context.in_constructor = around.in_constructor;
        };
        return parser.within(inside, function::body);
    }
    let inside = |context: &mut super::Context| {
        context.in_async = sort.is_async;
        context.in_generator = false;
        context.in_function = true;
    };
    parser.within(inside, expression::assignment_expression)?;
    parser.role(Role::Body);
    Ok(())
}
