//! Compilation units ("Packages and Modules"), what is shared by all rules of the grammar, and going on after a mistake.

mod ahead;
mod creation;
mod declaration;
mod expression;
mod jump;
mod lambda;
mod member;
mod modifiers;
mod module;
mod operator;
mod pattern;
mod primary;
mod statement;
mod switch;
mod types;
mod variable;

use super::lexer::{Around, Lexer};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Role, TokenKind, Tree};

/// The parser of this language.
type Front<'s> = Parser<'s, Lexer<'s>>;

/// `CompilationUnit: [PackageDeclaration] {ImportDeclaration} {TopLevelClassOrInterfaceDeclaration} | {ImportDeclaration} ModuleDeclaration`
pub(super) fn compilation_unit(source: &str) -> Tree {
    let mut parser = Parser::on_demand(source, Lexer::new(source, Around::default()));
    let mark = parser.open_file();
    while !parser.at(TokenKind::EndOfFile) {
        let (before, mark) = (parser.fault_count(), parser.open());
        let outcome = parser.nested(top_level);
        parser.role_since(mark, Role::Statement);
        if outcome.is_err() {
            leave_out(&mut parser, before, mark, true);
        }
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
    let mark = parser.open();
    match parser.kind() {
        TokenKind::Semicolon => {
            parser.leaf(Kind::Pass, Role::Statement);
            return Ok(());
        }
        TokenKind::Import => return module::import(parser, mark),
        _ => {}
    }
    modifiers::modifiers(parser)?;
    if parser.at(TokenKind::Package) {
        return module::package(parser, mark);
    }
    if module::begins(parser) {
        return module::declaration(parser, mark);
    }
    if !declaration::begins(parser) {
        return parser.stop_expecting("a class or an interface");
    }
    declaration::declaration(parser, mark)
}

/// Leaves out a statement or a declaration with a mistake, which begins at `mark`, when there were `before` faults.
fn leave_out(parser: &mut Front, before: usize, mark: Mark, is_top: bool) {
    parser.skip_braced(mark, is_top, |_| false);
    parser.close_as(mark, Kind::Error, Role::Statement);
    parser.keep_first_fault(before, mark);
}

/// Reads what is in brackets: an arrow in them belongs to no case around.
fn in_brackets(parser: &mut Front, rule: impl FnOnce(&mut Front) -> Parsed) -> Parsed {
    let around = std::mem::replace(&mut parser.own.state.before_arrow, false);
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

/// The name of a variable, or `_` where it is to have none.
fn variable_name(parser: &mut Front, role: Role) -> Parsed {
    if parser.at(TokenKind::Underscore) {
        parser.leaf(Kind::WildcardPattern, role);
        return Ok(());
    }
    name(parser, role)
}

/// Names with dots between them.
fn qualified_name(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    name(parser, Role::Name)?;
    while parser.at(TokenKind::Dot) && parser.next_kind() == TokenKind::Name {
        parser.role(Role::Object);
        parser.bump();
        name(parser, Role::Name)?;
        parser.close(mark, Kind::Member);
    }
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

/// Whether a word that is reserved only in places stands here.
fn at_word(parser: &Front, word: &str) -> bool {
    parser.at(TokenKind::Name) && parser.text() == word
}

/// `[` and `]` behind a type or a name, as often as they are there. Gives whether there were any.
fn dimensions(parser: &mut Front) -> bool {
    let mut has_any = false;
    while parser.at(TokenKind::BracketOpen) && parser.next_kind() == TokenKind::BracketClose {
        parser.bump();
        parser.bump();
        has_any = true;
    }
    has_any
}
