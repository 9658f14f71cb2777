//! Selectors ("Grammar", Selectors 4, 18).

use super::value::{self, is_function};
use crate::parse::{Parsed, Parser};
use crate::tree::{Kind, Problem, Role, TokenKind};

/// Where a list of selectors ends: at the block behind it, or at the bracket around it.
type Ends = fn(TokenKind) -> bool;

/// `<complex-selector-list>`, of which each may begin with a combinator.
pub(super) fn selector_list(parser: &mut Parser, role: Role, ends: Ends) -> Parsed {
    let mark = parser.open();
    loop {
        selector(parser, ends)?;
        if !parser.eat(TokenKind::Comma) {
            break;
        }
    }
    parser.close_as(mark, Kind::SelectorList, role);
    Ok(())
}

/// `<complex-real-selector>`: simple selectors side by side, and between some of them combinators.
fn selector(parser: &mut Parser, ends: Ends) -> Parsed {
    let mark = parser.open();
    let mut needs_simple = true;
    loop {
        match parser.kind() {
            kind if kind == TokenKind::Comma || ends(kind) => break,
            TokenKind::EndOfFile => break,
            TokenKind::Greater | TokenKind::Plus | TokenKind::Tilde | TokenKind::Slash => {
                combinator(parser)?;
                needs_simple = true;
                continue;
            }
            TokenKind::Bar if is_twice(parser, TokenKind::Bar) => {
                parser.bump();
                parser.bump();
                needs_simple = true;
                continue;
            }
            _ => {}
        }
        simple_selector(parser)?;
        needs_simple = false;
    }
    if needs_simple {
        return parser.stop_expecting("a selector");
    }
    parser.close_as(mark, Kind::Selector, Role::Element);
    Ok(())
}

fn is_twice(parser: &Parser, kind: TokenKind) -> bool {
    parser.kind_or_end(parser.position() + 1) == kind
}

/// `>`, `+`, `~`, and the ones for what is inside of components, which are no longer in the standard: `>>>`, `/deep/`.
fn combinator(parser: &mut Parser) -> Parsed {
    if parser.at(TokenKind::Slash) {
        if is_twice(parser, TokenKind::Slash) {
            return parser.stop(value::LINE_COMMENT);
        }
        parser.bump();
        parser.expect(TokenKind::Name)?;
        return parser.expect(TokenKind::Slash);
    }
    let kind = parser.kind();
    parser.bump();
    if kind == TokenKind::Greater {
        while parser.at(TokenKind::Greater) && parser.is_adjacent() {
            parser.bump();
        }
    }
    match parser.kind() {
        TokenKind::Greater | TokenKind::Plus | TokenKind::Tilde => parser.stop_expecting("a selector"),
        _ => Ok(()),
    }
}

/// `<simple-selector>`
#[inline]
fn simple_selector(parser: &mut Parser) -> Parsed {
    match parser.kind() {
        TokenKind::Name | TokenKind::Star | TokenKind::Bar => type_selector(parser),
        TokenKind::Dot => {
            let mark = parser.open();
            parser.bump();
            adjacent_name(parser, "the name of a class")?;
            parser.close_as(mark, Kind::ClassSelector, Role::Part);
            Ok(())
        }
        TokenKind::Hash => {
            parser.leaf(Kind::IdSelector, Role::Part);
            Ok(())
        }
        TokenKind::BracketOpen => attribute_selector(parser),
        TokenKind::Colon => pseudo_selector(parser),
        TokenKind::Ampersand => {
            parser.leaf(Kind::NestingSelector, Role::Part);
            Ok(())
        }
        // "from", "to" and percentages are the selectors of keyframes.
        TokenKind::Percentage => {
            parser.leaf(Kind::Percentage, Role::Part);
            Ok(())
        }
        _ => parser.stop_expecting("a selector"),
    }
}

/// Takes a name that directly follows what is before it.
fn adjacent_name(parser: &mut Parser, what: &'static str) -> Parsed {
    if parser.at(TokenKind::Name) && parser.is_adjacent() {
        parser.bump();
        return Ok(());
    }
    parser.stop_expecting(what)
}

/// `<wq-name>` or `*`, perhaps in a namespace.
fn type_selector(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    if !parser.at(TokenKind::Bar) {
        parser.bump();
    }
    let is_prefix = parser.at(TokenKind::Bar)
        && matches!(parser.kind_or_end(parser.position() + 1), TokenKind::Name | TokenKind::Star);
    if is_prefix {
        parser.bump();
        parser.bump();
    } else if parser.at(TokenKind::Bar) && mark.token() == parser.position() {
        return parser.stop_expecting("a selector");
    }
    parser.close_as(mark, Kind::TypeSelector, Role::Part);
    Ok(())
}

/// `[name]`, or `[name operator value]` with a flag for letter case.
fn attribute_selector(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    let open = parser.token_span(parser.position());
    parser.bump();
    let name = parser.open();
    if parser.eat(TokenKind::Star) || parser.at(TokenKind::Bar) {
        parser.expect(TokenKind::Bar)?;
    }
    parser.expect(TokenKind::Name)?;
    if parser.at(TokenKind::Bar) && parser.kind_or_end(parser.position() + 1) == TokenKind::Name {
        parser.bump();
        parser.bump();
    }
    parser.close_as(name, Kind::Name, Role::Name);
    let has_value = operator(parser)?;
    if has_value {
        match parser.kind() {
            TokenKind::Name => parser.leaf(Kind::Name, Role::Value),
            TokenKind::String => parser.leaf(Kind::String, Role::Value),
            _ => return parser.stop_expecting("a name or a string"),
        }
        parser.eat(TokenKind::Name);
    }
    if !parser.eat(TokenKind::BracketClose) {
        if matches!(parser.kind(), TokenKind::BraceOpen | TokenKind::EndOfFile) {
            parser.fault(open, Problem::Unclosed(TokenKind::BracketOpen));
            return Err(crate::parse::Stop);
        }
        return parser.expect(TokenKind::BracketClose);
    }
    parser.close_as(mark, Kind::AttributeSelector, Role::Part);
    Ok(())
}

/// `<attr-matcher> = [ '~' | '|' | '^' | '$' | '*' ]? '='`; whether one is there.
fn operator(parser: &mut Parser) -> Result<bool, crate::parse::Stop> {
    let is_mark = matches!(parser.kind(), TokenKind::Tilde | TokenKind::Bar | TokenKind::Caret | TokenKind::Star)
        || parser.at(TokenKind::Unknown) && parser.text() == "$";
    if is_mark {
        parser.bump();
        if !parser.is_adjacent() {
            parser.stop_expecting("'='")?;
        }
        return parser.expect(TokenKind::Assign).map(|()| true);
    }
    Ok(parser.eat(TokenKind::Assign))
}

/// `:name`, `::name`, either perhaps with arguments.
fn pseudo_selector(parser: &mut Parser) -> Parsed {
    let mark = parser.open();
    parser.bump();
    if parser.at(TokenKind::Colon) && parser.is_adjacent() {
        parser.bump();
    }
    if !(parser.at(TokenKind::Name) && parser.is_adjacent()) {
        return parser.stop_expecting("the name of a pseudo-class");
    }
    let has_arguments = is_function(parser);
    let takes_selectors = has_arguments && TAKE_SELECTORS.iter().any(|name| name.eq_ignore_ascii_case(parser.text()));
    parser.leaf(Kind::Name, Role::Name);
    if takes_selectors {
        parser.nested(selectors_in_brackets)?;
    } else if has_arguments {
        value::bracketed(parser, Role::Arguments, TokenKind::ParenClose, Kind::Arguments, Role::Argument);
    }
    parser.close_as(mark, Kind::PseudoSelector, Role::Part);
    Ok(())
}

/// Pseudo-classes and pseudo-elements whose arguments are selectors (Selectors 4; CSS Shadow Module 1), with their older names.
const TAKE_SELECTORS: &[&str] = &[
    "is",
    "not",
    "where",
    "has",
    "matches",
    "any",
    "-webkit-any",
    "-moz-any",
    "host",
    "host-context",
    "slotted",
    "cue",
    "global",
    "local",
    "deep",
    "v-deep",
];

/// `( <selector-list> )`; a list may be empty, which matches nothing.
fn selectors_in_brackets(parser: &mut Parser) -> Parsed {
    let open = parser.token_span(parser.position());
    let mark = parser.open();
    parser.bump();
    if !parser.at(TokenKind::ParenClose) {
        selector_list(parser, Role::Argument, |kind| matches!(kind, TokenKind::ParenClose | TokenKind::BraceOpen))?;
    }
    if !parser.eat(TokenKind::ParenClose) {
        parser.fault(open, Problem::Unclosed(TokenKind::ParenOpen));
        return Err(crate::parse::Stop);
    }
    parser.close_as(mark, Kind::Arguments, Role::Arguments);
    Ok(())
}
