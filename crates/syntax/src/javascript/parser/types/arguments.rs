//! Type arguments, and how they start from comparisons.

use super::super::super::lexer::Goal;
use super::super::Front;
use super::{allowing_conditions, any_type, refuse_empty};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Role, TokenKind};

/// `< T, U >`
pub(in super::super) fn type_arguments(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.at(TokenKind::ShiftLeft) {
        parser.read_again(Goal::Less);
    }
    parser.expect(TokenKind::Less)?;
    if parser.at(TokenKind::Greater) {
        return refuse_empty(parser);
    }
    loop {
        allowing_conditions(parser, any_type)?;
        parser.role(Role::Argument);
        if !parser.eat(TokenKind::Comma) {
            break;
        }
        if parser.at(TokenKind::Greater) {
            break;
        }
    }
    parser.expect(TokenKind::Greater)?;
    parser.close_as(mark, Kind::TypeArguments, Role::TypeArguments);
    Ok(())
}

/// `f<T>(x)`, `f<T>`, but not `a < b > c`: type arguments if they can be read as such and what follows cannot be an operand. Whether there
/// were some; the node before them then has the role of what they are given to, the callee of a call or of `new`.
pub(in super::super) fn opt_type_arguments_in_expression(parser: &mut Front, behind_new: bool) -> bool {
    let place = parser.position();
    if parser.own.tried_in_vain.contains(&place) {
        return false;
    }
    let before = parser.open();
    let fits = parser.attempt(|parser| {
        type_arguments(parser)?;
        // `a < b >= c` compares.
        let joined = matches!(parser.bytes_behind(parser.taken_end() - 1), [b'>' | b'=', ..]);
        if !joined && can_follow(parser) { Ok(()) } else { Err(Stop) }
    });
    if !fits {
        parser.own.tried_in_vain.insert(place);
        return false;
    }
    let called = behind_new || matches!(parser.kind(), TokenKind::ParenOpen | TokenKind::FormatStart);
    parser.role_before(before, if called { Role::Callee } else { Role::Value });
    true
}

/// Whether what follows `>` shows that type arguments ended there.
fn can_follow(parser: &mut Front) -> bool {
    match parser.kind() {
        TokenKind::ParenOpen | TokenKind::FormatStart => true,
        TokenKind::Less | TokenKind::Greater | TokenKind::Plus | TokenKind::Minus => false,
        _ => parser.at_new_line() || is_binary_operator(parser) || !begins_expression(parser),
    }
}

fn is_binary_operator(parser: &Front) -> bool {
    match parser.kind() {
        TokenKind::Name => matches!(parser.text(), "as" | "satisfies"),
        TokenKind::In => !parser.context().no_in,
        kind => matches!(
            kind,
            TokenKind::Comma
                | TokenKind::QuestionQuestion
                | TokenKind::BarBar
                | TokenKind::AndAnd
                | TokenKind::Bar
                | TokenKind::Caret
                | TokenKind::Ampersand
                | TokenKind::Equal
                | TokenKind::NotEqual
                | TokenKind::StrictEqual
                | TokenKind::StrictNotEqual
                | TokenKind::LessEqual
                | TokenKind::Instanceof
                | TokenKind::ShiftLeft
                | TokenKind::Star
                | TokenKind::Slash
                | TokenKind::Percent
                | TokenKind::StarStar
        ),
    }
}

fn begins_expression(parser: &Front) -> bool {
    matches!(
        parser.kind(),
        TokenKind::Name
            | TokenKind::Number
            | TokenKind::String
            | TokenKind::BracketOpen
            | TokenKind::BraceOpen
            | TokenKind::FunctionWord
            | TokenKind::Class
            | TokenKind::New
            | TokenKind::This
            | TokenKind::Super
            | TokenKind::NullWord
            | TokenKind::TrueWord
            | TokenKind::FalseWord
            | TokenKind::SlashAssign
            | TokenKind::Import
            | TokenKind::Tilde
            | TokenKind::Exclamation
            | TokenKind::Delete
            | TokenKind::Typeof
            | TokenKind::Void
            | TokenKind::PlusPlus
            | TokenKind::MinusMinus
            | TokenKind::PrivateName
            | TokenKind::At
    )
}
