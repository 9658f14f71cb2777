//! Tags, after the JSX specification of 2022.

use std::ops::Range;

use super::super::lexer::Goal;
use super::{Front, expression, name, types};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Problem, Role, TokenId, TokenKind};

/// `JSXElement`, `JSXFragment`. After the last `>` the text goes on as usual.
pub(super) fn element(parser: &mut Front) -> Parsed {
    parser.nested(|parser| element_before(parser, Goal::Usual))
}

/// An element, after which tokens of this goal follow.
fn element_before(parser: &mut Front, goal: Goal) -> Parsed {
    let mark = parser.open();
    let tag = parser.open();
    parser.bump_for(Goal::MarkupName);
    let start_name = parser.position();
    let named = !parser.at(TokenKind::Greater);
    let mut own_name = String::new();
    if named {
        element_name(parser)?;
        own_name = name_of(parser, start_name..parser.position());
        if parser.has_types() && parser.at(TokenKind::Less) {
            types::arguments::type_arguments(parser)?;
        }
        attributes(parser)?;
    }
    if parser.at(TokenKind::Slash) && named {
        parser.bump();
        close_tag(parser, goal)?;
        parser.close_as(tag, Kind::StartTag, Role::Start);
        parser.close(mark, Kind::Element);
        return Ok(());
    }
    close_tag(parser, Goal::MarkupText)?;
    parser.close_as(tag, Kind::StartTag, Role::Start);
    children(parser)?;
    end_tag(parser, &own_name, goal)?;
    parser.close(mark, Kind::Element);
    Ok(())
}

/// The `>` of a tag.
fn close_tag(parser: &mut Front, goal: Goal) -> Parsed {
    if !parser.at(TokenKind::Greater) {
        return parser.stop_expecting("an attribute or the end of the tag");
    }
    parser.bump_for(goal);
    Ok(())
}

/// The name of an element, whose tokens these are, without whitespace.
fn name_of(parser: &Front, tokens: Range<TokenId>) -> String {
    tokens.filter(|token| !parser.kind_of(*token).is_trivia()).map(|token| parser.token_text(token)).collect()
}

/// `JSXElementName`: one of the platform if it is a lower-case word or has a namespace or hyphen, else a value's.
fn element_name(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    if !name::is_word(parser.kind()) {
        return parser.stop_expecting("the name of an element");
    }
    let text = parser.text();
    let platform = text.contains('-') || text.starts_with(|first: char| first.is_ascii_lowercase());
    let this = parser.at(TokenKind::This);
    parser.bump_for(Goal::MarkupName);
    if parser.at(TokenKind::Colon) {
        parser.bump_for(Goal::MarkupName);
        if !name::is_word(parser.kind()) {
            return parser.stop_expecting("a name");
        }
        parser.bump();
        parser.close_as(mark, Kind::TagName, Role::Name);
        return Ok(());
    }
    let member = parser.at(TokenKind::Dot);
    let kind = match (this, member) {
        (true, _) => Kind::This,
        (false, false) if platform => Kind::TagName,
        _ => Kind::Name,
    };
    parser.close_as(mark, kind, Role::Name);
    while parser.at(TokenKind::Dot) {
        parser.role(Role::Object);
        parser.bump_for(Goal::MarkupName);
        name::any_word(parser, Kind::Name, Role::Name)?;
        parser.close_as(mark, Kind::Member, Role::Name);
    }
    Ok(())
}

/// `JSXAttributes`
fn attributes(parser: &mut Front) -> Parsed {
    loop {
        match parser.kind() {
            TokenKind::BraceOpen => spread_attribute(parser)?,
            kind if name::is_word(kind) => attribute(parser)?,
            _ => return Ok(()),
        }
    }
}

/// `{...value}`
fn spread_attribute(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    parser.bump();
    parser.expect(TokenKind::Ellipsis)?;
    within_braces(parser)?;
    parser.role(Role::Value);
    parser.expect(TokenKind::BraceClose)?;
    parser.close_as(mark, Kind::Spread, Role::Attribute);
    Ok(())
}

fn within_braces(parser: &mut Front) -> Parsed {
    parser.within_brackets(expression::expression)
}

/// `JSXAttribute : JSXAttributeName JSXAttributeInitializer?`
fn attribute(parser: &mut Front) -> Parsed {
    let mark = parser.open();
    let attribute_name = parser.open();
    parser.read_again(Goal::MarkupName);
    parser.bump();
    if parser.at(TokenKind::Colon) {
        parser.bump_for(Goal::MarkupName);
        if !name::is_word(parser.kind()) {
            return parser.stop_expecting("a name");
        }
        parser.bump();
    }
    parser.close_as(attribute_name, Kind::TagName, Role::Name);
    if parser.at(TokenKind::Assign) {
        parser.bump_for(Goal::MarkupValue);
        match parser.kind() {
            TokenKind::String => parser.leaf(Kind::String, Role::Value),
            TokenKind::BraceOpen => {
                let open = parser.token_span(parser.position());
                if parser.next_kind() == TokenKind::BraceClose {
                    parser.early_fault(open, Problem::Rule("the value of an attribute cannot be empty"));
                }
                interpolation(parser, Goal::Usual, false)?;
                parser.role(Role::Value);
            }
            TokenKind::Less => {
                element(parser)?;
                parser.role(Role::Value);
            }
            _ => return parser.stop_expecting("a string or a value in braces"),
        }
    }
    parser.close_as(mark, Kind::Attribute, Role::Attribute);
    Ok(())
}

/// `JSXChildren`, up to the tag that ends the element.
fn children(parser: &mut Front) -> Parsed {
    loop {
        match parser.kind() {
            TokenKind::MarkupText => {
                let mark = parser.open();
                parser.bump_for(Goal::MarkupText);
                parser.close_as(mark, Kind::MarkupText, Role::Child);
            }
            TokenKind::BraceOpen => {
                interpolation(parser, Goal::MarkupText, true)?;
                parser.role(Role::Child);
            }
            TokenKind::Less if parser.next_kind() == TokenKind::Slash => return Ok(()),
            TokenKind::Less => {
                parser.nested(|parser| element_before(parser, Goal::MarkupText))?;
                parser.role(Role::Child);
            }
            _ => return parser.stop_expecting("the end of the element"),
        }
    }
}

/// `{ … }` with an expression, between tags also with values spread out, or with nothing but comments.
fn interpolation(parser: &mut Front, goal: Goal, may_spread: bool) -> Parsed {
    let mark = parser.open();
    parser.bump_for(Goal::Usual);
    if !parser.at(TokenKind::BraceClose) {
        let spread = parser.open();
        if may_spread && parser.eat(TokenKind::Ellipsis) {
            within_braces(parser)?;
            parser.role(Role::Value);
            parser.close(spread, Kind::Spread);
        } else {
            within_braces(parser)?;
        }
        parser.role(Role::Value);
    }
    if !parser.at(TokenKind::BraceClose) {
        return parser.stop_expecting("'}'");
    }
    parser.bump_for(goal);
    parser.close(mark, Kind::Interpolation);
    Ok(())
}

/// `JSXClosingElement`, with the name of the tag that began the element.
fn end_tag(parser: &mut Front, start_name: &str, goal: Goal) -> Parsed {
    let mark = parser.open();
    parser.bump_for(Goal::Usual);
    parser.bump_for(Goal::MarkupName);
    let first = parser.position();
    if !parser.at(TokenKind::Greater) {
        element_name(parser)?;
    }
    let end_name = name_of(parser, first..parser.position());
    if end_name != start_name {
        parser.fault_since(mark, Problem::Rule("this tag ends another element than the one that is open"));
        return Err(Stop);
    }
    close_tag(parser, goal)?;
    parser.close_as(mark, Kind::EndTag, Role::End);
    Ok(())
}
