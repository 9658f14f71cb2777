//! "Integer literals", "Floating-point literals", "Imaginary literals".

use super::Lexer;
use crate::tree::TokenKind;

/// What stands before the digits of a number says in which base they are.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Base {
    Binary,
    Octal,
    /// A zero before other digits: octal, unless it is of another form.
    Zero,
    Decimal,
    Hexadecimal,
}

impl Base {
    fn has(self, digit: u8) -> bool {
        match self {
            Base::Binary => matches!(digit, b'0' | b'1'),
            Base::Octal => matches!(digit, b'0'..=b'7'),
            Base::Zero | Base::Decimal => digit.is_ascii_digit(),
            Base::Hexadecimal => digit.is_ascii_hexdigit(),
        }
    }
}

impl Lexer<'_> {
    pub(super) fn number(&mut self) {
        let start = self.cut.at;
        let (base, digits) = match (self.peek(0), self.peek(1) | 0x20) {
            (b'0', b'x') => (Base::Hexadecimal, start + 2),
            (b'0', b'b') => (Base::Binary, start + 2),
            (b'0', b'o') => (Base::Octal, start + 2),
            (b'0', _) => (Base::Zero, start),
            _ => (Base::Decimal, start),
        };
        let mut problem = None;
        let whole = self.digits(digits, base);
        let mut end = whole;
        let takes_fraction = !matches!(base, Base::Binary | Base::Octal);
        let has_point = takes_fraction && self.byte_at(end) == b'.';
        if has_point {
            end = self.digits(end + 1, base);
        }
        let has_digits = self.cut.bytes[digits..end].iter().any(|byte| base.has(*byte));
        if !has_digits {
            problem = Some("this number has no digits");
        }
        let mark = if base == Base::Hexadecimal { b'p' } else { b'e' };
        let has_exponent = takes_fraction && self.byte_at(end) | 0x20 == mark;
        if has_exponent {
            let sign = usize::from(matches!(self.byte_at(end + 1), b'+' | b'-'));
            let first = end + 1 + sign;
            end = self.digits(first, Base::Decimal);
            if !self.cut.bytes[first..end].iter().any(u8::is_ascii_digit) {
                problem = Some("the exponent of this number has no digits");
            }
        } else if has_point && base == Base::Hexadecimal {
            problem = Some("a hexadecimal number with a point needs an exponent: p0");
        }
        let is_imaginary = self.byte_at(end) == b'i';
        end += usize::from(is_imaginary);
        let is_plain = !has_point && !has_exponent && !is_imaginary;
        if base == Base::Zero && is_plain && self.cut.bytes[start..end].iter().any(|digit| matches!(digit, b'8' | b'9'))
        {
            problem = Some("an octal number has the digits 0 to 7");
        }
        if matches!(base, Base::Binary | Base::Octal) && self.byte_at(end).is_ascii_digit() {
            end = self.digits(end, Base::Decimal);
            problem = Some("there is no such digit in this number");
        }
        if problem.is_none() && self.has_odd_underscore(start, end) {
            problem = Some("an underscore must stand between two digits");
        }
        if let Some(rule) = problem {
            self.cut.fault(start, end, rule);
        }
        self.push(TokenKind::Number, end);
    }

    fn byte_at(&self, at: usize) -> u8 {
        self.cut.bytes.get(at).copied().unwrap_or(0)
    }

    /// The end of digits, and of underscores among them.
    fn digits(&self, from: usize, base: Base) -> usize {
        let rest = &self.cut.bytes[from.min(self.cut.bytes.len())..];
        from + rest.iter().position(|byte| !base.has(*byte) && *byte != b'_').unwrap_or(rest.len())
    }

    /// Whether an underscore stands elsewhere than between digits, or between what says the base and a digit.
    fn has_odd_underscore(&self, start: usize, end: usize) -> bool {
        let bytes = &self.cut.bytes[start..end];
        let has_base = bytes.len() > 1 && bytes[0] == b'0' && matches!(bytes[1] | 0x20, b'x' | b'b' | b'o');
        let is_digit = |byte: u8| byte.is_ascii_digit() || has_base && byte.is_ascii_hexdigit();
        (0..bytes.len()).filter(|at| bytes[*at] == b'_').any(|at| {
            let before = at > 0 && (is_digit(bytes[at - 1]) || has_base && at == 2);
            let behind = bytes.get(at + 1).is_some_and(|byte| is_digit(*byte));
            !before || !behind
        })
    }
}
