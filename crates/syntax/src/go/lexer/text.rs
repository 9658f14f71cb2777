//! "Rune literals", "String literals".

use memchr::memchr;

use super::Lexer;
use crate::tree::TokenKind;

impl Lexer<'_> {
    /// `"…"`, which ends with its line at the latest.
    pub(super) fn interpreted_string(&mut self) {
        let start = self.cut.at;
        let mut at = start + 1;
        loop {
            match self.cut.bytes.get(at) {
                Some(b'"') => return self.push(TokenKind::String, at + 1),
                Some(b'\\') => at = self.escape(at, b'"'),
                Some(b'\n') | None => break,
                Some(_) => at += 1,
            }
        }
        self.cut.fault(start, start + 1, "the string is never closed");
        self.push(TokenKind::String, at);
    }

    /// `` `…` ``, over as many lines as it takes.
    pub(super) fn raw_string(&mut self) {
        let start = self.cut.at;
        let rest = &self.cut.bytes[start + 1..];
        let closed = memchr(b'`', rest);
        if closed.is_none() {
            self.cut.fault(start, start + 1, "the string is never closed");
        }
        self.push(TokenKind::String, start + 1 + closed.map_or(rest.len(), |at| at + 1));
    }

    /// `'a'`: one character.
    pub(super) fn rune(&mut self) {
        let start = self.cut.at;
        let (mut at, mut count) = (start + 1, 0);
        loop {
            match self.cut.bytes.get(at) {
                Some(b'\'') => break,
                Some(b'\\') => at = self.escape(at, b'\''),
                Some(b'\n') | None => {
                    self.cut.fault(start, start + 1, "the quote is never closed");
                    return self.push(TokenKind::Character, at);
                }
                Some(_) => at += self.cut.source[at..].chars().next().map_or(1, char::len_utf8),
            }
            count += 1;
        }
        if count != 1 {
            self.cut.fault(start, at + 1, "single quotes hold one character");
        }
        self.push(TokenKind::Character, at + 1);
    }

    /// The place behind an escape; notes one that there is not.
    fn escape(&mut self, at: usize, quote: u8) -> usize {
        let letter = self.cut.bytes.get(at + 1).copied().unwrap_or(b'\n');
        let (digits, base) = match letter {
            b'a' | b'b' | b'f' | b'n' | b'r' | b't' | b'v' | b'\\' => return at + 2,
            _ if letter == quote => return at + 2,
            b'0'..=b'7' => (3, 8),
            b'x' => (2, 16),
            b'u' => (4, 16),
            b'U' => (8, 16),
            b'\n' => {
                self.cut.fault(at, at + 1, "there is no such escape");
                return at + 1;
            }
            _ => return self.cut.no_escape(at),
        };
        let first = if base == 8 { at + 1 } else { at + 2 };
        let text = self.cut.source.get(first..first + digits).filter(|text| !text.starts_with('+'));
        let value = text.and_then(|text| u32::from_str_radix(text, base).ok());
        let is_one = match (letter, value) {
            (_, None) => false,
            (b'u' | b'U', Some(value)) => char::from_u32(value).is_some(),
            (_, Some(value)) => value < 256,
        };
        if value.is_none() {
            return self.cut.no_escape(at);
        }
        if !is_one {
            self.cut.fault(at, first + digits, "this escape is no character");
        }
        first + digits
    }
}
