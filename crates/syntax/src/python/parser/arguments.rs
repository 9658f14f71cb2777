//! Arguments of calls and the brackets after a class's name.

use super::atom::comprehension_clauses;
use super::expression::{expression, named_expression, spread};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Problem, Role, TokenKind};

/// `'(' [arguments] ')'` of a call, or `genexp` in its place.
pub(super) fn on_call(parser: &mut Parser) -> Parsed {
    arguments(parser, true)
}

/// `'(' [arguments] ')'` of a class.
pub(super) fn on_bases(parser: &mut Parser) -> Parsed {
    arguments(parser, false)
}

/// What came before among the arguments, for the order they must keep.
#[derive(Default)]
struct Seen {
    count: u32,
    keyword: bool,
    keyword_spread: bool,
    bare_comprehension: bool,
}

fn arguments(parser: &mut Parser, may_be_comprehension: bool) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let mut seen = Seen::default();
    while !parser.at(TokenKind::ParenClose) {
        argument(parser, &mut seen)?;
        parser.role(Role::Argument);
        seen.count += 1;
        let comma = parser.eat(TokenKind::Comma);
        let lone = seen.count == 1 && !comma && may_be_comprehension;
        if seen.bare_comprehension && !lone {
            return parser.stop(Problem::Rule("a generator expression among other arguments needs parentheses"));
        }
        if !comma {
            break;
        }
    }
    parser.expect(TokenKind::ParenClose)?;
    parser.close_as(mark, Kind::Arguments, Role::Arguments);
    Ok(())
}

/// `args`, `kwargs`, `starred_expression` and `kwarg_or_double_starred`: one argument.
fn argument(parser: &mut Parser, seen: &mut Seen) -> Parsed {
    match parser.kind() {
        TokenKind::Star => {
            if seen.keyword_spread {
                return parser.stop(Problem::Rule("'*' arguments must come before '**' arguments"));
            }
            let mark = parser.open();
            spread_expression(parser, mark)
        }
        TokenKind::StarStar => {
            seen.keyword_spread = true;
            let mark = parser.open();
            spread_expression(parser, mark)
        }
        TokenKind::Name if parser.next_kind() == TokenKind::Assign => {
            seen.keyword = true;
            let mark = parser.open();
            parser.leaf(Kind::Name, Role::Name);
            parser.bump();
            expression(parser)?;
            parser.role(Role::Value);
            parser.close(mark, Kind::KeywordArgument);
            Ok(())
        }
        _ => positional(parser, seen),
    }
}

/// `'*' expression`, which unlike elsewhere takes a whole expression.
fn spread_expression(parser: &mut Parser, mark: crate::tree::Mark) -> Parsed {
    parser.bump();
    expression(parser)?;
    parser.role(Role::Value);
    parser.close(mark, Kind::Spread);
    Ok(())
}

fn positional(parser: &mut Parser, seen: &mut Seen) -> Parsed {
    let mark = parser.open();
    named_expression(parser)?;
    match parser.kind() {
        TokenKind::For | TokenKind::Async => {
            parser.role(Role::Element);
            comprehension_clauses(parser)?;
            parser.close(mark, Kind::Comprehension);
            seen.bare_comprehension = true;
        }
        TokenKind::Assign => {
            return parser.stop(Problem::Rule("only a plain name can name an argument; '==' compares"));
        }
        _ => {}
    }
    if seen.keyword || seen.keyword_spread {
        parser.fault_since(mark, Problem::Rule("a positional argument follows one given by name"));
        return Err(crate::parse::Stop);
    }
    Ok(())
}

/// `'*' bitwise_or` where the grammar has it, for annotations of `*args`.
pub(super) fn star_annotation(parser: &mut Parser) -> Parsed {
    if parser.at(TokenKind::Star) { spread(parser) } else { expression(parser) }
}
