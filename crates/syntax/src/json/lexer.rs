//! Tokens of JSON ("JSON Grammar", RFC 8259, 2 to 7), for any text.

use memchr::memchr3;

use super::Dialect;
use crate::parse::Cut;
use crate::tree::{Fault, Token, TokenKind};

/// Cuts a text into tokens, which join to it.
pub(super) fn tokens(source: &str, dialect: Dialect) -> (Vec<Token>, Vec<Fault>) {
    let mut lexer = Lexer { cut: Cut::new(source), dialect, had_comment: false };
    while let Some(byte) = lexer.cut.byte() {
        lexer.token(byte);
    }
    lexer.cut.finish()
}

struct Lexer<'s> {
    cut: Cut<'s>,
    dialect: Dialect,
    had_comment: bool,
}

impl Lexer<'_> {
    #[inline]
    fn token(&mut self, byte: u8) {
        let one = self.cut.at + 1;
        match byte {
            b' ' | b'\t' => {
                let end = self.cut.end_of(|byte| matches!(byte, b' ' | b'\t'));
                self.cut.push(TokenKind::Blank, end);
            }
            b'\n' => self.cut.push(TokenKind::LineEnd, one),
            b'\r' => {
                let end = if self.cut.bytes.get(one) == Some(&b'\n') { one + 1 } else { one };
                self.cut.push(TokenKind::LineEnd, end);
            }
            b'"' => self.string(b'"'),
            b'{' => self.cut.push(TokenKind::BraceOpen, one),
            b'}' => self.cut.push(TokenKind::BraceClose, one),
            b'[' => self.cut.push(TokenKind::BracketOpen, one),
            b']' => self.cut.push(TokenKind::BracketClose, one),
            b':' => self.cut.push(TokenKind::Colon, one),
            b',' => self.cut.push(TokenKind::Comma, one),
            b'-' | b'0'..=b'9' => self.number(),
            b'/' => self.comment(),
            b'\'' => {
                let start = self.cut.at;
                self.string(b'\'');
                self.cut.fault(start, self.cut.at, "strings are in double quotes");
            }
            b'.' | b'+' | b'_' | b'$' | b'a'..=b'z' | b'A'..=b'Z' | 0x80.. => self.word(),
            _ => self.cut.unknown(),
        }
    }

    /// `string = quotation-mark *char quotation-mark`: up to the quote, or to the end of the line where there is none.
    fn string(&mut self, quote: u8) {
        let start = self.cut.at;
        let mut end = start + 1;
        loop {
            let rest = &self.cut.bytes[end..];
            let found = memchr3(quote, b'\\', b'\n', rest).unwrap_or(rest.len());
            let control = |(_, byte): &(usize, &u8)| **byte < 0x20;
            for (place, byte) in rest[..found].iter().enumerate().filter(control) {
                let at = end + place;
                if *byte == b'\r' {
                    return self.unclosed(start, at);
                }
                self.cut.fault(at, at + 1, "a control character in a string is written as an escape");
            }
            end += found;
            match self.cut.bytes.get(end) {
                Some(b'\\') => end = self.escape(end),
                Some(b'\n') | None => return self.unclosed(start, end),
                Some(_) => return self.cut.push(TokenKind::String, end + 1),
            }
        }
    }

    /// The place after the escape at a backslash.
    fn escape(&mut self, at: usize) -> usize {
        match self.cut.bytes.get(at + 1) {
            Some(b'"' | b'\\' | b'/' | b'b' | b'f' | b'n' | b'r' | b't') => at + 2,
            Some(b'u') => {
                let digits =
                    self.cut.bytes[at + 2..].iter().take(4).take_while(|byte| byte.is_ascii_hexdigit()).count();
                if digits < 4 {
                    self.cut.fault(at, at + 2 + digits, "\\u is followed by four hexadecimal digits");
                }
                at + 2 + digits
            }
            // What is wrong is that nothing closes the string.
            Some(b'\n' | b'\r') | None => at + 1,
            Some(_) => self.cut.no_escape(at),
        }
    }

    /// A string that ends with its line.
    fn unclosed(&mut self, start: usize, end: usize) {
        self.cut.fault(start, end, "the string is never closed");
        self.cut.push(TokenKind::String, end);
    }

    /// `number = [ minus ] int [ frac ] [ exp ]`
    fn number(&mut self) {
        let start = self.cut.at;
        let end = self.cut.end_of(|byte| byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b'+' | b'.' | b'_'));
        if !is_number(&self.cut.bytes[start..end]) {
            self.cut.fault(start, end, "a number has digits, perhaps a fraction and an exponent, and no leading zero");
        }
        self.cut.push(TokenKind::Number, end);
    }

    fn word(&mut self) {
        let is_part =
            |byte: u8| byte >= 0x80 || byte.is_ascii_alphanumeric() || matches!(byte, b'_' | b'$' | b'.' | b'+' | b'-');
        let end = self.cut.end_of(is_part);
        let kind = match &self.cut.bytes[self.cut.at..end] {
            b"true" => TokenKind::TrueWord,
            b"false" => TokenKind::FalseWord,
            b"null" => TokenKind::NullWord,
            _ => TokenKind::Name,
        };
        self.cut.push(kind, end);
    }

    /// A comment of ECMAScript, in either form.
    fn comment(&mut self) {
        let (start, rest) = (self.cut.at, &self.cut.bytes[self.cut.at..]);
        let end = match rest.get(1) {
            Some(b'/') => rest.iter().position(|byte| matches!(byte, b'\n' | b'\r')).unwrap_or(rest.len()),
            Some(b'*') => match memchr::memmem::find(&rest[2..], b"*/") {
                Some(found) => found + 4,
                None => {
                    self.cut.fault(start, start + 2, "the comment is never closed");
                    rest.len()
                }
            },
            _ => return self.cut.unknown(),
        };
        // Whoever writes one comment means to have comments: that is one mistake.
        if self.dialect == Dialect::Strict && !self.had_comment {
            self.cut.fault(start, start + end, "JSON has no comments");
        }
        self.had_comment = true;
        self.cut.push(TokenKind::Comment, start + end);
    }
}

fn is_number(bytes: &[u8]) -> bool {
    let bytes = bytes.strip_prefix(b"-").unwrap_or(bytes);
    let digits = |bytes: &[u8]| bytes.iter().take_while(|byte| byte.is_ascii_digit()).count();
    let whole = digits(bytes);
    if whole == 0 || (whole > 1 && bytes[0] == b'0') {
        return false;
    }
    let mut rest = &bytes[whole..];
    if let Some(fraction) = rest.strip_prefix(b".") {
        let count = digits(fraction);
        if count == 0 {
            return false;
        }
        rest = &fraction[count..];
    }
    if let [b'e' | b'E', exponent @ ..] = rest {
        let exponent = exponent.strip_prefix(b"-").or_else(|| exponent.strip_prefix(b"+")).unwrap_or(exponent);
        let count = digits(exponent);
        return count > 0 && count == exponent.len();
    }
    rest.is_empty()
}
