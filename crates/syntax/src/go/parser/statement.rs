//! "Statements".

use super::expression::{Braces, expression, expression_list, expression_or_type};
use super::{begins_function, block, control, declaration, end_of_statement, leave_out, name};
use crate::parse::{Parsed, Parser, Stop};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `StatementList = { Statement ";" }`, up to what ends the block or the case.
pub(super) fn statement_list(parser: &mut Parser) {
    while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile | TokenKind::Case | TokenKind::Default)
        && !begins_function(parser)
    {
        let (before, mark) = (parser.fault_count(), parser.open());
        if parser.at(TokenKind::Semicolon) {
            parser.leaf(Kind::Pass, Role::Statement);
            continue;
        }
        let outcome = statement(parser);
        parser.role_since(mark, Role::Statement);
        if outcome.and_then(|()| end_of_statement(parser)).is_err() {
            leave_out(parser, before, mark, false);
        }
    }
}

/// `Statement`, without the end of its line.
fn statement(parser: &mut Parser) -> Parsed {
    parser.nested(|parser| match parser.kind() {
        TokenKind::Const | TokenKind::TypeWord | TokenKind::Var => declaration::declaration(parser),
        TokenKind::BraceOpen => block(parser, Role::Statement),
        TokenKind::GoWord => called(parser, Kind::GoStatement),
        TokenKind::Defer => called(parser, Kind::Defer),
        TokenKind::Return => return_statement(parser),
        TokenKind::Break => jump(parser, Kind::Break),
        TokenKind::Continue => jump(parser, Kind::Continue),
        TokenKind::Goto => jump(parser, Kind::Goto),
        TokenKind::Fallthrough => jump(parser, Kind::Fallthrough),
        TokenKind::If => control::if_statement(parser),
        TokenKind::Switch => control::switch_statement(parser),
        TokenKind::Select => control::select_statement(parser),
        TokenKind::For => control::for_statement(parser),
        TokenKind::Name if parser.following() == TokenKind::Colon => labeled(parser),
        _ => {
            let mark = parser.open();
            if simple_statement(parser, Braces::Literal, Allows::Statement)? == Simple::Expression {
                expression_statement(parser, mark);
            }
            Ok(())
        }
    })
}

/// What is before the current token, from `mark` on, is a statement.
pub(super) fn expression_statement(parser: &mut Parser, mark: Mark) {
    parser.role(Role::Value);
    parser.close(mark, Kind::ExpressionStatement);
}

/// What a simple statement may be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Allows {
    Statement,
    /// Also the names of a loop over something.
    Range,
}

/// What a simple statement is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Simple {
    /// An expression, which no node is around yet.
    Expression,
    Statement,
    /// The names of a loop over something, which no node is around yet, with the sign behind them: `range` comes.
    Range,
}

/// `SimpleStmt = ExpressionStmt | SendStmt | IncDecStmt | Assignment | ShortVarDecl`
pub(super) fn simple_statement(parser: &mut Parser, braces: Braces, allows: Allows) -> Result<Simple, Stop> {
    let mark = parser.open();
    let mut names = true;
    let mut count = 0;
    loop {
        let inner = parser.open();
        expression(parser, Role::Target, braces)?;
        names &= parser.last_since(inner).is_some_and(|node| node.kind() == Kind::Name);
        count += 1;
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    let kind = match parser.kind() {
        TokenKind::ColonAssign => Kind::ShortDeclaration,
        TokenKind::Assign => Kind::Assignment,
        kind if kind.is_compound_assignment() => Kind::CompoundAssignment,
        _ if count > 1 => return parser.stop_expecting("':=' or '='").map(|()| Simple::Statement),
        TokenKind::ChannelArrow => {
            parser.role(Role::Object);
            parser.bump();
            expression(parser, Role::Value, braces)?;
            parser.close(mark, Kind::Send);
            return Ok(Simple::Statement);
        }
        TokenKind::PlusPlus | TokenKind::MinusMinus => {
            parser.role(Role::Operand);
            parser.bump();
            parser.close(mark, Kind::Update);
            return Ok(Simple::Statement);
        }
        _ => return Ok(Simple::Expression),
    };
    if kind == Kind::ShortDeclaration && !names {
        return parser.stop(Problem::Rule("only names are declared by ':='")).map(|()| Simple::Statement);
    }
    parser.bump();
    if parser.at(TokenKind::Range) && allows == Allows::Range && kind != Kind::CompoundAssignment {
        if count > 2 {
            return parser
                .stop(Problem::Rule("a loop over something has two names at most"))
                .map(|()| Simple::Statement);
        }
        return Ok(Simple::Range);
    }
    let values = expression_list(parser, Role::Value, braces)?;
    parser.close(mark, kind);
    if kind == Kind::CompoundAssignment && (count > 1 || values > 1) {
        parser.fault_since(mark, Problem::Rule("this sign takes one value and one target"));
    }
    Ok(Simple::Statement)
}

/// `LabeledStmt = Label ":" Statement`
fn labeled(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    name(parser, Role::Label)?;
    parser.bump();
    match parser.kind() {
        // An empty statement.
        TokenKind::BraceClose | TokenKind::Semicolon => {}
        _ => {
            statement(parser)?;
            parser.role(Role::Body);
        }
    }
    parser.close(mark, Kind::Labeled);
    Ok(())
}

/// `GoStmt = "go" Expression`, `DeferStmt = "defer" Expression`: a call.
fn called(parser: &mut Parser, kind: Kind) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let inner = parser.open();
    expression_or_type(parser, Role::Value, Braces::Literal)?;
    if parser.last_since(inner).is_none_or(|node| node.kind() != Kind::Call) {
        parser.fault_since(inner, Problem::Rule("only a call can be here"));
    }
    parser.close(mark, kind);
    Ok(())
}

/// `ReturnStmt = "return" [ ExpressionList ]`
fn return_statement(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !matches!(
        parser.kind(),
        TokenKind::Newline | TokenKind::Semicolon | TokenKind::BraceClose | TokenKind::EndOfFile
    ) {
        expression_list(parser, Role::Value, Braces::Literal)?;
    }
    parser.close(mark, Kind::Return);
    Ok(())
}

/// `BreakStmt`, `ContinueStmt`, `GotoStmt`, `FallthroughStmt`
fn jump(parser: &mut Parser, kind: Kind) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::Name) && kind != Kind::Fallthrough {
        name(parser, Role::Label)?;
    }
    parser.close(mark, kind);
    Ok(())
}
