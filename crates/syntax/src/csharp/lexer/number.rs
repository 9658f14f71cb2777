//! "Integer literals", "Real literals".

use super::Around;
use crate::parse::Scan;
use crate::tree::{Token, TokenKind};

impl Scan<'_, Around> {
    /// At a digit, or at a dot before one.
    pub(super) fn number(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let end = match (self.byte(start), self.byte(start + 1) | 0x20) {
            (b'0', b'x') => self.with_base(start, |byte| byte.is_ascii_hexdigit()),
            (b'0', b'b') => self.with_base(start, |byte| matches!(byte, b'0' | b'1')),
            _ => self.decimal(start),
        };
        if self.bytes[end - 1] == b'_' {
            self.fault(start, end, "an underscore must stand between two digits");
        }
        self.push(tokens, TokenKind::Number, end);
    }

    fn with_base(&mut self, start: usize, is_digit: impl Fn(u8) -> bool) -> usize {
        let end = self.end_of(start + 2, |byte| is_digit(byte) || byte == b'_');
        if self.bytes[start + 2..end].iter().all(|byte| *byte == b'_') {
            self.fault(start, end, "this number has no digits");
        }
        self.behind_whole_suffix(end)
    }

    fn digits(&self, at: usize) -> usize {
        self.end_of(at, |byte| byte.is_ascii_digit() || byte == b'_')
    }

    fn decimal(&mut self, start: usize) -> usize {
        let mut end = self.digits(start);
        let mut is_real = false;
        if self.byte(end) == b'.' && self.byte(end + 1).is_ascii_digit() {
            is_real = true;
            end = self.digits(end + 1);
        }
        if self.byte(end) | 0x20 == b'e' {
            let first = end + 1 + usize::from(matches!(self.byte(end + 1), b'+' | b'-'));
            let behind = self.digits(first);
            if behind > first {
                is_real = true;
                end = behind;
            } else if !is_real {
                self.fault(start, first.min(self.bytes.len()), "the exponent of this number has no digits");
                return first.min(self.bytes.len());
            }
        }
        match self.byte(end) | 0x20 {
            b'f' | b'd' | b'm' => end + 1,
            _ if is_real => end,
            _ => self.behind_whole_suffix(end),
        }
    }

    /// `U`, `L`, or both.
    fn behind_whole_suffix(&self, at: usize) -> usize {
        match (self.byte(at) | 0x20, self.byte(at + 1) | 0x20) {
            (b'u', b'l') | (b'l', b'u') => at + 2,
            (b'u' | b'l', _) => at + 1,
            _ => at,
        }
    }
}
