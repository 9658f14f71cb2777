//! "Primary expressions": operands with what is behind them.

use super::{Front, ahead, argument, name, primary as operands, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `primary_expression`
pub(super) fn primary(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    operands::operand(parser)?;
    loop {
        match parser.kind() {
            TokenKind::Dot | TokenKind::QuestionDot | TokenKind::Arrow => member(parser, mark)?,
            TokenKind::ColonColon => {
                parser.role(Role::Object);
                parser.bump();
                name(parser, Role::Name)?;
                parser.close(mark, Kind::Path);
            }
            TokenKind::ParenOpen => {
                parser.role(Role::Callee);
                argument::arguments(parser)?;
                parser.close(mark, Kind::Call);
            }
            TokenKind::BracketOpen => subscript(parser, mark)?,
            TokenKind::Question if is_before_bracket(parser) => {
                parser.bump();
                subscript(parser, mark)?;
            }
            TokenKind::Exclamation => {
                parser.role(Role::Value);
                parser.bump();
                parser.close(mark, Kind::NonNull);
            }
            TokenKind::PlusPlus | TokenKind::MinusMinus => {
                parser.role(Role::Operand);
                parser.bump();
                parser.close(mark, Kind::Update);
            }
            TokenKind::Less if has_type_arguments(parser, mark) => with_type_arguments(parser, mark)?,
            _ => return Ok(()),
        }
    }
}

/// `member_access`, `null_conditional_member_access`, `pointer_member_access`
fn member(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Object);
    parser.bump();
    name(parser, Role::Name)?;
    super::done(parser, mark, Kind::Member)
}

fn subscript(parser: &mut Front, mark: Mark) -> Parsed {
    // The mark of a question is behind the object.
    let here = parser.open();
    parser.role_before(here, Role::Object);
    argument::indices(parser)?;
    super::done(parser, mark, Kind::Subscript)
}

/// `depths?[2]`: no colon is behind the bracket that would make a choice of it.
fn is_before_bracket(parser: &mut Front) -> bool {
    let here = parser.position();
    let bracket = parser.next_token();
    if bracket.1 != TokenKind::BracketOpen {
        return false;
    }
    let behind = ahead::behind_brackets(parser, bracket);
    if bracket.0 == here + 1 { behind.1 != TokenKind::Colon } else { !ahead::reaches_colon(parser, behind) }
}

/// Whether `<` here opens type arguments of the name before it: they are closed, and behind them is what cannot be an operand.
fn has_type_arguments(parser: &mut Front, mark: Mark) -> bool {
    let is_name =
        parser.last_since(mark).is_some_and(|node| matches!(node.kind(), Kind::Name | Kind::Member | Kind::Path));
    if !is_name {
        return false;
    }
    let here = parser.current();
    let Some(behind) = ahead::behind_arguments(parser, here) else { return false };
    matches!(
        behind.1,
        TokenKind::ParenOpen
            | TokenKind::ParenClose
            | TokenKind::BracketClose
            | TokenKind::BraceClose
            | TokenKind::BracketOpen
            | TokenKind::Colon
            | TokenKind::Semicolon
            | TokenKind::Comma
            | TokenKind::Dot
            | TokenKind::Question
            | TokenKind::QuestionDot
            | TokenKind::QuestionQuestion
            | TokenKind::Equal
            | TokenKind::NotEqual
            | TokenKind::Bar
            | TokenKind::BarBar
            | TokenKind::Caret
            | TokenKind::AndAnd
            | TokenKind::Ampersand
            | TokenKind::FatArrow
            | TokenKind::EndOfFile
    )
}

/// A call of something generic, or something generic alone.
fn with_type_arguments(parser: &mut Front, mark: Mark) -> Parsed {
    let here = parser.open();
    types::arguments(parser)?;
    if !parser.at(TokenKind::ParenOpen) {
        parser.role_before(here, Role::Value);
        return super::done(parser, mark, Kind::Instantiation);
    }
    parser.role_before(here, Role::Callee);
    argument::arguments(parser)?;
    super::done(parser, mark, Kind::Call)
}
