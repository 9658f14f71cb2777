//! Simple commands, assignments, redirections and functions.

use super::{compound, lines, word};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `command: simple_command | compound_command [redirect_list] | function_definition`
pub(super) fn command(parser: &mut Parser) -> Parsed {
    parser.nested(|parser| {
        if compound::begins(parser.kind()) {
            let mark = parser.open();
            compound::on_compound(parser)?;
            return redirections_behind(parser, mark);
        }
        simple(parser)
    })
}

/// `compound_command redirect_list`: the redirections hold for all of it.
fn redirections_behind(parser: &mut Parser, mark: Mark) -> Parsed {
    if !at_redirection(parser) {
        return Ok(());
    }
    parser.role(Role::Body);
    while at_redirection(parser) {
        redirection(parser)?;
    }
    parser.close(mark, Kind::Redirected);
    Ok(())
}

fn at_redirection(parser: &Parser) -> bool {
    match parser.kind() {
        TokenKind::Redirect | TokenKind::HereOperator => true,
        TokenKind::Number => matches!(parser.following(), TokenKind::Redirect | TokenKind::HereOperator),
        _ => false,
    }
}

/// `io_redirect: [IO_NUMBER] (io_file | io_here)`
fn redirection(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.eat(TokenKind::Number);
    parser.bump();
    word::word(parser, Role::Target)?;
    parser.close_as(mark, Kind::Redirection, Role::Redirection);
    Ok(())
}

/// `simple_command: cmd_prefix [cmd_word [cmd_suffix]] | cmd_name [cmd_suffix]`
fn simple(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let first = parser.position();
    let mut callee: Option<&str> = None;
    loop {
        if at_redirection(parser) {
            redirection(parser)?;
        } else if parser.at(TokenKind::Name) {
            assignment(parser)?;
            parser.role(if callee.is_some() { Role::Argument } else { Role::Part });
        } else if word::at_word(parser) {
            let is_first = parser.position() == first;
            let text = parser.text();
            word::word(parser, if callee.is_some() { Role::Argument } else { Role::Callee })?;
            if is_first && parser.at(TokenKind::ParenOpen) {
                return function_body(parser, mark);
            }
            callee = callee.or(Some(text));
        } else {
            break;
        }
    }
    if parser.position() == first {
        return parser.stop_expecting("a command");
    }
    let kind = match callee {
        Some("return") => Kind::Return,
        Some("break") => Kind::Break,
        Some("continue") => Kind::Continue,
        _ => Kind::Command,
    };
    parser.close(mark, kind);
    Ok(())
}

/// After the name of `function_definition: fname '(' ')' linebreak function_body`.
fn function_body(parser: &mut Parser, mark: Mark) -> Parsed {
    parser.role(Role::Name);
    parser.bump();
    parser.expect(TokenKind::ParenClose)?;
    lines(parser)?;
    compound::body(parser)?;
    parser.close(mark, Kind::Function);
    while at_redirection(parser) {
        parser.role(Role::Body);
        redirection(parser)?;
        parser.close(mark, Kind::Redirected);
    }
    Ok(())
}

/// bash: `function name [()] linebreak compound_command`
pub(super) fn on_function_word(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    word::word(parser, Role::Name)?;
    if parser.eat(TokenKind::ParenOpen) {
        parser.expect(TokenKind::ParenClose)?;
    }
    lines(parser)?;
    compound::body(parser)?;
    parser.close(mark, Kind::Function);
    Ok(())
}

/// `ASSIGNMENT_WORD`: `name=word`, and what bash adds: `name+=word`, `name[subscript]=word`, `name=(words)`.
fn assignment(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.leaf(Kind::Name, Role::Target);
    if parser.at(TokenKind::BracketOpen) {
        word::subscript(parser)?;
        parser.role(Role::Index);
    }
    if !parser.eat(TokenKind::Assign) && !parser.eat(TokenKind::PlusAssign) {
        return parser.stop_expecting("'='");
    }
    // The lexer opens a list only behind the sign, where lines may be joined.
    if parser.at(TokenKind::ParenOpen) && (parser.is_adjacent() || parser.is_behind(TokenKind::LineJoin)) {
        array(parser)?;
    } else if parser.is_adjacent() && word::at_word(parser) {
        word::word(parser, Role::Value)?;
    }
    parser.close(mark, Kind::Assignment);
    Ok(())
}

/// bash: `'(' (word | '[' subscript ']' '=' word)* ')'`
fn array(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    loop {
        if parser.at(TokenKind::BracketOpen) {
            let pair = parser.open();
            word::subscript(parser)?;
            parser.role(Role::Key);
            while parser.is_adjacent() && (parser.eat(TokenKind::Assign) || parser.eat(TokenKind::PlusAssign)) {}
            if parser.is_adjacent() && word::at_word(parser) {
                word::word(parser, Role::Value)?;
            }
            parser.close_as(pair, Kind::Pair, Role::Element);
        } else if word::at_word(parser) {
            word::word(parser, Role::Element)?;
        } else {
            break;
        }
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close_as(mark, Kind::List, Role::Value);
    Ok(())
}
