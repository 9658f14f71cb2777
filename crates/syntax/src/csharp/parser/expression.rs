//! "Expressions": from those that bind loosest down to the operands.

use super::{Front, ahead, attribute, lambda, name, operator, pattern, query, types};
use crate::csharp::lexer::Goal;
use crate::parse::Parsed;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// `expression: non_assignment_expression | assignment`
pub(super) fn expression(parser: &mut Front, role: Role) -> Parsed {
    parser.nested(assignment)?;
    parser.role(role);
    Ok(())
}

fn assignment(parser: &mut Front) -> Parsed {
    if lambda::begins(parser) {
        return lambda::lambda(parser);
    }
    if query::begins(parser) {
        return query::query(parser);
    }
    let mark = parser.open();
    without_assignment(parser)?;
    parser.join_greater(Goal::Greater);
    let kind = match parser.kind() {
        TokenKind::Assign => Kind::Assignment,
        TokenKind::QuestionQuestionAssign => Kind::CompoundAssignment,
        kind if kind.is_compound_assignment() => Kind::CompoundAssignment,
        _ => return Ok(()),
    };
    let is_variable = |kind: Kind| {
        !matches!(
            kind,
            Kind::Binary
                | Kind::Logical
                | Kind::Comparison
                | Kind::Number
                | Kind::String
                | Kind::Null
                | Kind::Boolean
                | Kind::Lambda
                | Kind::List
                | Kind::Update
                | Kind::Assignment
                | Kind::CompoundAssignment
        )
    };
    if !parser.last_since(mark).is_some_and(|node| is_variable(node.kind())) {
        return parser.stop(Problem::Rule("only a variable can be assigned to"));
    }
    parser.role(Role::Target);
    parser.bump();
    parser.nested(assignment)?;
    parser.role(Role::Value);
    super::done(parser, mark, kind)
}

/// `conditional_expression: null_coalescing_expression ('?' expression ':' expression)?`
pub(super) fn without_assignment(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if pattern::begins_parts(parser) {
        return declaration(parser);
    }
    operator::coalescing(parser)?;
    if !parser.at(TokenKind::Question) {
        return Ok(());
    }
    parser.role(Role::Condition);
    parser.bump();
    super::in_brackets(parser, |parser| expression(parser, Role::Value))?;
    parser.expect(TokenKind::Colon)?;
    expression(parser, Role::Else)?;
    super::done(parser, mark, Kind::Conditional)
}

/// Whether a variable is declared in the place of a value, with one of these tokens behind it: `out int depth`, `(int low, var high) = tides`.
pub(super) fn begins_declaration(parser: &mut Front, ends: &[TokenKind]) -> bool {
    let next = parser.next_kind();
    let may_begin = match parser.kind() {
        TokenKind::Name => matches!(
            next,
            TokenKind::Name
                | TokenKind::Dot
                | TokenKind::Less
                | TokenKind::Question
                | TokenKind::BracketOpen
                | TokenKind::ColonColon
                | TokenKind::Star
        ),
        TokenKind::PrimitiveType => next != TokenKind::Dot,
        TokenKind::ParenOpen => true,
        _ => false,
    };
    if !may_begin {
        return false;
    }
    let here = parser.current();
    let Some(name) = ahead::behind_type(parser, here).filter(|name| name.1 == TokenKind::Name) else { return false };
    let is_word = operator::is_word_of_query(parser, name.0) || operator::joins(parser, name.0);
    !is_word && ends.contains(&parser.token_after(name.0).1)
}

/// `declaration_expression: local_variable_type identifier`, or `var` with parts.
pub(super) fn declaration(parser: &mut Front) -> Parsed {
    if pattern::begins_parts(parser) {
        parser.bump();
        return pattern::parts(parser);
    }
    let mark = parser.open();
    attribute::sections(parser)?;
    types::type_of(parser, Role::Type)?;
    name(parser, Role::Name)?;
    super::done(parser, mark, Kind::CapturePattern)
}
