//! "Comma Operator", "Assignment Operators", "Conditional Operator" and `yield`.

use super::{Front, arrow, operator, target};
use crate::javascript::lexer::Goal;
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `Expression : AssignmentExpression | Expression , AssignmentExpression`
pub(super) fn expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    assignment_expression(parser)?;
    if !parser.at(TokenKind::Comma) {
        return Ok(());
    }
    parser.role(Role::Element);
    while parser.eat(TokenKind::Comma) {
        assignment_expression(parser)?;
        parser.role(Role::Element);
    }
    parser.close(mark, Kind::Sequence);
    Ok(())
}

/// `AssignmentExpression`, and `ConditionalExpression`, whose chains are followed in a loop: their length is no depth.
pub(super) fn assignment_expression(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mut choices: Vec<Mark> = Vec::new();
        loop {
            let mark = parser.open();
            if parser.context().in_generator && parser.at_word("yield") {
                yield_expression(parser)?;
                break;
            }
            if arrow::opt_arrow_function(parser)? {
                break;
            }
            let covers = parser.own.covers.len();
            operator::short_circuit(parser)?;
            if !parser.at(TokenKind::Question) {
                opt_assignment(parser, mark, covers)?;
                break;
            }
            parser.role(Role::Condition);
            parser.bump();
            let inside = |context: &mut super::Context| {
                context.no_in = false;
                context.in_choice = true;
            };
            parser.within(inside, assignment_expression)?;
            parser.role(Role::Value);
            parser.expect(TokenKind::Colon)?;
            choices.push(mark);
        }
        for mark in choices.into_iter().rev() {
            parser.role(Role::Else);
            parser.close(mark, Kind::Conditional);
        }
        Ok(())
    })
}

/// `LeftHandSideExpression AssignmentOperator AssignmentExpression`, after its left side.
fn opt_assignment(parser: &mut Front, mark: Mark, covers: usize) -> Parsed {
    parser.join_greater(Goal::Greater);
    let kind = match parser.kind() {
        TokenKind::Assign => Kind::Assignment,
        TokenKind::PlusAssign
        | TokenKind::MinusAssign
        | TokenKind::StarAssign
        | TokenKind::SlashAssign
        | TokenKind::PercentAssign
        | TokenKind::StarStarAssign
        | TokenKind::ShiftLeftAssign
        | TokenKind::ShiftRightAssign
        | TokenKind::ShiftRightZeroAssign
        | TokenKind::AmpersandAssign
        | TokenKind::CaretAssign
        | TokenKind::BarAssign
        | TokenKind::AndAndAssign
        | TokenKind::BarBarAssign
        | TokenKind::QuestionQuestionAssign => Kind::CompoundAssignment,
        _ => return Ok(()),
    };
    if !is_left_hand_side(parser, mark) {
        return parser.stop_expecting("the end of the expression");
    }
    if kind == Kind::Assignment {
        parser.own.covers.truncate(covers);
        target::check(parser, mark, target::Use::Assign)?;
    } else {
        target::check(parser, mark, target::Use::Update)?;
    }
    parser.role(Role::Target);
    parser.bump();
    assignment_expression(parser)?;
    parser.role(Role::Value);
    parser.close(mark, kind);
    Ok(())
}

/// Whether what was read since `mark` can be left of an assignment by the grammar: no operator is in it outside of brackets.
fn is_left_hand_side(parser: &Front, mark: Mark) -> bool {
    parser.last_since(mark).is_some_and(|left| {
        !matches!(
            left.kind(),
            Kind::Binary
                | Kind::Logical
                | Kind::Comparison
                | Kind::Unary
                | Kind::Update
                | Kind::Await
                | Kind::Conditional
                | Kind::Yield
        )
    })
}

/// `YieldExpression`; what follows is on the same line.
fn yield_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !parser.at_new_line() && parser.eat(TokenKind::Star) {
        assignment_expression(parser)?;
        parser.role(Role::Value);
        parser.close(mark, Kind::YieldFrom);
        return Ok(());
    }
    let ends = matches!(
        parser.kind(),
        TokenKind::ParenClose
            | TokenKind::BracketClose
            | TokenKind::BraceClose
            | TokenKind::Comma
            | TokenKind::Semicolon
            | TokenKind::Colon
            | TokenKind::Question
            | TokenKind::In
            | TokenKind::EndOfFile
    );
    if !ends && !parser.at_new_line() && !parser.at_word("of") {
        assignment_expression(parser)?;
        parser.role(Role::Value);
    }
    parser.close(mark, Kind::Yield);
    Ok(())
}
