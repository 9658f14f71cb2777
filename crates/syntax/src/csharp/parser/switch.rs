//! "The switch statement", "Switch expressions".

use super::{
    Front, ahead, at_word, control, expression, listed, pattern, primary, recovering, statement as statements,
};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `switch_statement`
pub(super) fn statement(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.bump();
        subject(parser)?;
        let open = parser.token_span(parser.position());
        parser.expect(TokenKind::BraceOpen)?;
        super::in_brackets(parser, |parser| {
            while matches!(parser.kind(), TokenKind::Case | TokenKind::Default) {
                section(parser)?;
            }
            Ok(())
        })?;
        if parser.at(TokenKind::EndOfFile) {
            parser.fault(open, Problem::Unclosed(TokenKind::BraceOpen));
        } else {
            parser.expect(TokenKind::BraceClose)?;
        }
        super::done(parser, mark, Kind::Match)
    })
}

/// A value in parentheses. One of several parts needs no parentheses beside its own.
fn subject(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::ParenOpen) && ahead::holds_several(parser) {
        primary::group_or_tuple(parser)?;
        parser.role(Role::Subject);
        return Ok(());
    }
    control::parenthesized(parser, Role::Subject)
}

/// `switch_section`, with one label.
fn section(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let is_default = parser.at(TokenKind::Default);
    parser.bump();
    if !is_default {
        pattern::label(parser)?;
        opt_guard(parser)?;
    }
    parser.expect(TokenKind::Colon)?;
    let body = parser.open();
    let ends = |parser: &mut Front| match parser.kind() {
        TokenKind::BraceClose | TokenKind::EndOfFile | TokenKind::Case => true,
        TokenKind::Default => parser.next_kind() == TokenKind::Colon,
        _ => false,
    };
    if !ends(parser) {
        while !ends(parser) {
            recovering(parser, false, statements::statement);
        }
        parser.close_as(body, Kind::Block, Role::Body);
    }
    parser.close_as(mark, Kind::Case, Role::Case);
    Ok(())
}

/// `case_guard: 'when' expression`. The arrow behind it belongs to the case.
fn opt_guard(parser: &mut Front) -> Parsed {
    if !at_word(parser, "when") {
        return Ok(());
    }
    parser.bump();
    super::before_arrow(parser, |parser| expression::expression(parser, Role::Guard))
}

/// `switch_expression: expression 'switch' '{' (switch_expression_arm (',' switch_expression_arm)* ','?)? '}'`, from the word on.
pub(super) fn choice(parser: &mut Front, mark: Mark) -> Parsed {
    parser.role(Role::Subject);
    parser.bump();
    parser.expect(TokenKind::BraceOpen)?;
    listed(parser, TokenKind::BraceClose, |parser| {
        let mark = parser.open();
        pattern::label(parser)?;
        opt_guard(parser)?;
        parser.expect(TokenKind::FatArrow)?;
        expression::expression(parser, Role::Body)?;
        parser.close_as(mark, Kind::Case, Role::Case);
        Ok(())
    })?;
    super::done(parser, mark, Kind::Match)
}
