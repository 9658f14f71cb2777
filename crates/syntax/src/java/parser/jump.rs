//! Statements of control: "The if Statement" to "The try statement".

use super::expression::expression;
use super::{Front, ahead, modifiers, name, separated, statement, types, variable, variable_name};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Problem, Role, TokenKind};

/// An expression in parentheses.
fn parenthesized(parser: &mut Front, role: Role) -> Parsed {
    parser.expect(TokenKind::ParenOpen)?;
    expression(parser, role)?;
    parser.expect(TokenKind::ParenClose)
}

fn substatement(parser: &mut Front, role: Role) -> Parsed {
    statement::statement(parser)?;
    parser.role(role);
    Ok(())
}

/// `IfThenStatement`, `IfThenElseStatement`
pub(super) fn if_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parenthesized(parser, Role::Condition)?;
    substatement(parser, Role::Body)?;
    if parser.eat(TokenKind::Else) {
        substatement(parser, Role::Else)?;
    }
    parser.close(mark, Kind::If);
    Ok(())
}

/// `WhileStatement`
pub(super) fn while_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parenthesized(parser, Role::Condition)?;
    substatement(parser, Role::Body)?;
    parser.close(mark, Kind::While);
    Ok(())
}

/// `DoStatement`
pub(super) fn do_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    substatement(parser, Role::Body)?;
    parser.expect(TokenKind::While)?;
    parenthesized(parser, Role::Condition)?;
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, Kind::DoWhile);
    Ok(())
}

/// `BasicForStatement`, `EnhancedForStatement`
pub(super) fn for_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::ParenOpen)?;
    if goes_over_elements(parser) {
        variable::one(parser, Role::Target)?;
        parser.expect(TokenKind::Colon)?;
        expression(parser, Role::Iterable)?;
    } else {
        clauses(parser)?;
    }
    parser.expect(TokenKind::ParenClose)?;
    substatement(parser, Role::Body)?;
    parser.close(mark, Kind::For);
    Ok(())
}

/// Whether a colon is behind the first variable.
fn goes_over_elements(parser: &mut Front) -> bool {
    let mut token = parser.current();
    loop {
        token = match token.1 {
            TokenKind::Modifier => parser.token_after(token.0),
            TokenKind::At => match ahead::annotations_from(parser, token) {
                Some(behind) => behind,
                None => return false,
            },
            _ => break,
        };
    }
    let Some(name) = ahead::behind_type(parser, token) else { return false };
    let mut behind = parser.token_after(name.0);
    while matches!(behind.1, TokenKind::BracketOpen | TokenKind::BracketClose) {
        behind = parser.token_after(behind.0);
    }
    matches!(name.1, TokenKind::Name | TokenKind::Underscore) && behind.1 == TokenKind::Colon
}

/// `[ForInit] ; [Expression] ; [ForUpdate]`
fn clauses(parser: &mut Front) -> Parsed {
    if !parser.at(TokenKind::Semicolon) {
        let mark = parser.open();
        if declares(parser)? || parser.at(TokenKind::PrimitiveType) {
            variable::declaration(parser, mark)?;
            parser.role(Role::Start);
        } else {
            steps(parser, Role::Start)?;
        }
    }
    parser.expect(TokenKind::Semicolon)?;
    if !parser.at(TokenKind::Semicolon) {
        expression(parser, Role::Condition)?;
    }
    parser.expect(TokenKind::Semicolon)?;
    if !parser.at(TokenKind::ParenClose) {
        steps(parser, Role::Step)?;
    }
    Ok(())
}

/// The modifiers of a variable, if there are any. Gives whether one is declared here.
fn declares(parser: &mut Front) -> Result<bool, Stop> {
    let has_modifiers = matches!(parser.kind(), TokenKind::Modifier | TokenKind::At);
    modifiers::modifiers(parser)?;
    Ok(has_modifiers || ahead::begins_variable(parser))
}

/// `StatementExpressionList`
fn steps(parser: &mut Front, role: Role) -> Parsed {
    separated(parser, |parser| {
        statement::statement_expression(parser)?;
        parser.role(role);
        Ok(())
    })
}

/// `TryStatement`, with resources or without.
pub(super) fn try_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let word = parser.token_span(parser.position());
    parser.bump();
    let has_resources = parser.at(TokenKind::ParenOpen);
    if has_resources {
        resources(parser)?;
    }
    statement::block(parser, Role::Body)?;
    let mut is_handled = has_resources;
    while parser.at(TokenKind::Catch) {
        catch(parser)?;
        is_handled = true;
    }
    if parser.eat(TokenKind::Finally) {
        statement::block(parser, Role::Finally)?;
        is_handled = true;
    }
    if !is_handled {
        parser.fault(word, Problem::Rule("a 'try' needs a handler, a 'finally' or resources"));
    }
    parser.close(mark, Kind::Try);
    Ok(())
}

/// `ResourceSpecification: ( ResourceList [;] )`
fn resources(parser: &mut Front) -> Parsed {
    parser.bump();
    loop {
        let mark = parser.open();
        if declares(parser)? {
            types::type_of(parser, Role::Type)?;
            let inner = parser.open();
            variable_name(parser, Role::Target)?;
            parser.expect(TokenKind::Assign)?;
            expression(parser, Role::Value)?;
            parser.close_as(inner, Kind::Assignment, Role::Item);
            parser.close_as(mark, Kind::Declaration, Role::Item);
        } else {
            expression(parser, Role::Item)?;
            let names = |kind: Kind| matches!(kind, Kind::Name | Kind::Member | Kind::This);
            if !parser.last_since(mark).is_some_and(|node| names(node.kind())) {
                parser.fault_since(mark, Problem::Rule("a resource is a variable"));
            }
        }
        if !parser.eat(TokenKind::Semicolon) || parser.at(TokenKind::ParenClose) {
            break;
        }
    }
    parser.expect(TokenKind::ParenClose)
}

/// `CatchClause: catch ( CatchFormalParameter ) Block`
fn catch(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::ParenOpen)?;
    modifiers::modifiers(parser)?;
    types::joined(parser, TokenKind::Bar, Kind::UnionType, Role::Type)?;
    variable_name(parser, Role::Name)?;
    super::dimensions(parser);
    parser.expect(TokenKind::ParenClose)?;
    statement::block(parser, Role::Body)?;
    parser.close_as(mark, Kind::Catch, Role::Handler);
    Ok(())
}

/// `SynchronizedStatement: synchronized ( Expression ) Block`
pub(super) fn synchronized(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::ParenOpen)?;
    let item = parser.open();
    expression(parser, Role::Value)?;
    parser.close_as(item, Kind::WithItem, Role::Item);
    parser.expect(TokenKind::ParenClose)?;
    statement::block(parser, Role::Body)?;
    parser.close(mark, Kind::With);
    Ok(())
}

/// `ReturnStatement`, `YieldStatement`
pub(super) fn leaving(parser: &mut Front, kind: Kind) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if kind == Kind::Yield || !parser.at(TokenKind::Semicolon) {
        expression(parser, Role::Value)?;
    }
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, kind);
    Ok(())
}

/// `ThrowStatement`
pub(super) fn throw(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    expression(parser, Role::Exception)?;
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, Kind::Throw);
    Ok(())
}

/// `BreakStatement`, `ContinueStatement`
pub(super) fn labeled_jump(parser: &mut Front, kind: Kind) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::Name) {
        name(parser, Role::Label)?;
    }
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, kind);
    Ok(())
}

/// `AssertStatement`
pub(super) fn assert(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    expression(parser, Role::Condition)?;
    if parser.eat(TokenKind::Colon) {
        expression(parser, Role::Message)?;
    }
    parser.expect(TokenKind::Semicolon)?;
    parser.close(mark, Kind::Assert);
    Ok(())
}
