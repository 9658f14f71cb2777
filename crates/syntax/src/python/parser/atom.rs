//! "Primary elements" of the grammar: calls, members, subscripts, and the atoms they begin with.

use super::expression::{disjunction, expression, loop_targets, star_named_expression, yield_expression};
use super::{arguments, expression, string};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// `primary: primary '.' NAME | primary genexp | primary '(' [arguments] ')' | primary '[' slices ']' | atom`
#[inline]
pub(super) fn primary(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    atom(parser)?;
    loop {
        match parser.kind() {
            TokenKind::Dot => {
                parser.role(Role::Object);
                parser.bump();
                super::target::name(parser, Role::Name)?;
                parser.close(mark, Kind::Member);
            }
            TokenKind::ParenOpen => {
                parser.role(Role::Callee);
                arguments::on_call(parser)?;
                parser.close(mark, Kind::Call);
            }
            TokenKind::BracketOpen => {
                parser.role(Role::Object);
                parser.bump();
                slices(parser)?;
                parser.role(Role::Index);
                parser.expect(TokenKind::BracketClose)?;
                parser.close(mark, Kind::Subscript);
            }
            _ => return Ok(()),
        }
    }
}

/// `slices: slice !',' | ','.(slice | starred_expression)+ [',']`
fn slices(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let starred = parser.at(TokenKind::Star);
    slice(parser)?;
    if !parser.at(TokenKind::Comma) && !starred {
        return Ok(());
    }
    parser.role(Role::Element);
    while parser.eat(TokenKind::Comma) {
        if parser.at(TokenKind::BracketClose) {
            break;
        }
        slice(parser)?;
        parser.role(Role::Element);
    }
    parser.close(mark, Kind::Tuple);
    Ok(())
}

/// `slice: [expression] ':' [expression] [':' [expression]] | named_expression`
fn slice(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    if !parser.at(TokenKind::Colon) {
        star_named_expression(parser)?;
        if !parser.at(TokenKind::Colon) {
            return Ok(());
        }
        let is_plain =
            parser.last_since(mark).is_some_and(|lower| !matches!(lower.kind(), Kind::NamedExpression | Kind::Spread));
        if !is_plain {
            return parser.stop_expecting("']'");
        }
        parser.role(Role::Lower);
    }
    for role in [Role::Upper, Role::Step] {
        if parser.eat(TokenKind::Colon) && expression::begins_expression(parser.kind()) {
            expression(parser)?;
            parser.role(role);
        }
    }
    parser.close(mark, Kind::Slice);
    Ok(())
}

/// `atom: NAME | 'True' | 'False' | 'None' | strings | NUMBER | (tuple | group | genexp) | (list | listcomp) | (dict | set |
/// dictcomp | setcomp) | '...'`
#[inline]
fn atom(parser: &mut Parser) -> Parsed {
    let kind = match parser.kind() {
        TokenKind::Name => Kind::Name,
        TokenKind::Number => Kind::Number,
        TokenKind::String | TokenKind::FormatStart => return string::strings(parser),
        TokenKind::None => Kind::Null,
        TokenKind::True | TokenKind::False => Kind::Boolean,
        TokenKind::Ellipsis => Kind::EllipsisLiteral,
        TokenKind::ParenOpen => return group_or_tuple(parser),
        TokenKind::BracketOpen => return list(parser),
        TokenKind::BraceOpen => return dictionary_or_set(parser),
        _ => return parser.stop_expecting("an expression"),
    };
    parser.leaf(kind, Role::Part);
    Ok(())
}

/// `tuple: '(' [star_named_expression ',' [star_named_expressions]] ')'`, `group: '(' (yield_expr | named_expression) ')'`,
/// `genexp: '(' (assignment_expression | expression !':=') for_if_clauses ')'`
fn group_or_tuple(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.eat(TokenKind::ParenClose) {
        parser.close(mark, Kind::Tuple);
        return Ok(());
    }
    if parser.at(TokenKind::Yield) {
        yield_expression(parser)?;
        parser.role(Role::Value);
        parser.expect(TokenKind::ParenClose)?;
        parser.close(mark, Kind::Group);
        return Ok(());
    }
    let starred = parser.at(TokenKind::Star);
    star_named_expression(parser)?;
    let kind = match parser.kind() {
        TokenKind::For | TokenKind::Async if !starred => {
            parser.role(Role::Element);
            comprehension_clauses(parser)?;
            Kind::Comprehension
        }
        TokenKind::Comma => {
            parser.role(Role::Element);
            rest_of_elements(parser, TokenKind::ParenClose)?;
            Kind::Tuple
        }
        _ if starred => {
            return parser.stop(Problem::Rule("a starred expression in parentheses needs a comma after it"));
        }
        _ => {
            parser.role(Role::Value);
            Kind::Group
        }
    };
    parser.expect(TokenKind::ParenClose)?;
    parser.close(mark, kind);
    Ok(())
}

/// After the first element: the others, and perhaps a last comma.
fn rest_of_elements(parser: &mut Parser, close: TokenKind) -> Parsed {
    while parser.eat(TokenKind::Comma) {
        if parser.at(close) {
            break;
        }
        star_named_expression(parser)?;
        parser.role(Role::Element);
    }
    Ok(())
}

/// `list: '[' [star_named_expressions] ']'`, `listcomp: '[' named_expression for_if_clauses ']'`
fn list(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    let mut kind = Kind::List;
    if !parser.at(TokenKind::BracketClose) {
        let starred = parser.at(TokenKind::Star);
        star_named_expression(parser)?;
        parser.role(Role::Element);
        if !starred && matches!(parser.kind(), TokenKind::For | TokenKind::Async) {
            comprehension_clauses(parser)?;
            kind = Kind::Comprehension;
        } else {
            rest_of_elements(parser, TokenKind::BracketClose)?;
        }
    }
    parser.expect(TokenKind::BracketClose)?;
    parser.close(mark, kind);
    Ok(())
}

/// `dict: '{' [double_starred_kvpairs] '}'`, `set: '{' star_named_expressions '}'` and the comprehensions of both.
fn dictionary_or_set(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.eat(TokenKind::BraceClose) {
        parser.close(mark, Kind::Dictionary);
        return Ok(());
    }
    let kind = if parser.at(TokenKind::StarStar) {
        dictionary_spread(parser)?;
        Kind::Dictionary
    } else {
        first_of_dictionary_or_set(parser)?
    };
    match kind {
        Kind::Dictionary => rest_of_dictionary(parser)?,
        Kind::Set => rest_of_elements(parser, TokenKind::BraceClose)?,
        _ => {}
    }
    parser.expect(TokenKind::BraceClose)?;
    parser.close(mark, kind);
    Ok(())
}

/// Reads the first entry, which tells a dictionary from a set, and a comprehension whole.
fn first_of_dictionary_or_set(parser: &mut Parser) -> Result<Kind, crate::parse::Stop> {
    let first = parser.open();
    let starred = parser.at(TokenKind::Star);
    star_named_expression(parser)?;
    let is_pair = parser.at(TokenKind::Colon);
    if is_pair {
        pair_value(parser, first, starred)?;
    }
    parser.role(Role::Element);
    if !starred && matches!(parser.kind(), TokenKind::For | TokenKind::Async) {
        comprehension_clauses(parser)?;
        return Ok(Kind::Comprehension);
    }
    Ok(if is_pair { Kind::Dictionary } else { Kind::Set })
}

/// From the colon of `kvpair: expression ':' expression`.
fn pair_value(parser: &mut Parser, pair: Mark, starred: bool) -> Parsed {
    let named = parser.last_since(pair).is_some_and(|key| key.kind() == Kind::NamedExpression);
    if starred || named {
        return parser.stop_expecting("'}'");
    }
    parser.role(Role::Key);
    parser.expect(TokenKind::Colon)?;
    expression(parser)?;
    parser.role(Role::Value);
    parser.close(pair, Kind::Pair);
    Ok(())
}

/// `'**' bitwise_or` among the entries of a dictionary.
fn dictionary_spread(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    expression::operand(parser)?;
    parser.role(Role::Value);
    parser.close_as(mark, Kind::Spread, Role::Element);
    Ok(())
}

/// `double_starred_kvpairs`, after its first entry.
fn rest_of_dictionary(parser: &mut Parser) -> Parsed {
    while parser.eat(TokenKind::Comma) && !parser.at(TokenKind::BraceClose) {
        if parser.at(TokenKind::StarStar) {
            dictionary_spread(parser)?;
            continue;
        }
        let pair = parser.open();
        expression(parser)?;
        pair_value(parser, pair, false)?;
        parser.role(Role::Element);
    }
    Ok(())
}

/// `for_if_clauses: (['async'] 'for' star_targets 'in' disjunction ('if' disjunction)*)+`
pub(super) fn comprehension_clauses(parser: &mut Parser) -> Parsed {
    while matches!(parser.kind(), TokenKind::For | TokenKind::Async) {
        let mark = parser.open();
        parser.eat(TokenKind::Async);
        parser.expect(TokenKind::For)?;
        loop_targets(parser)?;
        parser.role(Role::Target);
        parser.expect(TokenKind::In)?;
        disjunction(parser)?;
        parser.role(Role::Iterable);
        while parser.eat(TokenKind::If) {
            disjunction(parser)?;
            parser.role(Role::Condition);
        }
        parser.close_as(mark, Kind::ComprehensionClause, Role::Clause);
    }
    Ok(())
}
