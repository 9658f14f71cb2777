//! Number literals ("Numeric Literals").

use super::Lexer;
use crate::tree::{Token, TokenKind};

impl Lexer<'_> {
    /// At a digit, or at a point with a digit after it.
    pub(super) fn number(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let end = match (self.byte(start), self.byte(start + 1).to_ascii_lowercase()) {
            (b'0', b'x') => self.in_base(start, u8::is_ascii_hexdigit),
            (b'0', b'o') => self.in_base(start, |byte| (b'0'..=b'7').contains(byte)),
            (b'0', b'b') => self.in_base(start, |byte| matches!(byte, b'0' | b'1')),
            (b'0', b'0'..=b'9' | b'_') => self.with_leading_zero(start),
            _ => self.decimal(start),
        };
        self.push(tokens, TokenKind::Number, end);
        self.refuse_name_behind_number(end);
    }

    /// `0x1f`, `0o17`, `0b1`, perhaps with an `n`.
    fn in_base(&mut self, start: usize, is_digit: fn(&u8) -> bool) -> usize {
        let end = self.digits(start + 2, is_digit);
        if end == start + 2 {
            self.fault(start, end, "digits are missing after the base of this number");
        }
        self.opt_big(end)
    }

    /// `017` is eight times one and seven, `089` is decimal; only scripts may have them.
    fn with_leading_zero(&mut self, start: usize) -> usize {
        let end = self.digits(start, u8::is_ascii_digit);
        let octal = self.bytes[start..end].iter().all(|byte| (b'0'..=b'7').contains(byte));
        if !self.state.leading_zeros {
            self.fault(start, end, "a number cannot begin with a zero; octal ones begin with '0o'");
        } else if self.bytes[start..end].contains(&b'_') {
            self.fault(start, end, "a number with digits in groups cannot begin with a zero");
        }
        if octal { end } else { self.fraction_and_exponent(end) }
    }

    fn decimal(&mut self, start: usize) -> usize {
        let end = self.digits(start, u8::is_ascii_digit);
        if self.byte(end) == b'n' { end + 1 } else { self.fraction_and_exponent(end) }
    }

    fn fraction_and_exponent(&mut self, whole_end: usize) -> usize {
        let mut end = whole_end;
        if self.byte(end) == b'.' {
            end = self.digits(end + 1, u8::is_ascii_digit);
        }
        if matches!(self.byte(end), b'e' | b'E') {
            let sign = usize::from(matches!(self.byte(end + 1), b'+' | b'-'));
            let digits = end + 1 + sign;
            let past = self.digits(digits, u8::is_ascii_digit);
            if past == digits {
                self.fault(end, past, "digits are missing in the exponent of this number");
            }
            end = past;
        }
        end
    }

    fn opt_big(&self, end: usize) -> usize {
        if self.byte(end) == b'n' { end + 1 } else { end }
    }

    /// Digits, perhaps in groups with one underscore between two of them.
    fn digits(&mut self, start: usize, is_digit: fn(&u8) -> bool) -> usize {
        let mut end = start;
        while is_digit(&self.byte(end)) || self.byte(end) == b'_' {
            end += 1;
        }
        let digits = &self.bytes[start..end];
        let badly_grouped = digits.first() == Some(&b'_') || digits.last() == Some(&b'_');
        if badly_grouped || memchr::memmem::find(digits, b"__").is_some() {
            self.fault(start, end, "'_' is only allowed between two digits");
        }
        end
    }
}
