//! "If statements", "Switch statements", "Select statements", "For statements".

use super::expression::{Braces, expression, expression_list};
use super::statement::{Allows, Simple, expression_statement, simple_statement, statement_list};
use super::types::type_of;
use super::{at_separator, block};
use crate::parse::{Parsed, Parser, Stop};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `IfStmt = "if" [ SimpleStmt ";" ] Expression Block [ "else" ( IfStmt | Block ) ]`
pub(super) fn if_statement(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::BraceOpen) {
        return parser.stop(NO_CONDITION);
    }
    let mut found = header_statement(parser)?;
    if found == Header::Start {
        if parser.at(TokenKind::BraceOpen) {
            return parser.stop(NO_CONDITION);
        }
        found = Header::Last(simple_statement(parser, Braces::Block, Allows::Statement)?);
    }
    if found != Header::Last(Simple::Expression) {
        return parser.stop(Problem::Rule("a condition is a value"));
    }
    parser.role(Role::Condition);
    block(parser, Role::Body)?;
    if parser.eat(TokenKind::Else) {
        match parser.kind() {
            TokenKind::If => {
                parser.nested(if_statement)?;
                parser.role(Role::Else);
            }
            TokenKind::BraceOpen => block(parser, Role::Else)?,
            _ => return parser.stop_expecting("'if' or '{'"),
        }
    }
    parser.close(mark, Kind::If);
    Ok(())
}

const NO_CONDITION: Problem = Problem::Rule("the condition is missing");

/// What the first part between a word and its block is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Header {
    /// A statement that runs before, with the semicolon behind it.
    Start,
    /// What is asked.
    Last(Simple),
}

/// The first part between a word and its block, which may be empty before a semicolon.
fn header_statement(parser: &mut Parser) -> Result<Header, Stop> {
    let mark = parser.open();
    if at_separator(parser) {
        parser.bump();
        return Ok(Header::Start);
    }
    let simple = simple_statement(parser, Braces::Block, Allows::Statement)?;
    if !at_separator(parser) {
        return Ok(Header::Last(simple));
    }
    if simple == Simple::Expression {
        expression_statement(parser, mark);
    }
    parser.role(Role::Start);
    parser.bump();
    Ok(Header::Start)
}

/// `ExprSwitchStmt`, `TypeSwitchStmt`
pub(super) fn switch_statement(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let mut by_type = false;
    if !parser.at(TokenKind::BraceOpen) {
        let mut inner = parser.open();
        let mut found = header_statement(parser)?;
        if found == Header::Start && !parser.at(TokenKind::BraceOpen) {
            inner = parser.open();
            found = Header::Last(simple_statement(parser, Braces::Block, Allows::Statement)?);
        }
        if let Header::Last(simple) = found {
            by_type = asks_for_type(parser, inner, simple);
            if simple != Simple::Expression && !by_type {
                return parser.stop(Problem::Rule("what is switched on is a value"));
            }
            parser.role(Role::Subject);
        }
    }
    let patterns: fn(&mut Parser) -> Parsed = if by_type { type_list } else { value_list };
    cases(parser, patterns)?;
    parser.close(mark, Kind::Match);
    Ok(())
}

/// `TypeSwitchGuard = [ identifier ":=" ] PrimaryExpr "." "(" "type" ")"`
fn asks_for_type(parser: &Parser, mark: Mark, simple: Simple) -> bool {
    let Some(last) = parser.last_since(mark) else { return false };
    match (simple, last.kind()) {
        (Simple::Expression, kind) => kind == Kind::TypeGuard,
        (Simple::Statement, Kind::ShortDeclaration) => {
            let mut parts = last.children_backwards();
            parts.next().is_some_and(|value| value.kind() == Kind::TypeGuard) && parts.count() == 1
        }
        _ => false,
    }
}

/// The cases of a choice in braces.
fn cases(parser: &mut Parser, patterns: fn(&mut Parser) -> Parsed) -> Parsed {
    parser.expect(TokenKind::BraceOpen)?;
    while matches!(parser.kind(), TokenKind::Case | TokenKind::Default) {
        let mark = parser.open();
        let is_default = parser.at(TokenKind::Default);
        parser.bump();
        if !is_default {
            patterns(parser)?;
        }
        parser.expect(TokenKind::Colon)?;
        if !matches!(parser.kind(), TokenKind::Case | TokenKind::Default | TokenKind::BraceClose) {
            let body = parser.open();
            statement_list(parser);
            parser.close_as(body, Kind::Block, Role::Body);
        }
        parser.close_as(mark, Kind::Case, Role::Case);
    }
    parser.expect(TokenKind::BraceClose)
}

fn value_list(parser: &mut Parser) -> Parsed {
    expression_list(parser, Role::Pattern, Braces::Literal).map(drop)
}

fn type_list(parser: &mut Parser) -> Parsed {
    type_of(parser, Role::Pattern)?;
    while parser.eat(TokenKind::Comma) {
        type_of(parser, Role::Pattern)?;
    }
    Ok(())
}

/// `SelectStmt = "select" "{" { CommClause } "}"`
pub(super) fn select_statement(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    cases(parser, |parser| {
        let mark = parser.open();
        if simple_statement(parser, Braces::Literal, Allows::Statement)? == Simple::Expression {
            expression_statement(parser, mark);
        }
        parser.role(Role::Pattern);
        Ok(())
    })?;
    parser.close(mark, Kind::Select);
    Ok(())
}

/// `ForStmt = "for" [ Condition | ForClause | RangeClause ] Block`
pub(super) fn for_statement(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    match parser.kind() {
        TokenKind::BraceOpen => {}
        TokenKind::Range => range(parser)?,
        kind if matches!(kind, TokenKind::Semicolon | TokenKind::Newline) => clauses(parser)?,
        _ => {
            let inner = parser.open();
            match simple_statement(parser, Braces::Block, Allows::Range)? {
                Simple::Range => range(parser)?,
                simple if at_separator(parser) => {
                    if simple == Simple::Expression {
                        expression_statement(parser, inner);
                    }
                    parser.role(Role::Start);
                    clauses(parser)?;
                }
                Simple::Expression => parser.role(Role::Condition),
                Simple::Statement => return parser.stop(Problem::Rule("a condition is a value")),
            }
        }
    }
    block(parser, Role::Body)?;
    parser.close(mark, Kind::For);
    Ok(())
}

/// `RangeClause = [ ExpressionList "=" | IdentifierList ":=" ] "range" Expression`, from its word on.
fn range(parser: &mut Parser) -> Parsed {
    parser.bump();
    expression(parser, Role::Iterable, Braces::Block)
}

/// `ForClause = [ InitStmt ] ";" [ Condition ] ";" [ PostStmt ]`, from the first semicolon on.
fn clauses(parser: &mut Parser) -> Parsed {
    parser.bump();
    if parser.at(TokenKind::BraceOpen) {
        return parser.stop(NO_CONDITION);
    }
    if !at_separator(parser) {
        if simple_statement(parser, Braces::Block, Allows::Statement)? != Simple::Expression {
            return parser.stop(Problem::Rule("a condition is a value"));
        }
        parser.role(Role::Condition);
    }
    if !at_separator(parser) {
        return parser.stop_expecting("';'");
    }
    parser.bump();
    if !parser.at(TokenKind::BraceOpen) {
        let mark = parser.open();
        if simple_statement(parser, Braces::Block, Allows::Statement)? == Simple::Expression {
            expression_statement(parser, mark);
        }
        parser.role(Role::Step);
    }
    Ok(())
}
