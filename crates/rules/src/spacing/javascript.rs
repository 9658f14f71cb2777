//! Whitespace in JavaScript and TypeScript: the usual forms. Where forms differ, what the file mostly has.

use sieve_syntax::tree::{Kind, NodeRef, TokenId, TokenKind};

use crate::habit::begins_line;

use super::{Bracket as Brackets, SpacingKind, View, Want, Wants, is_arithmetic, unless};

pub(super) fn wants(view: &View<'_>, token: TokenId, kind: TokenKind) -> Option<Wants> {
    use SpacingKind::{Bracket, Colon, Comma, Keyword, Operator};
    let owner = || view.owner(token);
    match kind {
        TokenKind::ParenOpen => {
            let owner = owner();
            let inside = if owner.kind() == Kind::For { Want::Any } else { Want::Inside(Brackets::Round) };
            let is_call = owner.kind() == Kind::Arguments && owner.parent().is_some_and(|call| is_call(call, token));
            let empty = view.next_significant(token) == TokenKind::ParenClose;
            Wants::new(Bracket, if is_call { Want::None } else { Want::Any }, unless(inside, empty))
        }
        TokenKind::ParenClose => {
            let inside = if owner().kind() == Kind::For { Want::Any } else { Want::Inside(Brackets::Round) };
            Wants::new(Bracket, unless(inside, view.previous_significant(token) == TokenKind::ParenOpen), Want::Any)
        }
        TokenKind::BracketOpen => {
            let before = if owner().kind() == Kind::Subscript { Want::None } else { Want::Any };
            Wants::new(
                Bracket,
                before,
                unless(SQUARE, matches!(view.next_significant(token), TokenKind::Comma | TokenKind::BracketClose)),
            )
        }
        TokenKind::BracketClose => {
            let previous = view.previous_significant(token);
            Wants::new(
                Bracket,
                unless(SQUARE, matches!(previous, TokenKind::BracketOpen | TokenKind::Comma)),
                Want::Any,
            )
        }
        TokenKind::BraceOpen => {
            let (before, after) = brace(owner());
            Wants::new(Bracket, before, unless(after, view.next_significant(token) == TokenKind::BraceClose))
        }
        TokenKind::BraceClose => {
            let (_, inside) = brace(owner());
            Wants::new(Bracket, unless(inside, view.previous_significant(token) == TokenKind::BraceOpen), Want::Any)
        }
        TokenKind::Comma => {
            // Holes of arrays.
            let hole = matches!(view.previous_significant(token), TokenKind::Comma | TokenKind::BracketOpen);
            let hole_next = matches!(view.next_significant(token), TokenKind::Comma | TokenKind::BracketClose);
            let type_end = view.next_significant(token) == TokenKind::Greater;
            Wants::new(Comma, unless(Want::None, hole), unless(Want::One, hole || hole_next || type_end))
        }
        TokenKind::Semicolon => {
            let tight = matches!(view.next_significant(token), TokenKind::Semicolon | TokenKind::ParenClose);
            let alone = matches!(
                view.previous_significant(token),
                TokenKind::Semicolon | TokenKind::ParenOpen | TokenKind::ParenClose
            ) || begins_line(view.file, view.file.tree.token_start(token));
            Wants::new(Comma, unless(Want::None, alone), unless(Want::One, tight || alone))
        }
        TokenKind::Colon => match owner().kind() {
            Kind::Conditional | Kind::ConditionalType => Wants::new(Operator, Want::One, Want::One),
            // The type that an arrow function gives may be either way.
            _ => Wants::new(
                Colon,
                unless(Want::None, view.previous_significant(token) == TokenKind::ParenClose),
                Want::One,
            ),
        },
        TokenKind::Question => match owner().kind() {
            Kind::Conditional | Kind::ConditionalType => Wants::new(Operator, Want::One, Want::One),
            _ => None,
        },
        TokenKind::Assign => match owner().kind() {
            Kind::Attribute => None,
            _ => Wants::new(Operator, Want::One, Want::One),
        },
        TokenKind::FatArrow
        | TokenKind::PlusAssign
        | TokenKind::MinusAssign
        | TokenKind::StarAssign
        | TokenKind::StarStarAssign
        | TokenKind::SlashAssign
        | TokenKind::PercentAssign
        | TokenKind::AmpersandAssign
        | TokenKind::BarAssign
        | TokenKind::CaretAssign
        | TokenKind::ShiftLeftAssign
        | TokenKind::ShiftRightAssign
        | TokenKind::ShiftRightZeroAssign
        | TokenKind::QuestionQuestionAssign
        | TokenKind::AndAndAssign
        | TokenKind::BarBarAssign
        | TokenKind::QuestionQuestion
        | TokenKind::AndAnd
        | TokenKind::BarBar
        | TokenKind::LessEqual
        | TokenKind::GreaterEqual
        | TokenKind::Equal
        | TokenKind::NotEqual
        | TokenKind::StrictEqual
        | TokenKind::StrictNotEqual => Wants::new(Operator, Want::One, Want::One),
        TokenKind::Less | TokenKind::Greater => match owner() {
            comparison if comparison.kind() == Kind::Comparison => Wants::new(Operator, Want::One, Want::One),
            brackets if is_type_bracket(brackets) && kind == TokenKind::Less => {
                Wants::new(Bracket, Want::Any, Want::None)
            }
            brackets if is_type_bracket(brackets) => Wants::new(Bracket, Want::None, Want::Any),
            _ => None,
        },
        _ if is_arithmetic(kind) => match owner().kind() {
            Kind::Binary => Wants::new(Operator, view.arithmetic, view.arithmetic),
            _ => None,
        },
        TokenKind::Ellipsis => Wants::new(Operator, Want::Any, Want::None),
        TokenKind::Dot | TokenKind::QuestionDot => {
            let number = view.previous_significant(token) == TokenKind::Number;
            Wants::new(Operator, unless(Want::None, number), Want::None)
        }
        TokenKind::If | TokenKind::For | TokenKind::While | TokenKind::Switch | TokenKind::Catch | TokenKind::With => {
            let owner = owner();
            let is_word = matches!(
                owner.kind(),
                Kind::If | Kind::For | Kind::While | Kind::DoWhile | Kind::Match | Kind::Catch | Kind::With
            );
            if is_word { Wants::new(Keyword, before_word(view, token), Want::One) } else { None }
        }
        TokenKind::Else | TokenKind::Finally | TokenKind::Try | TokenKind::Do => {
            if !matches!(owner().kind(), Kind::If | Kind::Try | Kind::DoWhile) {
                return None;
            }
            let close = view.next_significant(token) == TokenKind::Semicolon;
            Wants::new(Keyword, before_word(view, token), unless(Want::One, close))
        }
        TokenKind::Return | TokenKind::Throw | TokenKind::Case => {
            if !matches!(owner().kind(), Kind::Return | Kind::Throw | Kind::Case) {
                return None;
            }
            let close = matches!(view.next_significant(token), TokenKind::Semicolon | TokenKind::BraceClose);
            Wants::new(Keyword, Want::Any, unless(Want::One, close))
        }
        TokenKind::In | TokenKind::Instanceof => match owner().kind() {
            Kind::Comparison | Kind::Binary | Kind::For => Wants::new(Keyword, Want::One, Want::One),
            _ => None,
        },
        _ => None,
    }
}

/// A word after the block that it goes on from.
fn before_word(view: &View<'_>, token: TokenId) -> Want {
    unless(Want::One, view.previous_significant(token) != TokenKind::BraceClose)
}

const SQUARE: Want = Want::Inside(Brackets::Square);

fn is_call(call: NodeRef<'_>, token: TokenId) -> bool {
    match call.kind() {
        // `import` and `super` are called like functions.
        Kind::Call | Kind::New | Kind::ImportCall => call.token_range().start < token,
        _ => false,
    }
}

/// What a brace wants before it, and what both of a pair want inside.
fn brace(owner: NodeRef<'_>) -> (Want, Want) {
    match owner.kind() {
        Kind::Block => {
            let holder = owner.parent().map(NodeRef::kind);
            let begins_alone = matches!(holder, Some(Kind::File | Kind::Block | Kind::Case | Kind::StaticBlock) | None);
            (unless(Want::One, begins_alone), Want::One)
        }
        Kind::Match => (Want::One, Want::Any),
        Kind::Dictionary | Kind::MappingPattern => (Want::Any, Want::Inside(Brackets::Curly)),
        Kind::ObjectType | Kind::MappedType => (Want::Any, Want::Inside(Brackets::Type)),
        Kind::Import | Kind::Export => (Want::Any, Want::Inside(Brackets::Names)),
        _ => (Want::Any, Want::Any),
    }
}

/// Brackets around types, which look like comparisons.
fn is_type_bracket(owner: NodeRef<'_>) -> bool {
    matches!(owner.kind(), Kind::TypeArguments | Kind::TypeParameters)
}
