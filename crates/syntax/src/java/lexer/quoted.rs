//! "Character Literals", "String Literals", "Text Blocks", "Escape Sequences".

use super::Around;
use crate::parse::Scan;
use crate::tree::{Token, TokenKind};

impl Scan<'_, Around<'_>> {
    /// `"…"`, which ends with its line at the latest.
    pub(super) fn string(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let mut at = start + 1;
        loop {
            match self.bytes.get(at) {
                Some(b'"') => return self.push(tokens, TokenKind::String, at + 1),
                Some(b'\\') => at = self.escape(at, false),
                Some(b'\n' | b'\r') | None => break,
                Some(_) => at += 1,
            }
        }
        self.fault(start, start + 1, "the string is never closed");
        self.push(tokens, TokenKind::String, at);
    }

    /// `"""`, whitespace, the end of the line, and everything up to the next three quotes.
    pub(super) fn text_block(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let mut at = self.end_of(start + 3, |byte| matches!(byte, b' ' | b'\t' | 0x0c));
        if !matches!(self.byte(at), b'\n' | b'\r') {
            self.fault(start, start + 3, "a line end must be behind the quotes that begin a text block");
        }
        loop {
            match self.bytes.get(at) {
                Some(b'"') if self.bytes[at..].starts_with(b"\"\"\"") => {
                    return self.push(tokens, TokenKind::String, at + 3);
                }
                Some(b'\\') => at = self.escape(at, true),
                Some(_) => at += 1,
                None => break,
            }
        }
        self.fault(start, start + 3, "the string is never closed");
        self.push(tokens, TokenKind::String, self.bytes.len());
    }

    /// `'a'`: one character.
    pub(super) fn character_literal(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let (mut at, mut units) = (start + 1, 0);
        loop {
            match self.bytes.get(at) {
                Some(b'\'') => break,
                Some(b'\\') => {
                    at = self.escape(at, false);
                    units += 1;
                }
                Some(b'\n' | b'\r') | None => {
                    self.fault(start, start + 1, "the quote is never closed");
                    return self.push(tokens, TokenKind::Character, at);
                }
                Some(_) => {
                    let character = self.character(at).unwrap_or(' ');
                    at += character.len_utf8();
                    units += character.len_utf16();
                }
            }
        }
        if units != 1 {
            self.fault(start, at + 1, "single quotes hold one character");
        }
        self.push(tokens, TokenKind::Character, at + 1);
    }

    /// The place behind an escape; notes one that there is not. Lines end in text blocks alone.
    fn escape(&mut self, at: usize, in_block: bool) -> usize {
        match self.byte(at + 1) {
            b'b' | b's' | b't' | b'n' | b'f' | b'r' | b'"' | b'\'' | b'\\' => at + 2,
            b'0'..=b'3' => self.octal_escape(at, 3),
            b'4'..=b'7' => self.octal_escape(at, 2),
            b'\n' if in_block => at + 2,
            b'\r' if in_block => at + 2 + usize::from(self.byte(at + 2) == b'\n'),
            b'u' => self.unicode_escape(at),
            _ => {
                let letter = self.character(at + 1).filter(|letter| !matches!(letter, '\n' | '\r'));
                let end = at + 1 + letter.map_or(0, char::len_utf8);
                self.fault(at, end, "there is no such escape");
                end
            }
        }
    }

    fn octal_escape(&self, at: usize, most: usize) -> usize {
        let end = self.end_of(at + 1, |byte| matches!(byte, b'0'..=b'7'));
        end.min(at + 1 + most)
    }

    /// `\u0041`, with as many letters as there are. One may stand for the backslash of another escape, whose letter may be written so, too.
    fn unicode_escape(&mut self, at: usize) -> usize {
        let (code, end) = self.code_unit(at);
        if code != Some(0x5c) {
            return end;
        }
        match (self.byte(end), self.byte(end + 1)) {
            (b'\\', b'u') => self.code_unit(end).1,
            (letter, _) if letter.is_ascii() && letter > b' ' => end + 1,
            _ => end,
        }
    }

    /// The code that an escape gives, and the place behind it; notes one that gives none.
    fn code_unit(&mut self, at: usize) -> (Option<u32>, usize) {
        let digits = self.end_of(at + 1, |byte| byte == b'u');
        let code = self.source.get(digits..digits + 4).and_then(|code| u32::from_str_radix(code, 16).ok());
        if code.is_none() {
            self.fault(at, digits, "there is no such escape");
            return (None, digits);
        }
        (code, digits + 4)
    }
}
