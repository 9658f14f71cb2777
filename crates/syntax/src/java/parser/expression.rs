//! "Expressions": from those that bind loosest down to the operands.

use super::{Front, lambda, operator};
use crate::java::lexer::Goal;
use crate::parse::Parsed;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// `Expression: LambdaExpression | AssignmentExpression`
pub(super) fn expression(parser: &mut Front, role: Role) -> Parsed {
    parser.nested(assignment)?;
    parser.role(role);
    Ok(())
}

/// `AssignmentExpression: ConditionalExpression | Assignment`
fn assignment(parser: &mut Front) -> Parsed {
    if lambda::begins(parser) {
        return lambda::lambda(parser);
    }
    let mark = parser.open();
    without_assignment(parser)?;
    parser.join_greater(Goal::Greater);
    let kind = match parser.kind() {
        TokenKind::Assign => Kind::Assignment,
        kind if kind.is_compound_assignment() => Kind::CompoundAssignment,
        _ => return Ok(()),
    };
    let is_variable = |kind: Kind| matches!(kind, Kind::Name | Kind::Member | Kind::Subscript | Kind::Group);
    if !parser.last_since(mark).is_some_and(|node| is_variable(node.kind())) {
        return parser.stop(Problem::Rule("only a variable can be assigned to"));
    }
    parser.role(Role::Target);
    parser.bump();
    parser.nested(assignment)?;
    parser.role(Role::Value);
    parser.close(mark, kind);
    Ok(())
}

/// `ConditionalExpression: ConditionalOrExpression [? Expression : (ConditionalExpression | LambdaExpression)]`
pub(super) fn without_assignment(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    operator::binary(parser)?;
    if !parser.at(TokenKind::Question) {
        return Ok(());
    }
    parser.role(Role::Condition);
    parser.bump();
    expression(parser, Role::Value)?;
    parser.expect(TokenKind::Colon)?;
    parser.nested(|parser| if lambda::begins(parser) { lambda::lambda(parser) } else { without_assignment(parser) })?;
    parser.role(Role::Else);
    parser.close(mark, Kind::Conditional);
    Ok(())
}
