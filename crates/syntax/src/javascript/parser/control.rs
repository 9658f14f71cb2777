//! Statements that choose, repeat and leave.

use super::statement::{self, block, substatement};
use super::{Front, declaration, expression, name, pattern, target, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `( Expression )`
fn condition(parser: &mut Front, role: Role) -> Parsed {
    parser.expect(TokenKind::ParenOpen)?;
    parser.within(|context| context.no_in = false, expression::expression)?;
    parser.role(role);
    parser.expect(TokenKind::ParenClose)
}

/// `IfStatement : if ( Expression ) Statement else Statement`
///
/// A chain of conditions nests in the tree; here it is followed in a loop, so that its length is no depth.
pub(super) fn if_statement(parser: &mut Front) -> Parsed {
    let mut open: Vec<Mark> = Vec::new();
    let outcome = loop {
        open.push(parser.open());
        parser.bump();
        if let Err(stop) = condition(parser, Role::Condition).and_then(|()| substatement(parser, Role::Body)) {
            break Err(stop);
        }
        if !parser.eat(TokenKind::Else) {
            break Ok(());
        }
        if !parser.at(TokenKind::If) {
            break substatement(parser, Role::Else);
        }
    };
    outcome?;
    while let Some(mark) = open.pop() {
        parser.close(mark, Kind::If);
        if !open.is_empty() {
            parser.role(Role::Else);
        }
    }
    Ok(())
}

/// The body of a loop.
fn loop_body(parser: &mut Front) -> Parsed {
    let enter = |context: &mut super::Context| {
        context.in_loop = true;
        context.in_breakable = true;
        context.no_in = false;
    };
    parser.within(enter, |parser| substatement(parser, Role::Body))
}

/// `while ( Expression ) Statement`
pub(super) fn while_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    condition(parser, Role::Condition)?;
    loop_body(parser)?;
    parser.close(mark, Kind::While);
    Ok(())
}

/// `do Statement while ( Expression ) ;`, where the semicolon may always be left out.
pub(super) fn do_while_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    loop_body(parser)?;
    parser.expect(TokenKind::While)?;
    condition(parser, Role::Condition)?;
    parser.eat(TokenKind::Semicolon);
    parser.close(mark, Kind::DoWhile);
    Ok(())
}

/// `ForStatement`, `ForInOfStatement`
pub(super) fn for_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let awaits = parser.eat_word("await");
    parser.expect(TokenKind::ParenOpen)?;
    if parser.at(TokenKind::Semicolon) && !awaits {
        return counting_loop(parser, mark);
    }
    let start = parser.open();
    let covers = parser.own.covers.len();
    let declares = match parser.kind() {
        TokenKind::Var | TokenKind::Const => true,
        TokenKind::Name => declaration::follows_for_head(parser),
        _ => false,
    };
    let is_async_arrow = parser.at_word("async");
    if declares {
        parser.within(|context| context.no_in = true, declaration::for_declarations)?;
    } else {
        parser.within(|context| context.no_in = true, expression::expression)?;
    }
    let of = parser.at_word("of") && !(is_async_arrow && !awaits && parser.taken_end() == start.token() + 1);
    if of || (parser.at(TokenKind::In) && !awaits) {
        parser.own.covers.truncate(covers);
        if declares {
            parser.role(Role::Target);
        } else {
            target::check(parser, start, target::Use::Assign)?;
            parser.role(Role::Target);
        }
        parser.bump();
        let iterable = if of { expression::assignment_expression } else { expression::expression };
        iterable(parser)?;
        parser.role(Role::Iterable);
        parser.expect(TokenKind::ParenClose)?;
        loop_body(parser)?;
        parser.close(mark, Kind::For);
        return Ok(());
    }
    parser.role(Role::Start);
    if awaits {
        return parser.stop_expecting("'of'");
    }
    counting_loop(parser, mark)
}

/// `; Expression? ; Expression? ) Statement`
fn counting_loop(parser: &mut Front, mark: Mark) -> Parsed {
    parser.expect(TokenKind::Semicolon)?;
    if !parser.at(TokenKind::Semicolon) {
        expression::expression(parser)?;
        parser.role(Role::Condition);
    }
    parser.expect(TokenKind::Semicolon)?;
    if !parser.at(TokenKind::ParenClose) {
        expression::expression(parser)?;
        parser.role(Role::Step);
    }
    parser.expect(TokenKind::ParenClose)?;
    loop_body(parser)?;
    parser.close(mark, Kind::For);
    Ok(())
}

/// `return Expression? ;`. At the top of a file it is in modules that a loader wraps into a function.
pub(super) fn return_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if !parser.at_semicolon() {
        expression::expression(parser)?;
        parser.role(Role::Value);
    }
    parser.semicolon()?;
    parser.close(mark, Kind::Return);
    Ok(())
}

/// `break LabelIdentifier? ;` and `continue LabelIdentifier? ;`
pub(super) fn jump(parser: &mut Front, kind: Kind) -> Parsed {
    let mark = parser.open();
    let span = parser.token_span(parser.position());
    parser.bump();
    let labelled = name::is_identifier(parser.kind()) && !parser.at_new_line();
    if labelled {
        if !parser.own.labels.contains(&parser.text()) {
            let span = parser.token_span(parser.position());
            parser.early_fault(span, Problem::Rule("no statement around this one has such a label"));
        }
        parser.leaf(Kind::Name, Role::Label);
    }
    let context = parser.context();
    let inside = if kind == Kind::Break { context.in_breakable } else { context.in_loop };
    if !inside && !labelled {
        parser.early_fault(span, Problem::Rule("no loop around this statement"));
    }
    parser.semicolon()?;
    parser.close(mark, kind);
    Ok(())
}

/// `switch ( Expression ) CaseBlock`
pub(super) fn switch_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    condition(parser, Role::Subject)?;
    parser.expect(TokenKind::BraceOpen)?;
    let enter = |context: &mut super::Context| context.in_breakable = true;
    parser.within(enter, |parser| {
        while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
            case_clause(parser)?;
        }
        Ok(())
    })?;
    parser.expect(TokenKind::BraceClose)?;
    parser.close(mark, Kind::Match);
    Ok(())
}

/// `case Expression : StatementList?`, `default : StatementList?`
fn case_clause(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if parser.eat(TokenKind::Case) {
        expression::expression(parser)?;
        parser.role(Role::Pattern);
    } else if !parser.eat(TokenKind::Default) {
        return parser.stop_expecting("'case', 'default' or '}'");
    }
    parser.expect(TokenKind::Colon)?;
    let body = parser.open();
    while !matches!(parser.kind(), TokenKind::Case | TokenKind::Default | TokenKind::BraceClose | TokenKind::EndOfFile)
    {
        statement::statement_list_item(parser);
    }
    if parser.position() > body.token() {
        parser.close_as(body, Kind::Block, Role::Body);
    }
    parser.close_as(mark, Kind::Case, Role::Case);
    Ok(())
}

/// `throw Expression ;`, the expression on the same line.
pub(super) fn throw_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at_new_line() && !parser.has_types() {
        return parser.stop(Problem::Rule("what is thrown must begin on the line of 'throw'"));
    }
    expression::expression(parser)?;
    parser.role(Role::Exception);
    parser.semicolon()?;
    parser.close(mark, Kind::Throw);
    Ok(())
}

/// `try Block Catch? Finally?`
pub(super) fn try_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    block(parser, Role::Body)?;
    let caught = parser.at(TokenKind::Catch);
    if caught {
        catch_clause(parser)?;
    }
    if parser.eat(TokenKind::Finally) {
        block(parser, Role::Finally)?;
    } else if !caught {
        return parser.stop_expecting("'catch' or 'finally'");
    }
    parser.close(mark, Kind::Try);
    Ok(())
}

/// `catch ( CatchParameter ) Block`, `catch Block`
fn catch_clause(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.eat(TokenKind::ParenOpen) {
        pattern::name_or_pattern(parser)?;
        types::opt_annotation(parser)?;
        parser.expect(TokenKind::ParenClose)?;
    }
    block(parser, Role::Body)?;
    parser.close_as(mark, Kind::Catch, Role::Handler);
    Ok(())
}

/// `with ( Expression ) Statement`
pub(super) fn with_statement(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let item = parser.open();
    condition(parser, Role::Value)?;
    parser.close_as(item, Kind::WithItem, Role::Item);
    substatement(parser, Role::Body)?;
    parser.close(mark, Kind::With);
    Ok(())
}
