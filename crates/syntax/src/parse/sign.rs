//! The signs of one character that languages in the tradition of C share.

use crate::tree::TokenKind;

/// The token that a character is where it stands for itself.
pub(crate) fn sign(byte: u8) -> Option<TokenKind> {
    Some(match byte {
        b'(' => TokenKind::ParenOpen,
        b')' => TokenKind::ParenClose,
        b'[' => TokenKind::BracketOpen,
        b']' => TokenKind::BracketClose,
        b'{' => TokenKind::BraceOpen,
        b'}' => TokenKind::BraceClose,
        b',' => TokenKind::Comma,
        b';' => TokenKind::Semicolon,
        b':' => TokenKind::Colon,
        b'.' => TokenKind::Dot,
        b'=' => TokenKind::Assign,
        b'+' => TokenKind::Plus,
        b'-' => TokenKind::Minus,
        b'*' => TokenKind::Star,
        b'/' => TokenKind::Slash,
        b'%' => TokenKind::Percent,
        b'&' => TokenKind::Ampersand,
        b'|' => TokenKind::Bar,
        b'^' => TokenKind::Caret,
        b'<' => TokenKind::Less,
        b'>' => TokenKind::Greater,
        b'!' => TokenKind::Exclamation,
        b'~' => TokenKind::Tilde,
        _ => return None,
    })
}
