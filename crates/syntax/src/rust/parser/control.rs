//! "If expressions", "Match expressions", "Loops and other breakable expressions", "Return expressions".

use super::expression::{Braces, begins, expression, expression_before, worded_block};
use super::{Front, attribute, pattern, statement};
use crate::parse::Parsed;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// `IfExpression : if Conditions BlockExpression ( else ( BlockExpression | IfExpression ) )?`
pub(super) fn if_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    condition(parser)?;
    statement::block(parser, Role::Body)?;
    if parser.eat(TokenKind::Else) {
        match parser.kind() {
            TokenKind::If => {
                parser.nested(if_expression)?;
                parser.role(Role::Else);
            }
            TokenKind::BraceOpen => statement::block(parser, Role::Else)?,
            _ => return parser.stop_expecting("'if' or '{'"),
        }
    }
    parser.close(mark, Kind::If);
    Ok(())
}

/// A condition, before a block. A block may be one.
fn condition(parser: &mut Front) -> Parsed {
    let is_block = parser.at(TokenKind::BraceOpen);
    expression_before(parser, Role::Condition, Braces::Block)?;
    if is_block && !parser.at(TokenKind::BraceOpen) {
        return parser.stop(Problem::Rule("the condition or the block is missing"));
    }
    Ok(())
}

/// `MatchExpression : match Scrutinee { InnerAttribute* MatchArms? }`
pub(super) fn match_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    expression_before(parser, Role::Subject, Braces::Block)?;
    let open = parser.token_span(parser.position());
    parser.expect(TokenKind::BraceOpen)?;
    attribute::inner_attributes(parser, Role::Part);
    while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
        arm(parser)?;
    }
    if !parser.eat(TokenKind::BraceClose) {
        parser.fault(open, Problem::Unclosed(TokenKind::BraceOpen));
    }
    parser.close(mark, Kind::Match);
    Ok(())
}

/// `MatchArm : OuterAttribute* Pattern MatchArmGuard? => ( Expression , | ExpressionWithBlock ,? )`
fn arm(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    attribute::outer_attributes(parser)?;
    pattern::pattern(parser, Role::Pattern)?;
    if parser.eat(TokenKind::If) {
        expression(parser, Role::Guard)?;
    }
    parser.expect(TokenKind::FatArrow)?;
    let needs_comma = statement::arm_body(parser)?;
    parser.close_as(mark, Kind::Case, Role::Case);
    if !parser.eat(TokenKind::Comma) && needs_comma && !parser.at(TokenKind::BraceClose) {
        return parser.stop_expecting("','");
    }
    Ok(())
}

/// `LoopExpression`, without its label.
pub(super) fn loop_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let word = parser.kind();
    parser.bump();
    match word {
        TokenKind::While => condition(parser)?,
        TokenKind::For => {
            pattern::pattern(parser, Role::Target)?;
            parser.expect(TokenKind::In)?;
            expression_before(parser, Role::Iterable, Braces::Block)?;
        }
        _ => {}
    }
    statement::block(parser, Role::Body)?;
    parser.close(mark, if word == TokenKind::For { Kind::For } else { Kind::While });
    Ok(())
}

/// `LoopLabel : LIFETIME_OR_LABEL :`, and the loop or block behind it.
pub(super) fn labeled(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.leaf(Kind::Lifetime, Role::Label);
    parser.expect(TokenKind::Colon)?;
    match parser.kind() {
        TokenKind::Loop | TokenKind::While | TokenKind::For => loop_expression(parser)?,
        TokenKind::BraceOpen => statement::block(parser, Role::Body)?,
        TokenKind::Unsafe => worded_block(parser)?,
        _ => return parser.stop_expecting("a loop or a block"),
    }
    parser.role(Role::Body);
    parser.close(mark, Kind::Labeled);
    Ok(())
}

/// `ReturnExpression : return Expression?`, and `yield`.
pub(super) fn leaving(parser: &mut Front, braces: Braces) -> Parsed {
    let mark = parser.open();
    let kind = if parser.at(TokenKind::Return) { Kind::Return } else { Kind::Yield };
    parser.bump();
    // A brace behind it begins a block, even before the block of a statement.
    if begins(parser.kind(), Braces::Fields) {
        expression_before(parser, Role::Value, braces)?;
    }
    parser.close(mark, kind);
    Ok(())
}

/// `BreakExpression : break LIFETIME_OR_LABEL? Expression?`
pub(super) fn break_expression(parser: &mut Front, braces: Braces) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::Lifetime) && parser.next_kind() != TokenKind::Colon {
        parser.leaf(Kind::Lifetime, Role::Label);
    }
    if begins(parser.kind(), braces) {
        expression_before(parser, Role::Value, braces)?;
    }
    parser.close(mark, Kind::Break);
    Ok(())
}

/// `ContinueExpression : continue LIFETIME_OR_LABEL?`
pub(super) fn continue_expression(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::Lifetime) {
        parser.leaf(Kind::Lifetime, Role::Label);
    }
    parser.close(mark, Kind::Continue);
    Ok(())
}
