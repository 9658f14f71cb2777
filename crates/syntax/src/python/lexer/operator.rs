//! Operators and delimiters, the longest first.

use super::Lexer;
use crate::tree::{Problem, TokenKind};

impl Lexer<'_> {
    pub(super) fn operator(&mut self, first: u8) {
        use TokenKind::*;
        let second = self.byte(self.position + 1);
        let third = self.byte(self.position + 2);
        let (kind, length) = match (first, second, third) {
            (b',', _, _) => (Comma, 1),
            (b';', _, _) => (Semicolon, 1),
            (b':', b'=', _) if !self.colon_starts_format() => (ColonAssign, 2),
            (b':', _, _) if self.colon_starts_format() => return self.start_format_spec(),
            (b':', _, _) => (Colon, 1),
            (b'.', b'0'..=b'9', _) => return self.number(),
            (b'.', b'.', b'.') => (Ellipsis, 3),
            (b'.', _, _) => (Dot, 1),
            (b'=', b'=', _) => (Equal, 2),
            (b'=', _, _) => (Assign, 1),
            (b'!', b'=', _) => (NotEqual, 2),
            (b'!', _, _) => return self.exclamation(),
            (b'-', b'>', _) => (Arrow, 2),
            (b'*', b'*', b'=') => (StarStarAssign, 3),
            (b'*', b'*', _) => (StarStar, 2),
            (b'*', b'=', _) => (StarAssign, 2),
            (b'*', _, _) => (Star, 1),
            (b'/', b'/', b'=') => (SlashSlashAssign, 3),
            (b'/', b'/', _) => (SlashSlash, 2),
            (b'/', b'=', _) => (SlashAssign, 2),
            (b'/', _, _) => (Slash, 1),
            (b'<', b'<', b'=') => (ShiftLeftAssign, 3),
            (b'<', b'<', _) => (ShiftLeft, 2),
            (b'<', b'=', _) => (LessEqual, 2),
            (b'<', _, _) => (Less, 1),
            (b'>', b'>', b'=') => (ShiftRightAssign, 3),
            (b'>', b'>', _) => (ShiftRight, 2),
            (b'>', b'=', _) => (GreaterEqual, 2),
            (b'>', _, _) => (Greater, 1),
            (b'+', b'=', _) => (PlusAssign, 2),
            (b'+', _, _) => (Plus, 1),
            (b'-', b'=', _) => (MinusAssign, 2),
            (b'-', _, _) => (Minus, 1),
            (b'%', b'=', _) => (PercentAssign, 2),
            (b'%', _, _) => (Percent, 1),
            (b'@', b'=', _) => (AtAssign, 2),
            (b'@', _, _) => (At, 1),
            (b'&', b'=', _) => (AmpersandAssign, 2),
            (b'&', _, _) => (Ampersand, 1),
            (b'|', b'=', _) => (BarAssign, 2),
            (b'|', _, _) => (Bar, 1),
            (b'^', b'=', _) => (CaretAssign, 2),
            (b'^', _, _) => (Caret, 1),
            _ => (Tilde, 1),
        };
        self.push_solid(kind, self.position + length);
    }

    /// `!` is only before the conversion of an interpolation.
    fn exclamation(&mut self) {
        let at = self.position;
        if !self.brackets.last().is_some_and(|open| open.interpolation) {
            self.fault(at, at + 1, Problem::Rule("'!' has a meaning only in '!=' and within format strings"));
        }
        self.push_solid(TokenKind::Exclamation, at + 1);
    }
}
