//! "The switch Statement", "switch Expressions".

use super::{Front, at_word, expression, lambda, pattern, statement};
use crate::parse::Parsed;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// `switch ( Expression ) SwitchBlock`
pub(super) fn switch(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.bump();
        parser.expect(TokenKind::ParenOpen)?;
        expression::expression(parser, Role::Subject)?;
        parser.expect(TokenKind::ParenClose)?;
        let open = parser.token_span(parser.position());
        parser.expect(TokenKind::BraceOpen)?;
        while parser.at(TokenKind::Case) || at_default(parser) {
            case(parser)?;
        }
        if parser.at(TokenKind::EndOfFile) {
            parser.fault(open, Problem::Unclosed(TokenKind::BraceOpen));
        } else {
            parser.expect(TokenKind::BraceClose)?;
        }
        parser.close(mark, Kind::Match);
        Ok(())
    })
}

/// Whether what is left of a choice begins here.
pub(super) fn at_default(parser: &mut Front) -> bool {
    parser.at(TokenKind::Default) && matches!(parser.next_kind(), TokenKind::Colon | TokenKind::Arrow)
}

/// `SwitchRule`, or `SwitchBlockStatementGroup` with one label.
fn case(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let is_default = parser.at(TokenKind::Default);
    parser.bump();
    if !is_default {
        super::separated(parser, label)?;
        if at_word(parser, "when") {
            parser.bump();
            guard(parser)?;
        }
    }
    if parser.eat(TokenKind::Arrow) {
        rule_body(parser)?;
    } else {
        parser.expect(TokenKind::Colon)?;
        if !matches!(parser.kind(), TokenKind::Case | TokenKind::BraceClose) && !at_default(parser) {
            let body = parser.open();
            statement::statements(parser);
            parser.close_as(body, Kind::Block, Role::Body);
        }
    }
    parser.close_as(mark, Kind::Case, Role::Case);
    Ok(())
}

/// `Guard: when Expression`, behind its word. The arrow behind it belongs to the case.
fn guard(parser: &mut Front) -> Parsed {
    let around = std::mem::replace(&mut parser.own.state.before_arrow, true);
    let outcome = expression::expression(parser, Role::Guard);
    parser.own.state.before_arrow = around;
    outcome
}

/// `CaseConstant | CasePattern | default`
fn label(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Default) {
        parser.leaf(Kind::WildcardPattern, Role::Pattern);
        return Ok(());
    }
    // A name before an arrow is a constant, and no lambda expression.
    if !lambda::begins(parser) && pattern::begins(parser) {
        return pattern::pattern(parser, Role::Pattern);
    }
    expression::without_assignment(parser)?;
    parser.role(Role::Pattern);
    Ok(())
}

/// An expression with a semicolon, a block, or what is thrown.
fn rule_body(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::BraceOpen => statement::block(parser, Role::Body),
        TokenKind::Throw => {
            statement::statement(parser)?;
            parser.role(Role::Body);
            Ok(())
        }
        _ => {
            expression::expression(parser, Role::Body)?;
            parser.expect(TokenKind::Semicolon)
        }
    }
}
