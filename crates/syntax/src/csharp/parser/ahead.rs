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

/// The token behind `ref` and `readonly` that begin at a token; that token where they do not.
pub(super) fn behind_reference_words(parser: &mut Front, from: Seen) -> Seen {
    if from.1 != TokenKind::Ref {
        return from;
    }
    let token = next(parser, from);
    if token.1 == TokenKind::Modifier { next(parser, token) } else { token }
}

/// The token behind type arguments that begin at a token, if they do.
pub(super) fn behind_arguments(parser: &mut Front, from: Seen) -> Option<Seen> {
    let mut budget = LONGEST;
    arguments_from(parser, from, &mut budget)
}

/// The token behind the type of a tuple that begins at a token, if one does.
pub(super) fn behind_tuple(parser: &mut Front, from: Seen) -> Option<Seen> {
    let mut budget = LONGEST;
    tuple_from(parser, from, &mut budget)
}

fn next(parser: &mut Front, token: Seen) -> Seen {
    parser.token_after(token.0)
}

fn type_from(parser: &mut Front, from: Seen, budget: &mut usize) -> Option<Seen> {
    *budget = budget.checked_sub(1)?;
    let mut token = match from.1 {
        TokenKind::PrimitiveType | TokenKind::Void => next(parser, from),
        TokenKind::Name => name_from(parser, from, budget)?,
        TokenKind::ParenOpen => tuple_from(parser, from, budget)?,
        TokenKind::Delegate => {
            let star = next(parser, from);
            let mut token = next(parser, star);
            if star.1 != TokenKind::Star {
                return None;
            }
            if token.1 == TokenKind::Name {
                token = next(parser, token);
            }
            if token.1 == TokenKind::BracketOpen {
                token = behind_brackets(parser, token);
            }
            arguments_from(parser, token, budget)?
        }
        _ => return None,
    };
    loop {
        token = behind_marks(parser, token);
        match token.1 {
            TokenKind::BracketOpen => match behind_rank(parser, token) {
                Some(behind) => token = behind,
                None => return Some(token),
            },
            _ => return Some(token),
        }
        *budget = budget.checked_sub(1)?;
    }
}

/// The token behind `?`, once, and `*`, as often as it is there.
fn behind_marks(parser: &mut Front, from: Seen) -> Seen {
    let mut token = from;
    if token.1 == TokenKind::Question {
        token = next(parser, token);
    }
    while token.1 == TokenKind::Star {
        token = next(parser, token);
    }
    token
}

fn name_from(parser: &mut Front, from: Seen, budget: &mut usize) -> Option<Seen> {
    let mut token = next(parser, from);
    if token.1 == TokenKind::ColonColon {
        token = next(parser, token);
        token = if token.1 == TokenKind::Name { next(parser, token) } else { return None };
    }
    loop {
        if token.1 == TokenKind::Less {
            token = arguments_from(parser, token, budget)?;
        }
        if token.1 != TokenKind::Dot {
            return Some(token);
        }
        let name = next(parser, token);
        if name.1 != TokenKind::Name {
            return None;
        }
        token = next(parser, name);
        *budget = budget.checked_sub(1)?;
    }
}

fn tuple_from(parser: &mut Front, from: Seen, budget: &mut usize) -> Option<Seen> {
    let mut token = next(parser, from);
    let mut count = 0;
    loop {
        token = type_from(parser, token, budget)?;
        count += 1;
        if token.1 == TokenKind::Name {
            token = next(parser, token);
        }
        match token.1 {
            TokenKind::Comma => token = next(parser, token),
            TokenKind::ParenClose if count > 1 => return Some(next(parser, token)),
            _ => return None,
        }
    }
}

fn arguments_from(parser: &mut Front, from: Seen, budget: &mut usize) -> Option<Seen> {
    if from.1 != TokenKind::Less {
        return None;
    }
    let mut token = next(parser, from);
    if matches!(token.1, TokenKind::Comma | TokenKind::Greater) {
        while token.1 == TokenKind::Comma {
            token = next(parser, token);
        }
        return (token.1 == TokenKind::Greater).then(|| next(parser, token));
    }
    loop {
        while matches!(token.1, TokenKind::Ref | TokenKind::In | TokenKind::Out | TokenKind::Modifier) {
            token = next(parser, token);
        }
        token = type_from(parser, token, budget)?;
        match token.1 {
            TokenKind::Greater => return Some(next(parser, token)),
            TokenKind::Comma => token = next(parser, token),
            _ => return None,
        }
    }
}

/// The token behind `[`, commas and `]`.
fn behind_rank(parser: &mut Front, from: Seen) -> Option<Seen> {
    let mut token = next(parser, from);
    while token.1 == TokenKind::Comma {
        token = next(parser, token);
    }
    (token.1 == TokenKind::BracketClose).then(|| next(parser, token))
}

/// Whether the bracket here opens the rank of an array.
pub(super) fn is_rank(parser: &mut Front) -> bool {
    let here = parser.current();
    behind_rank(parser, here).is_some()
}

/// The token behind attributes that begin at a token; that token where there are none.
pub(super) fn behind_attributes(parser: &mut Front, from: Seen) -> Option<Seen> {
    let mut token = from;
    while token.1 == TokenKind::BracketOpen {
        token = behind_brackets(parser, token);
        if token.1 == TokenKind::EndOfFile {
            return None;
        }
    }
    Some(token)
}

/// The token behind the bracket that closes the one at a token. Where none does before the statement or the block around ends, that end.
pub(super) fn behind_brackets(parser: &mut Front, from: Seen) -> Seen {
    let (mut open, mut braces) = (0u32, 0u32);
    let mut token = from;
    loop {
        match token.1 {
            TokenKind::EndOfFile => return token,
            TokenKind::Semicolon | TokenKind::BraceClose if braces == 0 => return token,
            TokenKind::BraceOpen => braces += 1,
            TokenKind::BraceClose => braces -= 1,
            TokenKind::ParenOpen | TokenKind::BracketOpen => open += 1,
            TokenKind::ParenClose | TokenKind::BracketClose if open == 1 => return next(parser, token),
            TokenKind::ParenClose | TokenKind::BracketClose => open -= 1,
            _ => {}
        }
        token = next(parser, token);
    }
}

/// Whether the parentheses here hold several parts with commas between them.
pub(super) fn holds_several(parser: &mut Front) -> bool {
    let mut token = parser.next_token();
    let mut open = 0u32;
    loop {
        match token.1 {
            TokenKind::Comma if open == 0 => return true,
            TokenKind::Less => open += 1,
            TokenKind::Greater if open > 0 => open -= 1,
            kind if kind.opens() => open += 1,
            kind if kind.closes() && open > 0 => open -= 1,
            TokenKind::Semicolon | TokenKind::EndOfFile => return false,
            kind if kind.closes() => return false,
            _ => {}
        }
        token = next(parser, token);
    }
}

/// Whether a colon is between a token and the end of the expression around.
pub(super) fn reaches_colon(parser: &mut Front, from: Seen) -> bool {
    let mut token = from;
    loop {
        match token.1 {
            TokenKind::Colon => return true,
            TokenKind::Semicolon | TokenKind::Comma | TokenKind::EndOfFile => return false,
            kind if kind.opens() => token = behind_brackets(parser, token),
            kind if kind.closes() => return false,
            _ => token = next(parser, token),
        }
    }
}

/// Whether the token behind the one here begins an operand, so that a question mark here asks.
pub(super) fn begins_operand_behind(parser: &mut Front) -> bool {
    let (token, kind) = parser.next_token();
    match kind {
        TokenKind::Name => !matches!(parser.token_text(token), "and" | "or" | "when"),
        TokenKind::ParenOpen
        | TokenKind::BracketOpen
        | TokenKind::Minus
        | TokenKind::Plus
        | TokenKind::Exclamation
        | TokenKind::Tilde
        | TokenKind::Star
        | TokenKind::Ampersand
        | TokenKind::PlusPlus
        | TokenKind::MinusMinus
        | TokenKind::Ref
        | TokenKind::Throw => true,
        _ => begins_operand(kind),
    }
}

/// Whether a token that is no sign begins an operand.
pub(super) fn begins_operand(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::Name
            | TokenKind::Number
            | TokenKind::String
            | TokenKind::FormatStart
            | TokenKind::Character
            | TokenKind::TrueWord
            | TokenKind::FalseWord
            | TokenKind::NullWord
            | TokenKind::This
            | TokenKind::Super
            | TokenKind::New
            | TokenKind::PrimitiveType
            | TokenKind::Typeof
            | TokenKind::Sizeof
            | TokenKind::Default
            | TokenKind::Checked
            | TokenKind::Delegate
            | TokenKind::Stackalloc
            | TokenKind::StaticWord
    )
}

/// Whether a variable or a function is declared here: a type, and a name behind it.
pub(super) fn begins_variable(parser: &mut Front) -> bool {
    let here = parser.current();
    let Some(behind) = behind_type(parser, here) else { return false };
    if behind.1 != TokenKind::Name {
        return false;
    }
    // A copy of a record: `quay with { Depth = 2 }`.
    let is_with = parser.token_text(behind.0) == "with" && parser.token_after(behind.0).1 == TokenKind::BraceOpen;
    !is_with
}
