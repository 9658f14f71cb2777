//! Statements without a block: "Simple statements" of the grammar.

use super::expression::{expression, star_expressions, yield_or_star_expressions};
use super::function::type_parameters;
use super::target::{Use, check_target};
use super::{import, target};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `simple_stmt`
pub(super) fn simple_statement(parser: &mut Parser) -> Parsed {
    match parser.kind() {
        TokenKind::Return => on_return(parser),
        TokenKind::Import => import::on_import(parser),
        TokenKind::From => import::on_from(parser),
        TokenKind::Raise => on_raise(parser),
        TokenKind::Pass => on_keyword(parser, Kind::Pass),
        TokenKind::Break => on_keyword(parser, Kind::Break),
        TokenKind::Continue => on_keyword(parser, Kind::Continue),
        TokenKind::Del => on_del(parser),
        TokenKind::Assert => on_assert(parser),
        TokenKind::Global => on_scope_statement(parser, Kind::Global),
        TokenKind::Nonlocal => on_scope_statement(parser, Kind::Nonlocal),
        TokenKind::Name if parser.text() == "type" && parser.next_kind() == TokenKind::Name => on_type_alias(parser),
        _ => assignment_or_expression(parser),
    }
}

/// Whether a statement ends here.
fn at_end(parser: &Parser) -> bool {
    matches!(parser.kind(), TokenKind::Newline | TokenKind::Semicolon | TokenKind::EndOfFile)
}

fn on_keyword(parser: &mut Parser, kind: Kind) -> Parsed {
    parser.leaf(kind, Role::Statement);
    Ok(())
}

/// ```text
/// assignment:
///     | target ':' expression ['=' annotated_rhs]
///     | (star_targets '=')+ annotated_rhs
///     | single_target augassign annotated_rhs
/// ```
/// or `star_expressions` alone.
fn assignment_or_expression(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    yield_or_star_expressions(parser)?;
    match parser.kind() {
        TokenKind::Assign => assignment(parser, mark),
        TokenKind::Colon => annotated_assignment(parser, mark),
        kind if is_compound_assignment(kind) => {
            check_target(parser, mark, Use::AssignOne)?;
            parser.role(Role::Target);
            parser.bump();
            yield_or_star_expressions(parser)?;
            parser.role(Role::Value);
            parser.close(mark, Kind::CompoundAssignment);
            Ok(())
        }
        _ => {
            parser.role(Role::Value);
            parser.close(mark, Kind::ExpressionStatement);
            Ok(())
        }
    }
}

fn assignment(parser: &mut Parser, mark: Mark) -> Parsed {
    let mut part = mark;
    while parser.at(TokenKind::Assign) {
        check_target(parser, part, Use::Assign)?;
        parser.role(Role::Target);
        parser.bump();
        part = parser.open();
        yield_or_star_expressions(parser)?;
    }
    parser.role(Role::Value);
    parser.close(mark, Kind::Assignment);
    Ok(())
}

fn annotated_assignment(parser: &mut Parser, mark: Mark) -> Parsed {
    check_target(parser, mark, Use::Annotate)?;
    parser.role(Role::Target);
    parser.bump();
    expression(parser)?;
    parser.role(Role::Type);
    if parser.eat(TokenKind::Assign) {
        yield_or_star_expressions(parser)?;
        parser.role(Role::Value);
    }
    parser.close(mark, Kind::AnnotatedAssignment);
    Ok(())
}

fn is_compound_assignment(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::PlusAssign
            | TokenKind::MinusAssign
            | TokenKind::StarAssign
            | TokenKind::AtAssign
            | TokenKind::SlashAssign
            | TokenKind::PercentAssign
            | TokenKind::AmpersandAssign
            | TokenKind::BarAssign
            | TokenKind::CaretAssign
            | TokenKind::ShiftLeftAssign
            | TokenKind::ShiftRightAssign
            | TokenKind::StarStarAssign
            | TokenKind::SlashSlashAssign
    )
}

/// `return_stmt: 'return' [star_expressions]`
fn on_return(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !at_end(parser) {
        star_expressions(parser)?;
        parser.role(Role::Value);
    }
    parser.close(mark, Kind::Return);
    Ok(())
}

/// `raise_stmt: 'raise' [expression ['from' expression]]`
fn on_raise(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !at_end(parser) {
        expression(parser)?;
        parser.role(Role::Exception);
        if parser.eat(TokenKind::From) {
            expression(parser)?;
            parser.role(Role::Cause);
        }
    }
    parser.close(mark, Kind::Throw);
    Ok(())
}

/// `global_stmt: 'global' ','.NAME+`, and the same for `nonlocal`.
fn on_scope_statement(parser: &mut Parser, kind: Kind) -> Parsed {
    let mark = parser.open();
    parser.bump();
    loop {
        target::name(parser, Role::Name)?;
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    parser.close(mark, kind);
    Ok(())
}

/// `del_stmt: 'del' del_targets`
fn on_del(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    loop {
        let target = parser.open();
        super::expression::operand(parser)?;
        check_target(parser, target, Use::Delete)?;
        parser.role(Role::Target);
        if !parser.eat(TokenKind::Comma) || at_end(parser) {
            break;
        }
    }
    parser.close(mark, Kind::Delete);
    Ok(())
}

/// `assert_stmt: 'assert' expression [',' expression]`
fn on_assert(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    expression(parser)?;
    parser.role(Role::Condition);
    if parser.eat(TokenKind::Comma) {
        expression(parser)?;
        parser.role(Role::Message);
    }
    parser.close(mark, Kind::Assert);
    Ok(())
}

/// `type_alias: "type" NAME [type_params] '=' expression`
fn on_type_alias(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    target::name(parser, Role::Name)?;
    type_parameters(parser)?;
    parser.expect(TokenKind::Assign)?;
    expression(parser)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::TypeAlias);
    Ok(())
}
