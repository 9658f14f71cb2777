//! Numbers: section "Numeric literals" of the reference.

use super::Lexer;
use super::bytes::continues_word;
use crate::tree::{Problem, TokenKind};

impl Lexer<'_> {
    /// At a digit, or at a dot before a digit.
    pub(super) fn number(&mut self) {
        let start = self.position;
        let end = match (self.byte(start), self.byte(start + 1)) {
            (b'0', b'x' | b'X') => self.digits_with_base(start, u8::is_ascii_hexdigit),
            (b'0', b'o' | b'O') => self.digits_with_base(start, |byte| (b'0'..=b'7').contains(byte)),
            (b'0', b'b' | b'B') => self.digits_with_base(start, |byte| matches!(byte, b'0' | b'1')),
            _ => self.decimal(start),
        };
        self.push_solid(TokenKind::Number, end);
        self.check_end_of_number(start);
    }

    fn digits_with_base(&mut self, start: usize, is_digit: fn(&u8) -> bool) -> usize {
        let mut end = start + 2;
        loop {
            let group = end + usize::from(self.byte(end) == b'_');
            if !is_digit(&self.byte(group)) {
                break;
            }
            end = group;
            while is_digit(&self.byte(end)) {
                end += 1;
            }
        }
        let wrong_digit = self.byte(end).is_ascii_digit() || self.byte(end) == b'_';
        if end == start + 2 || wrong_digit {
            while continues_word(self.byte(end)) {
                end += 1;
            }
            self.fault(start, end, Problem::Rule("this number has a digit that its base does not have, or none"));
        }
        end
    }

    fn decimal(&mut self, start: usize) -> usize {
        let mut end = self.decimal_digits(start);
        let whole = start..end;
        let mut is_whole = true;
        if self.byte(end) == b'.' {
            is_whole = false;
            end += 1;
            if self.byte(end).is_ascii_digit() {
                end = self.decimal_digits(end);
            }
        }
        if matches!(self.byte(end), b'e' | b'E') {
            let digits = end + 1 + usize::from(matches!(self.byte(end + 1), b'+' | b'-'));
            if self.byte(digits).is_ascii_digit() {
                is_whole = false;
                end = self.decimal_digits(digits);
            }
        }
        if matches!(self.byte(end), b'j' | b'J') {
            is_whole = false;
            end += 1;
        }
        let digits = &self.bytes[whole];
        if is_whole && digits[0] == b'0' && digits.iter().any(|digit| (b'1'..=b'9').contains(digit)) {
            self.fault(start, end, Problem::Rule("a whole number cannot begin with zero; write 0o for octal"));
        }
        end
    }

    /// Digits in groups joined by single underscores.
    fn decimal_digits(&mut self, start: usize) -> usize {
        let mut end = start;
        loop {
            while self.byte(end).is_ascii_digit() {
                end += 1;
            }
            if self.byte(end) != b'_' {
                return end;
            }
            if !self.byte(end + 1).is_ascii_digit() {
                self.fault(start, end + 1, Problem::Rule("an underscore in a number must be between two digits"));
                return end + 1;
            }
            end += 1;
        }
    }

    /// A name may not follow a number directly, apart from some keywords (`1if x else 2`).
    fn check_end_of_number(&mut self, start: usize) {
        let rest = &self.bytes[self.position..];
        let Some(first) = rest.first() else { return };
        if !continues_word(*first) && first.is_ascii() {
            return;
        }
        let may_follow: [&[u8]; 8] = [b"and", b"else", b"for", b"if", b"in", b"is", b"not", b"or"];
        if may_follow.iter().any(|word| rest.starts_with(word)) {
            return;
        }
        let already_told = self.faults.last().is_some_and(|fault| fault.span.start as usize >= start);
        if !already_told {
            self.fault(start, self.position + 1, Problem::Rule("a space is missing between a number and a name"));
        }
    }
}
