//! Reading ahead: whether tokens are a type, without building anything.

use super::Front;
use crate::tree::{TokenId, TokenKind};

/// A token that was looked at, and what it is.
pub(super) type Seen = (TokenId, TokenKind);

/// Types with more tokens are not told from values: nobody writes them.
const LONGEST: usize = 250;

/// The token behind a type that begins at a token, if one does.
pub(super) fn behind_type(parser: &mut Front, from: Seen) -> Option<Seen> {
    let mut budget = LONGEST;
    type_from(parser, from, &mut budget)
}

fn next(parser: &mut Front, token: Seen) -> Seen {
    parser.token_after(token.0)
}

fn type_from(parser: &mut Front, from: Seen, budget: &mut usize) -> Option<Seen> {
    *budget = budget.checked_sub(1)?;
    let mut token = annotations_from(parser, from)?;
    match token.1 {
        TokenKind::PrimitiveType | TokenKind::Void => token = next(parser, token),
        TokenKind::Name => loop {
            token = next(parser, token);
            if token.1 == TokenKind::Less {
                token = arguments_from(parser, token, budget)?;
            }
            if token.1 != TokenKind::Dot {
                break;
            }
            let behind = next(parser, token);
            let behind = annotations_from(parser, behind)?;
            if behind.1 != TokenKind::Name {
                break;
            }
            token = behind;
            *budget = budget.checked_sub(1)?;
        },
        _ => return None,
    }
    behind_dimensions(parser, token)
}

/// The token behind `[]`, as often as they are there, with what is said of each.
fn behind_dimensions(parser: &mut Front, from: Seen) -> Option<Seen> {
    let mut token = from;
    loop {
        let bracket = annotations_from(parser, token)?;
        if bracket.1 != TokenKind::BracketOpen {
            return Some(token);
        }
        let close = next(parser, bracket);
        if close.1 != TokenKind::BracketClose {
            return Some(token);
        }
        token = next(parser, close);
    }
}

fn arguments_from(parser: &mut Front, from: Seen, budget: &mut usize) -> Option<Seen> {
    let mut token = next(parser, from);
    if token.1 == TokenKind::Greater {
        return Some(next(parser, token));
    }
    loop {
        token = argument_from(parser, token, budget)?;
        match token.1 {
            TokenKind::Greater => return Some(next(parser, token)),
            TokenKind::Comma => token = next(parser, token),
            _ => return None,
        }
    }
}

/// `ReferenceType | Wildcard`
fn argument_from(parser: &mut Front, from: Seen, budget: &mut usize) -> Option<Seen> {
    let token = annotations_from(parser, from)?;
    if token.1 != TokenKind::Question {
        return type_from(parser, token, budget);
    }
    let behind = next(parser, token);
    if matches!(behind.1, TokenKind::Extends | TokenKind::Super) {
        let bound = next(parser, behind);
        return type_from(parser, bound, budget);
    }
    Some(behind)
}

/// The token behind annotations.
pub(super) fn annotations_from(parser: &mut Front, from: Seen) -> Option<Seen> {
    let mut token = from;
    while token.1 == TokenKind::At {
        token = next(parser, token);
        if token.1 != TokenKind::Name {
            return None;
        }
        token = next(parser, token);
        while token.1 == TokenKind::Dot {
            let behind = next(parser, token);
            token = if behind.1 == TokenKind::Name { next(parser, behind) } else { return None };
        }
        if token.1 == TokenKind::ParenOpen {
            token = behind_parentheses(parser, token);
        }
    }
    Some(token)
}

/// The token behind the parenthesis that closes the one at a token. Where none does before the statement or the block around ends, that end.
pub(super) fn behind_parentheses(parser: &mut Front, from: Seen) -> Seen {
    let (mut open, mut braces) = (0u32, 0u32);
    let mut token = from;
    loop {
        match token.1 {
            TokenKind::EndOfFile => return token,
            TokenKind::Semicolon | TokenKind::BraceClose if braces == 0 => return token,
            TokenKind::BraceOpen => braces += 1,
            TokenKind::BraceClose => braces -= 1,
            TokenKind::ParenOpen => open += 1,
            TokenKind::ParenClose if open == 1 => return next(parser, token),
            TokenKind::ParenClose => open -= 1,
            _ => {}
        }
        token = next(parser, token);
    }
}

/// Whether a local variable is declared here: a type, and a name behind it.
pub(super) fn begins_variable(parser: &mut Front) -> bool {
    let here = parser.current();
    behind_type(parser, here).is_some_and(|behind| matches!(behind.1, TokenKind::Name | TokenKind::Underscore))
}
