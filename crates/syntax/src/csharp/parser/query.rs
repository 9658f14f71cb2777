//! "Query expressions".

use super::{Front, ahead, at_word, expression, name, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// Whether a query begins here: `from`, perhaps a type, a name, and `in`.
pub(super) fn begins(parser: &mut Front) -> bool {
    if !at_word(parser, "from") {
        return false;
    }
    let next = parser.next_token();
    if next.1 == TokenKind::Name && parser.token_after(next.0).1 == TokenKind::In {
        return true;
    }
    let Some(name) = ahead::behind_type(parser, next) else { return false };
    name.1 == TokenKind::Name && parser.token_after(name.0).1 == TokenKind::In
}

/// `query_expression: from_clause query_body`
pub(super) fn query(parser: &mut Front) -> Parsed {
    let around = std::mem::replace(&mut parser.own.state.in_query, true);
    let outcome = parser.nested(|parser| {
        let mark = parser.open();
        loop {
            let is_last = matches!(parser.text(), "select" | "group");
            clause(parser)?;
            if is_last && !at_word(parser, "into") {
                return super::done(parser, mark, Kind::Query);
            }
        }
    });
    parser.own.state.in_query = around;
    outcome
}

fn clause(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if !parser.at(TokenKind::Name) {
        return parser.stop_expecting("'select' or 'group'");
    }
    match parser.text() {
        "from" => {
            parser.bump();
            ranged(parser)?;
        }
        "where" => {
            parser.bump();
            expression::expression(parser, Role::Condition)?;
        }
        "select" => {
            parser.bump();
            expression::expression(parser, Role::Value)?;
        }
        "let" => {
            parser.bump();
            name(parser, Role::Name)?;
            parser.expect(TokenKind::Assign)?;
            expression::expression(parser, Role::Value)?;
        }
        "group" => {
            parser.bump();
            expression::expression(parser, Role::Value)?;
            word(parser, "by", "'by'")?;
            expression::expression(parser, Role::Key)?;
        }
        "into" => {
            parser.bump();
            name(parser, Role::Name)?;
        }
        "orderby" => order(parser)?,
        "join" => join(parser)?,
        _ => return parser.stop_expecting("'select' or 'group'"),
    }
    parser.close_as(mark, Kind::QueryClause, Role::Clause);
    Ok(())
}

/// `type? identifier 'in' expression`
fn ranged(parser: &mut Front) -> Parsed {
    if parser.next_kind() != TokenKind::In {
        types::type_of(parser, Role::Type)?;
    }
    name(parser, Role::Name)?;
    parser.expect(TokenKind::In)?;
    expression::expression(parser, Role::Iterable)
}

/// `orderby_clause: 'orderby' ordering (',' ordering)*`
fn order(parser: &mut Front) -> Parsed {
    parser.bump();
    super::separated(parser, |parser| {
        expression::expression(parser, Role::Key)?;
        if at_word(parser, "ascending") || at_word(parser, "descending") {
            parser.bump();
        }
        Ok(())
    })
}

/// `join_clause: 'join' type? identifier 'in' expression 'on' expression 'equals' expression`; its `into` is a clause of its own.
fn join(parser: &mut Front) -> Parsed {
    parser.bump();
    ranged(parser)?;
    word(parser, "on", "'on'")?;
    expression::expression(parser, Role::Left)?;
    word(parser, "equals", "'equals'")?;
    expression::expression(parser, Role::Right)
}

fn word(parser: &mut Front, word: &str, described: &'static str) -> Parsed {
    if !at_word(parser, word) {
        return parser.stop_expecting(described);
    }
    parser.bump();
    Ok(())
}
