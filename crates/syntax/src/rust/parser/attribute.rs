//! "Attributes".

use super::{Front, macros, path};
use crate::parse::Parsed;
use crate::tree::{Kind, Mark, Role, TokenKind};

/// `InnerAttribute : # ! [ Attr ]`, as many as there are.
pub(super) fn inner_attributes(parser: &mut Front, role: Role) {
    while parser.at(TokenKind::Pound) && parser.next_kind() == TokenKind::Exclamation {
        let (before, mark) = (parser.fault_count(), parser.open());
        parser.bump();
        if attribute(parser, mark).is_err() {
            super::leave_out(parser, before, mark, true);
        }
        parser.role(role);
    }
}

/// `OuterAttribute : # [ Attr ]`, as many as there are.
pub(super) fn outer_attributes(parser: &mut Front) -> Parsed {
    while parser.at(TokenKind::Pound) {
        let mark = parser.open();
        attribute(parser, mark)?;
        parser.role(Role::Decorator);
    }
    Ok(())
}

/// `[ Attr ]`, `Attr : SimplePath AttrInput? | unsafe ( SimplePath AttrInput? )`, behind a sign that begins at `mark`.
fn attribute(parser: &mut Front, mark: Mark) -> Parsed {
    parser.bump();
    parser.expect(TokenKind::BracketOpen)?;
    if parser.eat(TokenKind::Unsafe) {
        parser.expect(TokenKind::ParenOpen)?;
        content(parser)?;
        parser.expect(TokenKind::ParenClose)?;
    } else {
        content(parser)?;
    }
    parser.expect(TokenKind::BracketClose)?;
    parser.close(mark, Kind::Decorator);
    Ok(())
}

/// `AttrInput : DelimTokenTree | = Expression`, behind its path.
fn content(parser: &mut Front) -> Parsed {
    path::simple_path(parser)?;
    parser.role(Role::Value);
    match parser.kind() {
        TokenKind::ParenOpen | TokenKind::BracketOpen | TokenKind::BraceOpen => {
            macros::token_tree(parser)?;
            parser.role(Role::Arguments);
        }
        TokenKind::Assign => {
            parser.bump();
            if parser.at(TokenKind::Pound) {
                return parser.stop_expecting("a value");
            }
            super::expression::expression(parser, Role::Argument)?;
        }
        _ => {}
    }
    Ok(())
}
