//! "Patterns".

use super::{Front, ahead, modifiers, types, variable_name};
use crate::parse::Parsed;
use crate::tree::{Kind, Role, TokenKind};

/// Whether a pattern begins here, and not a value: a type with a name behind it, or with parts in parentheses.
pub(super) fn begins(parser: &mut Front) -> bool {
    if matches!(parser.kind(), TokenKind::Modifier | TokenKind::At | TokenKind::Underscore) {
        return true;
    }
    let here = parser.current();
    let Some(behind) = ahead::behind_type(parser, here) else { return false };
    matches!(behind.1, TokenKind::Name | TokenKind::Underscore | TokenKind::ParenOpen)
}

/// `Pattern: TypePattern | RecordPattern`
pub(super) fn pattern(parser: &mut Front, role: Role) -> Parsed {
    parser.nested(|parser| {
        let mark = parser.open();
        if parser.at(TokenKind::Underscore) {
            parser.leaf(Kind::WildcardPattern, Role::Pattern);
            return Ok(());
        }
        modifiers::modifiers(parser)?;
        types::type_of(parser, Role::Type)?;
        if !parser.at(TokenKind::ParenOpen) {
            variable_name(parser, Role::Name)?;
            parser.close(mark, Kind::CapturePattern);
            return Ok(());
        }
        parser.role(Role::Callee);
        parser.bump();
        if !parser.at(TokenKind::ParenClose) {
            super::separated(parser, |parser| pattern(parser, Role::Pattern))?;
        }
        parser.expect(TokenKind::ParenClose)?;
        parser.close(mark, Kind::ClassPattern);
        Ok(())
    })?;
    parser.role(role);
    Ok(())
}
