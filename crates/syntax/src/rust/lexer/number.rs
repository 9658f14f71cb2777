//! "Number literals".

use super::Lexer;
use crate::tree::{Token, TokenKind};

impl Lexer<'_> {
    /// At a digit.
    pub(super) fn number(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        // `pair.0.1` reaches into a tuple twice.
        if self.follows_dot(tokens) {
            let end = self.end_of(start, |byte| byte.is_ascii_digit());
            return self.push(tokens, TokenKind::Number, end);
        }
        let base = match (self.byte(start), self.byte(start + 1)) {
            (b'0', b'x') => 16,
            (b'0', b'o') => 8,
            (b'0', b'b') => 2,
            _ => 10,
        };
        let end = if base == 10 { self.decimal(start) } else { self.with_base(start, base) };
        let end = if self.begins_name(end) { self.end_of_name(end) } else { end };
        self.push(tokens, TokenKind::Number, end);
    }

    fn follows_dot(&self, tokens: &[Token]) -> bool {
        tokens.iter().rev().find(|token| !token.kind.is_trivia()).is_some_and(|token| token.kind == TokenKind::Dot)
    }

    /// Digits behind `0x`, `0o` or `0b`.
    fn with_base(&mut self, start: usize, base: u8) -> usize {
        let is_digit = |byte: u8| if base == 16 { byte.is_ascii_hexdigit() } else { byte.is_ascii_digit() };
        let end = self.end_of(start + 2, |byte| is_digit(byte) || byte == b'_');
        let digits = &self.bytes[start + 2..end];
        if !digits.iter().any(|byte| is_digit(*byte)) {
            self.fault(start, end, "this number has no digits");
        } else if base < 10 && digits.iter().any(|byte| byte.is_ascii_digit() && byte - b'0' >= base) {
            self.fault(start, end, "there is no such digit in this number");
        }
        end
    }

    /// Digits, perhaps with a fraction and an exponent.
    fn decimal(&mut self, start: usize) -> usize {
        let is_digit = |byte: u8| byte.is_ascii_digit() || byte == b'_';
        let mut end = self.end_of(start, is_digit);
        if self.byte(end) == b'.' {
            match self.byte(end + 1) {
                byte if byte.is_ascii_digit() => end = self.end_of(end + 1, is_digit),
                b'.' | b'_' => return end,
                _ if self.begins_name(end + 1) => return end,
                _ => return end + 1,
            }
        }
        if self.byte(end) | 0x20 == b'e' {
            let sign = usize::from(matches!(self.byte(end + 1), b'+' | b'-'));
            let first = end + 1 + sign;
            let last = self.end_of(first, is_digit);
            if self.bytes[first.min(last)..last].iter().any(u8::is_ascii_digit) {
                return last;
            }
            // A suffix may begin with the letter.
            if sign > 0 || !self.begins_name(first) {
                self.fault(start, last, "the exponent of this number has no digits");
                return last;
            }
        }
        end
    }
}
