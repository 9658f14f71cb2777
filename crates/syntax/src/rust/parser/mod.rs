//! Source files ("Crates and source files"), what is shared by all rules of the grammar, and going on after a mistake.

mod arguments;
mod attribute;
mod bound;
mod closure;
mod control;
mod expression;
mod function;
mod implementation;
mod import;
mod item;
mod literal;
mod macros;
mod operator;
mod path;
mod pattern;
mod postfix;
mod statement;
mod structure;
mod types;

use super::lexer::{Goal, Lexer, Margin};
use crate::parse::{Parsed, Parser, Stop};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind, Tree};

/// The parser of this language.
type Front<'s> = Parser<'s, Lexer<'s>>;

/// `Crate : InnerAttribute* Item*`. Where a brace is not closed, the file is read once more: items that begin their lines end blocks then.
pub(super) fn source_file(source: &str) -> Tree {
    let tree = items_of(source, false);
    let is_unclosed = tree.faults().iter().any(|fault| matches!(fault.problem, Problem::Unclosed(_)));
    if is_unclosed { items_of(source, true) } else { tree }
}

fn items_of(source: &str, items_at_margin: bool) -> Tree {
    let margin = Margin { ends_blocks: items_at_margin };
    let mut parser = Parser::on_demand(source, Lexer::new(source, margin));
    let mark = parser.open_file();
    attribute::inner_attributes(&mut parser, Role::Part);
    while !parser.at(TokenKind::EndOfFile) {
        let (before, mark) = (parser.fault_count(), parser.open());
        let outcome = item::item(&mut parser);
        parser.role_since(mark, Role::Statement);
        if outcome.is_err() {
            leave_out(&mut parser, before, mark, true);
        }
    }
    parser.finish(mark).into_tree()
}

/// An expression, and nothing behind it.
pub(super) fn lone_expression(source: &str) -> Tree {
    let mut parser = Parser::on_demand(source, Lexer::new(source, Margin::default()));
    let mark = parser.open_file();
    let _ = expression::expression(&mut parser, Role::Value);
    parser.skip_to_end();
    parser.finish(mark).into_tree()
}

/// Leaves out a statement or an item with a mistake, which begins at `mark`, when there were `before` faults.
fn leave_out(parser: &mut Front, before: usize, mark: Mark, is_top: bool) {
    // Not into the item that begins the next line.
    parser.skip_braced(mark, is_top, |parser| parser.position() != mark.token() && begins_item_at_margin(parser));
    parser.close_as(mark, Kind::Error, Role::Statement);
    parser.keep_first_fault(before, mark);
}

/// Whether an item begins here with nothing before it on its line, not even whitespace: a brace before it was not closed.
fn begins_item_at_margin(parser: &Front) -> bool {
    matches!(
        parser.kind(),
        TokenKind::Fn
            | TokenKind::Pub
            | TokenKind::Struct
            | TokenKind::Enum
            | TokenKind::Impl
            | TokenKind::Trait
            | TokenKind::Mod
            | TokenKind::Use
            | TokenKind::Pound
    ) && begins_line(parser)
}

/// Whether the block that is open was not closed: an item begins its line here.
fn leaves_block(parser: &Front) -> bool {
    parser.own.state.ends_blocks && begins_item_at_margin(parser)
}

fn begins_line(parser: &Front) -> bool {
    let start = parser.token_span(parser.position()).start;
    start == 0 || parser.position() > 0 && parser.token_text(parser.position() - 1).ends_with('\n')
}

fn name(parser: &mut Front, role: Role) -> Parsed {
    if !parser.at(TokenKind::Name) {
        return parser.stop_expecting("a name");
    }
    parser.leaf(Kind::Name, role);
    Ok(())
}

/// A name, or `_` where nothing is to have one.
fn name_or_underscore(parser: &mut Front, role: Role) -> Parsed {
    if parser.at(TokenKind::Underscore) {
        parser.leaf(Kind::WildcardPattern, role);
        return Ok(());
    }
    name(parser, role)
}

/// Cuts the first character off a sign of two that are meant alone here, such as `&&` before a type.
fn split(parser: &mut Front, whole: TokenKind) {
    if parser.at(whole) {
        parser.read_again(Goal::Single);
    }
}

/// Parts with a comma between them, up to a sign that closes; one may be behind the last. Gives whether one is.
fn separated(parser: &mut Front, close: TokenKind, mut part: impl FnMut(&mut Front) -> Parsed) -> Result<bool, Stop> {
    let mut ends_with_comma = false;
    while !parser.at(close) {
        part(parser)?;
        ends_with_comma = parser.eat(TokenKind::Comma);
        if !ends_with_comma {
            break;
        }
    }
    parser.expect(close)?;
    Ok(ends_with_comma)
}
