//! "Local variable declarations".

use super::{Front, creation, expression, listed, name, separated, types};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// Variables with their type; the declaration begins at `mark`, and ends here.
pub(super) fn declaration(parser: &mut Front, mark: Mark) -> Parsed {
    typed(parser)?;
    super::done(parser, mark, Kind::Declaration)
}

/// The same with the semicolon behind it, as a statement.
pub(super) fn statement(parser: &mut Front, mark: Mark) -> Parsed {
    typed(parser)?;
    parser.expect(TokenKind::Semicolon)?;
    super::done(parser, mark, Kind::Declaration)
}

/// Variables with their type: `int low = 1, high`.
fn typed(parser: &mut Front) -> Parsed {
    if parser.at(TokenKind::Name) && parser.text() == "scoped" && scopes(parser) {
        parser.bump();
    }
    types::reference_words(parser);
    types::type_of(parser, Role::Type)?;
    declarators(parser, false)
}

/// Whether the word `scoped` here is said of a type behind it.
pub(super) fn scopes(parser: &mut Front) -> bool {
    let next = parser.next_token();
    next.1 == TokenKind::Ref
        || super::ahead::behind_type(parser, next).is_some_and(|behind| behind.1 == TokenKind::Name)
}

/// `variable_declarators`, or those of buffers with their sizes.
pub(super) fn declarators(parser: &mut Front, are_buffers: bool) -> Parsed {
    separated(parser, |parser| {
        let mark = parser.open();
        name(parser, Role::Target)?;
        if are_buffers {
            size(parser)?;
        }
        let has_value = parser.eat(TokenKind::Assign);
        if has_value {
            creation::value_or_array(parser, Role::Value)?;
        }
        if are_buffers || has_value {
            parser.close(mark, Kind::Assignment);
        }
        parser.role(Role::Item);
        Ok(())
    })
}

/// The size of a buffer that is a part of its type: `fixed int depths[8]`.
fn size(parser: &mut Front) -> Parsed {
    parser.expect(TokenKind::BracketOpen)?;
    listed(parser, TokenKind::BracketClose, |parser| expression::expression(parser, Role::Index))
}
