//! "Accessors" of properties, indexers and events.

use super::{Front, attribute, function_body, modifiers};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// What a member with accessors is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Sort {
    Property,
    Event,
}

/// A property or an event from behind its name on: an expression behind an arrow, or accessors and perhaps a value.
pub(super) fn property(parser: &mut Front, mark: Mark, sort: Sort) -> Parsed {
    if parser.at(TokenKind::FatArrow) {
        function_body(parser)?;
        return super::done(parser, mark, Kind::Property);
    }
    let body = parser.open();
    let open = parser.token_span(parser.position());
    parser.expect(TokenKind::BraceOpen)?;
    loop {
        accessor(parser, sort)?;
        if matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
            break;
        }
    }
    if !parser.eat(TokenKind::BraceClose) {
        parser.fault(open, Problem::Unclosed(TokenKind::BraceOpen));
    }
    parser.close_as(body, Kind::Block, Role::Body);
    if parser.eat(TokenKind::Assign) {
        super::creation::value_or_array(parser, Role::Value)?;
        parser.expect(TokenKind::Semicolon)?;
    }
    super::done(parser, mark, Kind::Property)
}

/// `get`, `set`, `init`, `add` or `remove`, with what it does.
fn accessor(parser: &mut Front, sort: Sort) -> Parsed {
    let mark = parser.open();
    attribute::sections(parser)?;
    modifiers::modifiers(parser)?;
    let (words, described): (&[&str], _) = match sort {
        Sort::Property => (&["get", "set", "init"], "'get', 'set' or 'init'"),
        Sort::Event => (&["add", "remove"], "'add' or 'remove'"),
    };
    if !parser.at(TokenKind::Name) || !words.contains(&parser.text()) {
        return parser.stop_expecting(described);
    }
    parser.leaf(Kind::Name, Role::Name);
    function_body(parser)?;
    parser.close_as(mark, Kind::Accessor, Role::Statement);
    Ok(())
}
