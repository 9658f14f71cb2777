//! "Literal expressions".

use super::Front;
use crate::tree::{Kind, Role, TokenKind};

/// Whether a token is a literal.
pub(super) fn is_literal(kind: TokenKind) -> bool {
    matches!(
        kind,
        TokenKind::Number | TokenKind::String | TokenKind::Character | TokenKind::TrueWord | TokenKind::FalseWord
    )
}

/// At a literal.
pub(super) fn literal(parser: &mut Front, role: Role) {
    let is_bytes = || parser.text().starts_with('b');
    let kind = match parser.kind() {
        TokenKind::Number => Kind::Number,
        TokenKind::String | TokenKind::Character if is_bytes() => Kind::Bytes,
        TokenKind::String => Kind::String,
        TokenKind::Character => Kind::Character,
        _ => Kind::Boolean,
    };
    parser.leaf(kind, role);
}
