//! Source files ("Source file organization", "Packages"), and going on after a mistake. One function a rule of the grammar.

mod composite;
mod control;
mod declaration;
mod expression;
mod parameters;
mod statement;
mod types;

use crate::parse::{Parsed, Parser};
use crate::tree::{Fault, Kind, Mark, Problem, Role, Token, TokenKind, Tree};
use expression::{Braces, expression};

/// `SourceFile = PackageClause ";" { ImportDecl ";" } { TopLevelDecl ";" }`
pub(super) fn source_file(source: &str, tokens: Vec<Token>, faults: Vec<Fault>) -> Tree {
    let mut parser = Parser::new(source, tokens, faults);
    let mark = parser.open_file();
    item(&mut parser, package_clause);
    while parser.at(TokenKind::Import) {
        item(&mut parser, declaration::import_declaration);
    }
    while !parser.at(TokenKind::EndOfFile) {
        item(&mut parser, declaration::top_level_declaration);
    }
    parser.finish(mark).into_tree()
}

/// An expression, and nothing behind it.
pub(super) fn lone_expression(source: &str, tokens: Vec<Token>, faults: Vec<Fault>) -> Tree {
    let mut parser = Parser::new(source, tokens, faults);
    let mark = parser.open_file();
    let _ = expression(&mut parser, Role::Value, Braces::Literal);
    parser.eat(TokenKind::Newline);
    parser.skip_to_end();
    parser.finish(mark).into_tree()
}

/// `PackageClause = "package" PackageName`
fn package_clause(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.expect(TokenKind::Package)?;
    if parser.text() == "_" {
        return parser.stop(Problem::Rule("a package cannot be called \"_\""));
    }
    name(parser, Role::Name)?;
    parser.close(mark, Kind::PackageClause);
    Ok(())
}

/// What is at the top of a file, with the end of its line.
fn item(parser: &mut Parser, rule: fn(&mut Parser) -> Parsed) {
    let (before, mark) = (parser.fault_count(), parser.open());
    let outcome = parser.nested(rule);
    parser.role_since(mark, Role::Statement);
    if outcome.and_then(|()| end_of_statement(parser)).is_err() {
        leave_out(parser, before, mark, true);
    }
}

/// "Semicolons": one that is written, or is meant where the line ends. Before a bracket that closes none is needed.
fn end_of_statement(parser: &mut Parser) -> Parsed {
    match parser.kind() {
        TokenKind::Newline | TokenKind::Semicolon => parser.bump(),
        TokenKind::ParenClose | TokenKind::BraceClose | TokenKind::EndOfFile => {}
        _ => return parser.stop_expecting("the end of the line"),
    }
    Ok(())
}

/// Whether something parts statements here.
fn at_separator(parser: &Parser) -> bool {
    matches!(parser.kind(), TokenKind::Newline | TokenKind::Semicolon)
}

/// Leaves out a statement with a mistake, which begins at `mark`, when there were `before` faults.
fn leave_out(parser: &mut Parser, before: usize, mark: Mark, is_top: bool) {
    skip_statement(parser, mark, is_top);
    parser.close_as(mark, Kind::Error, Role::Statement);
    parser.keep_first_fault(before, mark);
}

/// Up to the end of the line of a statement, with what is in braces; not into the declaration that begins the next one.
fn skip_statement(parser: &mut Parser, mark: Mark, is_top: bool) {
    let mut open = 0u32;
    loop {
        let is_first = parser.position() == mark.token();
        match parser.kind() {
            TokenKind::EndOfFile => return,
            TokenKind::Newline | TokenKind::Semicolon if open == 0 => return parser.bump(),
            TokenKind::BraceClose if open == 0 && !is_top => return,
            TokenKind::BraceOpen => open += 1,
            TokenKind::BraceClose => open = open.saturating_sub(1),
            TokenKind::Func | TokenKind::TypeWord | TokenKind::Var | TokenKind::Const | TokenKind::Import
                if !is_first && begins_line(parser) =>
            {
                return;
            }
            _ => {}
        }
        parser.bump();
    }
}

/// Whether nothing is before the current token on its line, not even whitespace.
fn begins_line(parser: &Parser) -> bool {
    let start = parser.token_span(parser.position()).start;
    start == 0 || parser.position() > 0 && parser.token_text(parser.position() - 1).ends_with('\n')
}

/// Whether a function begins here that cannot be in another one: a brace before it was not closed.
fn begins_function(parser: &Parser) -> bool {
    parser.at(TokenKind::Func) && begins_line(parser) && parser.following() == TokenKind::Name
}

fn name(parser: &mut Parser, role: Role) -> Parsed {
    if !parser.at(TokenKind::Name) {
        return parser.stop_expecting("a name");
    }
    parser.leaf(Kind::Name, role);
    Ok(())
}

/// `Block = "{" StatementList "}"`
fn block(parser: &mut Parser, role: Role) -> Parsed {
    let mark = parser.open();
    let open = parser.token_span(parser.position());
    parser.expect(TokenKind::BraceOpen)?;
    statement::statement_list(parser);
    if !parser.eat(TokenKind::BraceClose) {
        parser.fault(open, Problem::Unclosed(TokenKind::BraceOpen));
    }
    parser.close_as(mark, Kind::Block, role);
    Ok(())
}
