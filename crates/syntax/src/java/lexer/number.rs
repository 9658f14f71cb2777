//! "Integer Literals", "Floating-Point Literals".

use super::Around;
use crate::parse::Scan;
use crate::tree::{Token, TokenKind};

impl Scan<'_, Around<'_>> {
    /// At a digit, or at a dot before one.
    pub(super) fn number(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let end = match (self.byte(start), self.byte(start + 1) | 0x20) {
            (b'0', b'x') => self.hexadecimal(start),
            (b'0', b'b') => self.binary(start),
            _ => self.decimal(start),
        };
        let bytes = &self.bytes[start..end];
        let is_joined = |at: usize| {
            at == 0 || at + 1 == bytes.len() || !bytes[at - 1].is_ascii_alphanumeric() && bytes[at - 1] != b'_'
        };
        let is_odd = |at: usize| {
            bytes[at] == b'_' && (is_joined(at) || !bytes[at + 1].is_ascii_alphanumeric() && bytes[at + 1] != b'_')
        };
        let has_base = bytes.len() > 2 && matches!(bytes[1] | 0x20, b'x' | b'b') && bytes[2] == b'_';
        if has_base || (0..bytes.len()).any(is_odd) {
            self.fault(start, end, "an underscore must stand between two digits");
        }
        self.push(tokens, TokenKind::Number, end);
    }

    fn digits(&self, at: usize) -> usize {
        self.end_of(at, |byte| byte.is_ascii_digit() || byte == b'_')
    }

    fn hexadecimal(&mut self, start: usize) -> usize {
        let is_digit = |byte: u8| byte.is_ascii_hexdigit() || byte == b'_';
        let mut end = self.end_of(start + 2, is_digit);
        let mut has_digits = end > start + 2;
        let has_point =
            self.byte(end) == b'.' && (self.byte(end + 1).is_ascii_hexdigit() || self.byte(end + 1) | 0x20 == b'p');
        if has_point {
            let fraction = self.end_of(end + 1, is_digit);
            has_digits |= fraction > end + 1;
            end = fraction;
        }
        if !has_digits {
            self.fault(start, end, "this number has no digits");
        }
        if self.byte(end) | 0x20 == b'p' {
            end = self.exponent(start, end);
            return end + usize::from(matches!(self.byte(end) | 0x20, b'f' | b'd'));
        }
        if has_point {
            self.fault(start, end, "a hexadecimal number with a point needs an exponent: p0");
        }
        end + usize::from(self.byte(end) | 0x20 == b'l')
    }

    fn binary(&mut self, start: usize) -> usize {
        let end = self.digits(start + 2);
        let digits = &self.bytes[start + 2..end];
        if digits.is_empty() {
            self.fault(start, end, "this number has no digits");
        } else if digits.iter().any(|byte| matches!(byte, b'2'..=b'9')) {
            self.fault(start, end, "there is no such digit in this number");
        }
        end + usize::from(self.byte(end) | 0x20 == b'l')
    }

    fn decimal(&mut self, start: usize) -> usize {
        let mut end = self.digits(start);
        let mut is_real = false;
        if self.byte(end) == b'.' && !(self.byte(end + 1) == b'.' && self.byte(end + 2) == b'.') {
            is_real = true;
            end = self.digits(end + 1);
        }
        if self.byte(end) | 0x20 == b'e' {
            is_real = true;
            end = self.exponent(start, end);
        }
        match self.byte(end) | 0x20 {
            b'f' | b'd' => return end + 1,
            b'l' if !is_real => {
                self.octal(start, end);
                return end + 1;
            }
            _ => {}
        }
        if !is_real {
            self.octal(start, end);
        }
        end
    }

    /// A zero before other digits says that they are octal.
    fn octal(&mut self, start: usize, end: usize) {
        let digits = &self.bytes[start..end];
        if digits.len() > 1 && digits[0] == b'0' && digits.iter().any(|digit| matches!(digit, b'8' | b'9')) {
            self.fault(start, end, "an octal number has the digits 0 to 7");
        }
    }

    /// The end of an exponent, whose letter is at an offset.
    fn exponent(&mut self, start: usize, at: usize) -> usize {
        let first = at + 1 + usize::from(matches!(self.byte(at + 1), b'+' | b'-'));
        let end = self.digits(first);
        if end == first {
            self.fault(start, end.min(self.bytes.len()), "the exponent of this number has no digits");
        }
        end.min(self.bytes.len())
    }
}
