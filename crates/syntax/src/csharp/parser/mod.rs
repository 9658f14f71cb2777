//! Compilation units ("Namespaces"), what is shared by all rules of the grammar, and going on after a mistake.

mod accessor;
mod ahead;
mod argument;
mod attribute;
mod constraint;
mod control;
mod creation;
mod declaration;
mod expression;
mod import;
mod initializer;
mod jump;
mod lambda;
mod member;
mod modifiers;
mod operator;
mod parameter;
mod pattern;
mod primary;
mod query;
mod resource;
mod statement;
mod string;
mod suffix;
mod switch;
mod types;
mod variable;

use super::branch::LeftOut;
use super::lexer::{Around, Lexer};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Role, TokenKind, Tree};

/// The parser of this language.
type Front<'s> = Parser<'s, Lexer<'s>>;

/// `compilation_unit: extern_alias_directive* using_directive* global_attributes? (statement_list | namespace_member_declaration*)`
pub(super) fn compilation_unit(source: &str, left_out: LeftOut) -> Tree {
    let mut parser = Parser::on_demand(source, Lexer::new(source, Around::new(left_out)));
    let mark = parser.open_file();
    while !parser.at(TokenKind::EndOfFile) {
        recovering(&mut parser, true, top_level);
    }
    parser.finish(mark).into_tree()
}

/// An expression, and nothing behind it.
pub(super) fn lone_expression(source: &str) -> Tree {
    let mut parser = Parser::on_demand(source, Lexer::new(source, Around::default()));
    let mark = parser.open_file();
    let _ = expression::expression(&mut parser, Role::Value);
    parser.skip_to_end();
    parser.finish(mark).into_tree()
}

fn top_level(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::Semicolon => {
            parser.leaf(Kind::Pass, Role::Statement);
            Ok(())
        }
        TokenKind::Using if !resource::begins(parser) => import::using(parser),
        TokenKind::Name if import::begins_global(parser) => import::using(parser),
        TokenKind::Extern if import::begins_alias(parser) => import::extern_alias(parser),
        TokenKind::BracketOpen if attribute::is_for_file(parser) => attribute::section(parser),
        _ if declaration::begins_behind_modifiers(parser) => {
            let mark = parser.open();
            attribute::sections(parser)?;
            modifiers::modifiers(parser)?;
            declaration::declaration(parser, mark)
        }
        _ => statement::statement(parser),
    }
}

/// `namespace_member_declaration`, or what is before it.
fn namespace_member(parser: &mut Front) -> Parsed {
    let is_member = matches!(parser.kind(), TokenKind::Semicolon | TokenKind::Using | TokenKind::Extern)
        || import::begins_global(parser)
        || declaration::begins_behind_modifiers(parser);
    if !is_member {
        return parser.stop_expecting("a declaration");
    }
    top_level(parser)
}

/// Parses a statement or a declaration. One with a mistake is left out, up to where the next one begins.
fn recovering(parser: &mut Front, is_top: bool, rule: impl FnOnce(&mut Front) -> Parsed) {
    let (before, mark) = (parser.fault_count(), parser.open());
    let (before_arrow, in_query) = (parser.own.state.before_arrow, parser.own.state.in_query);
    if parser.nested(rule).is_ok() {
        parser.role(Role::Statement);
    } else {
        parser.skip_braced(mark, is_top, |_| false);
        parser.close_as(mark, Kind::Error, Role::Statement);
        parser.keep_first_fault(before, mark);
        (parser.own.state.before_arrow, parser.own.state.in_query) = (before_arrow, in_query);
    }
}

/// Statements or declarations in braces.
fn braced(parser: &mut Front, rule: impl Fn(&mut Front) -> Parsed) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        let open = parser.token_span(parser.position());
        parser.expect(TokenKind::BraceOpen)?;
        in_brackets(parser, |parser| {
            while !matches!(parser.kind(), TokenKind::BraceClose | TokenKind::EndOfFile) {
                recovering(parser, false, &rule);
            }
            Ok(())
        })?;
        if !parser.eat(TokenKind::BraceClose) {
            parser.fault(open, crate::tree::Problem::Unclosed(TokenKind::BraceOpen));
        }
        parser.close_as(mark, Kind::Block, Role::Body);
        Ok(())
    })
}

/// Reads what is in brackets: an arrow in them belongs to no case around, and words to no query.
fn in_brackets(parser: &mut Front, rule: impl FnOnce(&mut Front) -> Parsed) -> Parsed {
    let before_arrow = std::mem::replace(&mut parser.own.state.before_arrow, false);
    let in_query = std::mem::replace(&mut parser.own.state.in_query, false);
    let outcome = rule(parser);
    parser.own.state.before_arrow = before_arrow;
    parser.own.state.in_query = in_query;
    outcome
}

/// Reads what is before the arrow of a case: the arrow begins no lambda expression.
fn before_arrow(parser: &mut Front, rule: impl FnOnce(&mut Front) -> Parsed) -> Parsed {
    let around = std::mem::replace(&mut parser.own.state.before_arrow, true);
    let outcome = rule(parser);
    parser.own.state.before_arrow = around;
    outcome
}

fn name(parser: &mut Front, role: Role) -> Parsed {
    if !parser.at(TokenKind::Name) {
        return parser.stop_expecting("a name");
    }
    parser.leaf(Kind::Name, role);
    Ok(())
}

/// Parts with a comma between them, one at least.
fn separated(parser: &mut Front, part: impl Fn(&mut Front) -> Parsed) -> Parsed {
    loop {
        part(parser)?;
        if !parser.eat(TokenKind::Comma) {
            return Ok(());
        }
    }
}

/// Parts with a comma between them, up to a bracket that closes; a comma may be behind the last.
fn listed(parser: &mut Front, close: TokenKind, part: impl Fn(&mut Front) -> Parsed) -> Parsed {
    in_brackets(parser, |parser| {
        while !parser.at(close) {
            part(parser)?;
            if !parser.eat(TokenKind::Comma) {
                break;
            }
        }
        Ok(())
    })?;
    parser.expect(close)
}

/// Whether this contextual keyword is here.
fn at_word(parser: &Front, word: &str) -> bool {
    parser.at(TokenKind::Name) && parser.text() == word
}

/// The body of a function: a block, an expression behind an arrow, or nothing but a semicolon.
fn function_body(parser: &mut Front) -> Parsed {
    match parser.kind() {
        TokenKind::BraceOpen => statement::block(parser, Role::Body),
        TokenKind::FatArrow => {
            parser.bump();
            expression::expression(parser, Role::Body)?;
            parser.expect(TokenKind::Semicolon)
        }
        _ => parser.expect(TokenKind::Semicolon),
    }
}

/// Finishes a declaration that began at a mark.
fn done(parser: &mut Front, mark: Mark, kind: Kind) -> Parsed {
    parser.close(mark, kind);
    Ok(())
}
