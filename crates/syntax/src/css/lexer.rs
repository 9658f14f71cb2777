//! Tokens of CSS ("Tokenization", CSS Syntax 3, 4), for any text.
//!
//! The bracket behind the name of a function is a token of its own, as is each character that the standard calls a delimiter.

use memchr::{memchr3, memmem};

use crate::parse::Cut;
use crate::tree::{Fault, Token, TokenKind};

/// Cuts a text into tokens, which join to it.
pub(super) fn tokens(source: &str) -> (Vec<Token>, Vec<Fault>) {
    let mut lexer = Lexer { cut: Cut::new(source) };
    while let Some(byte) = lexer.cut.byte() {
        lexer.token(byte);
    }
    lexer.cut.finish()
}

struct Lexer<'s> {
    cut: Cut<'s>,
}

impl Lexer<'_> {
    #[inline]
    fn token(&mut self, byte: u8) {
        if IS_NAME_START[byte as usize] {
            return self.name();
        }
        match byte {
            b' ' | b'\t' => {
                let end = self.cut.end_of(|byte| matches!(byte, b' ' | b'\t'));
                self.cut.push(TokenKind::Blank, end);
            }
            b'\n' | b'\x0c' => self.one(TokenKind::LineEnd),
            b'\r' => {
                let length = if self.peek(1) == Some(b'\n') { 2 } else { 1 };
                self.cut.push(TokenKind::LineEnd, self.cut.at + length);
            }
            b'{' => self.one(TokenKind::BraceOpen),
            b'}' => self.one(TokenKind::BraceClose),
            b':' => self.one(TokenKind::Colon),
            b';' => self.one(TokenKind::Semicolon),
            b',' => self.one(TokenKind::Comma),
            b'(' => self.one(TokenKind::ParenOpen),
            b')' => self.one(TokenKind::ParenClose),
            b'[' => self.one(TokenKind::BracketOpen),
            b']' => self.one(TokenKind::BracketClose),
            b'"' | b'\'' => self.string(byte),
            b'0'..=b'9' => self.number(),
            b'.' | b'+' if self.begins_number(0) => self.number(),
            b'.' => self.one(TokenKind::Dot),
            b'#' => self.hash(),
            b'-' => self.hyphen(),
            b'@' => self.at_word(),
            b'/' if self.peek(1) == Some(b'*') => self.comment(),
            b'<' if self.cut.bytes[self.cut.at..].starts_with(b"<!--") => {
                self.cut.push(TokenKind::MarkupCommentMark, self.cut.at + 4);
            }
            b'\\' if self.is_escape(self.cut.at) => self.name(),
            _ => self.delimiter(byte),
        }
    }

    /// Any other character, which stands for itself.
    fn delimiter(&mut self, byte: u8) {
        match byte {
            b'>' => self.one(TokenKind::Greater),
            b'+' => self.one(TokenKind::Plus),
            b'~' => self.one(TokenKind::Tilde),
            b'*' => self.one(TokenKind::Star),
            b'|' => self.one(TokenKind::Bar),
            b'=' => self.one(TokenKind::Assign),
            b'^' => self.one(TokenKind::Caret),
            b'&' => self.one(TokenKind::Ampersand),
            b'!' => self.one(TokenKind::Exclamation),
            b'/' => self.one(TokenKind::Slash),
            b'%' => self.one(TokenKind::Percent),
            b'<' => self.one(TokenKind::Less),
            b'?' => self.one(TokenKind::Question),
            _ => self.cut.unknown(),
        }
    }

    #[inline]
    fn one(&mut self, kind: TokenKind) {
        self.cut.push(kind, self.cut.at + 1);
    }

    #[inline]
    fn peek(&self, ahead: usize) -> Option<u8> {
        self.cut.bytes.get(self.cut.at + ahead).copied()
    }

    /// "Check if two code points are a valid escape".
    fn is_escape(&self, at: usize) -> bool {
        self.cut.bytes.get(at) == Some(&b'\\')
            && self.cut.bytes.get(at + 1).is_none_or(|next| !matches!(next, b'\n' | b'\r' | b'\x0c'))
    }

    /// "Check if three code points would start a number", at some bytes ahead.
    fn begins_number(&self, ahead: usize) -> bool {
        let digit = |ahead| self.peek(ahead).is_some_and(|byte| byte.is_ascii_digit());
        match self.peek(ahead) {
            Some(b'+' | b'-') => digit(ahead + 1) || self.peek(ahead + 1) == Some(b'.') && digit(ahead + 2),
            Some(b'.') => digit(ahead + 1),
            _ => digit(ahead),
        }
    }

    /// "Check if three code points would start an ident sequence", at a place.
    fn begins_name(&self, at: usize) -> bool {
        match self.cut.bytes.get(at) {
            Some(b'-') => {
                self.cut.bytes.get(at + 1).is_some_and(|next| *next == b'-' || IS_NAME_START[*next as usize])
                    || self.is_escape(at + 1)
            }
            Some(b'\\') => self.is_escape(at),
            Some(byte) => IS_NAME_START[*byte as usize],
            None => false,
        }
    }

    /// "Consume an ident sequence": the place behind a name that begins at another.
    #[inline]
    fn end_of_name(&self, start: usize) -> usize {
        let bytes = self.cut.bytes;
        let mut at = start;
        loop {
            match bytes.get(at) {
                Some(byte) if IS_NAME_PART[*byte as usize] => at += 1,
                Some(b'\\') if self.is_escape(at) => at = self.end_of_escape(at),
                _ => return at,
            }
        }
    }

    /// "Consume an escaped code point": up to six hexadecimal digits and one whitespace, or any other character.
    fn end_of_escape(&self, at: usize) -> usize {
        let rest = &self.cut.bytes[at + 1..];
        let digits = rest.iter().take(6).take_while(|byte| byte.is_ascii_hexdigit()).count();
        if digits == 0 {
            let length = self.cut.source[at + 1..].chars().next().map_or(0, char::len_utf8);
            return at + 1 + length;
        }
        let behind = match rest.get(digits..) {
            Some([b'\r', b'\n', ..]) => 2,
            Some([b' ' | b'\t' | b'\n' | b'\r' | b'\x0c', ..]) => 1,
            _ => 0,
        };
        at + 1 + digits + behind
    }

    fn name(&mut self) {
        let end = self.end_of_name(self.cut.at);
        let is_address = self.cut.bytes.get(end) == Some(&b'(')
            && self.cut.bytes[self.cut.at..end].eq_ignore_ascii_case(b"url")
            && !self.is_quoted(end + 1);
        if is_address { self.address(end + 1) } else { self.cut.push(TokenKind::Name, end) }
    }

    /// Whether the next thing that is no whitespace is a string.
    fn is_quoted(&self, at: usize) -> bool {
        let rest = self.cut.bytes[at..].trim_ascii_start();
        matches!(rest.first(), Some(b'"' | b'\''))
    }

    /// "Consume a url token": `url(`, and up to the bracket what is no string.
    fn address(&mut self, inner: usize) {
        let start = self.cut.at;
        let mut at = inner;
        loop {
            let rest = &self.cut.bytes[at..];
            let found = memchr3(b')', b'\\', b'\n', rest).unwrap_or(rest.len());
            let special = rest[..found].iter().position(|byte| matches!(byte, b'"' | b'\'' | b'('));
            if let Some(special) = special {
                let at = at + special;
                self.cut.fault(at, at + 1, "quotes and brackets in an address without quotes are written as escapes");
                let end = memchr::memchr(b')', &self.cut.bytes[at..]).map_or(self.cut.bytes.len(), |end| at + end + 1);
                return self.cut.push(TokenKind::Url, end);
            }
            at += found;
            match self.cut.bytes.get(at) {
                Some(b')') => {
                    let written = self.cut.bytes[inner..at].trim_ascii();
                    if written.iter().any(u8::is_ascii_whitespace) {
                        self.cut.fault(start, at + 1, "an address with whitespace in it is a string in quotes");
                    }
                    return self.cut.push(TokenKind::Url, at + 1);
                }
                Some(b'\\') if self.is_escape(at) => at = self.end_of_escape(at),
                Some(_) => at += 1,
                None => {
                    self.cut.fault(start, start + 4, "the address is never closed");
                    return self.cut.push(TokenKind::Url, at);
                }
            }
        }
    }

    /// "Consume a string token": up to the quote, or to the end of the line where there is none.
    fn string(&mut self, quote: u8) {
        let start = self.cut.at;
        let mut at = start + 1;
        loop {
            let rest = &self.cut.bytes[at..];
            at += memchr3(quote, b'\\', b'\n', rest).unwrap_or(rest.len());
            match self.cut.bytes.get(at) {
                // A line end behind a backslash is no part of the value.
                Some(b'\\') => at = self.end_of_escape_or_line(at),
                Some(b'\n') => {
                    let end = if self.cut.bytes[at - 1] == b'\r' { at - 1 } else { at };
                    return self.unclosed(start, end);
                }
                None => return self.unclosed(start, at),
                Some(_) => return self.cut.push(TokenKind::String, at + 1),
            }
        }
    }

    fn end_of_escape_or_line(&self, at: usize) -> usize {
        match self.cut.bytes.get(at + 1..) {
            Some([b'\r', b'\n', ..]) => at + 3,
            Some([b'\n' | b'\r' | b'\x0c', ..]) => at + 2,
            Some([]) | None => at + 1,
            Some(_) => self.end_of_escape(at),
        }
    }

    fn unclosed(&mut self, start: usize, end: usize) {
        self.cut.fault(start, end, "the string is never closed");
        self.cut.push(TokenKind::String, end);
    }

    /// "Consume a numeric token": a number, perhaps with a unit or a percent sign.
    fn number(&mut self) {
        let end = end_of_number(self.cut.bytes, self.cut.at);
        match self.cut.bytes.get(end) {
            Some(b'%') => self.cut.push(TokenKind::Percentage, end + 1),
            Some(_) if self.begins_name(end) => {
                let end = self.end_of_name(end);
                self.cut.push(TokenKind::Dimension, end);
            }
            _ => self.cut.push(TokenKind::Number, end),
        }
    }

    fn hash(&mut self) {
        let inner = self.cut.at + 1;
        let end = self.end_of_name(inner);
        if end > inner { self.cut.push(TokenKind::Hash, end) } else { self.cut.unknown() }
    }

    fn hyphen(&mut self) {
        if self.begins_number(0) {
            self.number();
        } else if self.cut.bytes[self.cut.at..].starts_with(b"-->") {
            self.cut.push(TokenKind::MarkupCommentMark, self.cut.at + 3);
        } else if self.begins_name(self.cut.at) {
            self.name();
        } else {
            self.one(TokenKind::Minus);
        }
    }

    fn at_word(&mut self) {
        if self.begins_name(self.cut.at + 1) {
            let end = self.end_of_name(self.cut.at + 1);
            self.cut.push(TokenKind::AtWord, end);
        } else {
            self.one(TokenKind::At);
        }
    }

    fn comment(&mut self) {
        let (start, rest) = (self.cut.at, &self.cut.bytes[self.cut.at + 2..]);
        let end = memmem::find(rest, b"*/").map(|found| start + 2 + found + 2);
        if end.is_none() {
            self.cut.fault(start, start + 2, "the comment is never closed");
        }
        self.cut.push(TokenKind::Comment, end.unwrap_or(self.cut.bytes.len()));
    }
}

/// "Consume a number": the place behind one that begins at another.
pub(super) fn end_of_number(bytes: &[u8], start: usize) -> usize {
    let digits = |from: usize| bytes[from..].iter().take_while(|byte| byte.is_ascii_digit()).count();
    let mut at = start + usize::from(matches!(bytes[start], b'+' | b'-'));
    at += digits(at);
    if bytes.get(at) == Some(&b'.') && bytes.get(at + 1).is_some_and(u8::is_ascii_digit) {
        at += 1 + digits(at + 1);
    }
    if matches!(bytes.get(at), Some(b'e' | b'E')) {
        let sign = usize::from(matches!(bytes.get(at + 1), Some(b'+' | b'-')));
        if bytes.get(at + 1 + sign).is_some_and(u8::is_ascii_digit) {
            at += 1 + sign + digits(at + 1 + sign);
        }
    }
    at
}

const IS_NAME_START: [bool; 256] = name_bytes(false);
const IS_NAME_PART: [bool; 256] = name_bytes(true);

/// Which bytes begin a name, or go on with one.
const fn name_bytes(inner: bool) -> [bool; 256] {
    let mut table = [false; 256];
    let mut byte = 0;
    while byte < 256 {
        let character = byte as u8;
        table[byte] = character.is_ascii_alphabetic()
            || character == b'_'
            || character >= 0x80
            || inner && (character.is_ascii_digit() || character == b'-');
        byte += 1;
    }
    table
}
