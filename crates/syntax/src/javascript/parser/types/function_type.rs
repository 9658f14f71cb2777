//! Types of functions and constructors.

use super::super::{Front, function, pattern};
use super::{allowing_conditions, opt_type_parameters, type_or_predicate};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// Whether the type of a function or constructor begins here.
pub(super) fn begins(parser: &mut Front) -> bool {
    match parser.kind() {
        TokenKind::Less | TokenKind::New => true,
        TokenKind::Name => parser.text() == "abstract" && parser.next_kind() == TokenKind::New,
        TokenKind::ParenOpen => parser.looks_like(begins_parameters),
        _ => false,
    }
}

/// Whether the parenthesis opens parameters: `()`, `(...`, `(x:`, `(x?`, `(x,`, `(x=`, `(x) =>`.
fn begins_parameters(parser: &mut Front) -> bool {
    parser.bump();
    if matches!(parser.kind(), TokenKind::ParenClose | TokenKind::Ellipsis) {
        return true;
    }
    super::super::class::parameter_modifiers(parser);
    match parser.kind() {
        TokenKind::Name | TokenKind::This => parser.bump(),
        TokenKind::BracketOpen | TokenKind::BraceOpen => {
            let before = parser.checkpoint();
            if pattern::binding_pattern(parser).is_err() || parser.faulty_since(&before) {
                return false;
            }
        }
        _ => return false,
    }
    match parser.kind() {
        TokenKind::Colon | TokenKind::Comma | TokenKind::Question | TokenKind::Assign => true,
        TokenKind::ParenClose => parser.next_kind() == TokenKind::FatArrow,
        _ => false,
    }
}

/// `(x: T) => U`, `<T>(x: T) => U`, `new () => T`, `abstract new () => T`
pub(super) fn function_type(parser: &mut Front) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        parser.eat_word("abstract");
        parser.eat(TokenKind::New);
        opt_type_parameters(parser)?;
        function::parameters(parser)?;
        parser.expect(TokenKind::FatArrow)?;
        allowing_conditions(parser, type_or_predicate)?;
        parser.role(Role::Returns);
        parser.close(mark, Kind::FunctionType);
        Ok(())
    })
}
