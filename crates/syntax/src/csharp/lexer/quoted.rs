//! "Character literals", "String literals", raw and verbatim ones included; those with holes begin here, too.

use super::Around;
use super::interpolated::Open;
use crate::parse::Scan;
use crate::tree::{Token, TokenKind};

impl Scan<'_, Around> {
    /// Whether `@` or `$` at an offset begins a string.
    pub(super) fn begins_string(&self, at: usize) -> bool {
        let end = self.end_of(at, |byte| matches!(byte, b'@' | b'$'));
        self.byte(end) == b'"'
    }

    /// `"…"`, which ends with its line at the latest; or a raw one.
    pub(super) fn string(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let quotes = self.end_of(start, |byte| byte == b'"') - start;
        if quotes > 2 {
            return self.raw_string(tokens, quotes);
        }
        let mut at = start + 1;
        loop {
            match self.bytes.get(at) {
                Some(b'"') => return self.push_string(tokens, at + 1),
                Some(b'\\') => at = self.escape(at),
                Some(b'\n' | b'\r') | None => break,
                Some(_) => at += 1,
            }
        }
        self.fault(start, start + 1, "the string is never closed");
        self.push(tokens, TokenKind::String, at);
    }

    /// A string up to its quote, with the mark of its encoding.
    fn push_string(&mut self, tokens: &mut Vec<Token>, end: usize) {
        self.push(tokens, TokenKind::String, self.behind_mark(end));
    }

    /// The place behind the mark of an encoding, if one is at an offset; else that offset.
    pub(super) fn behind_mark(&self, at: usize) -> usize {
        let has_mark = matches!(self.bytes.get(at..at + 2), Some(b"u8" | b"U8"));
        if has_mark { at + 2 } else { at }
    }

    /// A string between as many quotes as no stretch in it has: on one line, or on lines of its own.
    fn raw_string(&mut self, tokens: &mut Vec<Token>, quotes: usize) {
        let start = self.at;
        let mut at = start + quotes;
        let has_lines = self.is_last_of_line(at);
        loop {
            match self.bytes.get(at) {
                Some(b'"') => {
                    let end = self.end_of(at, |byte| byte == b'"');
                    if end - at >= quotes {
                        return self.push_string(tokens, end);
                    }
                    at = end;
                }
                Some(b'\n' | b'\r') if !has_lines => break,
                None => break,
                Some(_) => at += 1,
            }
        }
        self.fault(start, start + quotes, "the string is never closed");
        self.push(tokens, TokenKind::String, at);
    }

    /// Whether only whitespace is from an offset on to the end of the line.
    pub(super) fn is_last_of_line(&self, at: usize) -> bool {
        let end = self.end_of(at, |byte| matches!(byte, b' ' | b'\t'));
        matches!(self.byte(end), b'\n' | b'\r')
    }

    /// A string with `@` or `$` before it.
    pub(super) fn marked_string(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let quote = self.end_of(start, |byte| matches!(byte, b'@' | b'$'));
        let ats = self.bytes[start..quote].iter().filter(|byte| **byte == b'@').count();
        let dollars = quote - start - ats;
        if ats > 1 || ats == 1 && dollars > 1 {
            self.fault(start, quote, "a string has no such marks before it");
        }
        if dollars == 0 {
            return self.verbatim_string(tokens, quote);
        }
        let quotes = self.end_of(quote, |byte| byte == b'"') - quote;
        let is_raw = ats == 0 && quotes > 2;
        if !is_raw && dollars > 1 && ats == 0 {
            self.fault(start, quote, "only a raw string has several such marks before it");
        }
        let end = if is_raw { quote + quotes } else { quote + 1 };
        let open = Open::new(is_raw.then_some(quotes), ats > 0, dollars, is_raw && self.is_last_of_line(end));
        self.begin_string(open);
        self.push(tokens, TokenKind::FormatStart, end);
    }

    /// `@"…"`, in which two quotes are one.
    fn verbatim_string(&mut self, tokens: &mut Vec<Token>, quote: usize) {
        let mut at = quote + 1;
        while let Some(length) = memchr::memchr(b'"', &self.bytes[at..]) {
            at += length + 1;
            if self.byte(at) != b'"' {
                return self.push_string(tokens, at);
            }
            at += 1;
        }
        self.fault(self.at, quote + 1, "the string is never closed");
        self.push(tokens, TokenKind::String, self.bytes.len());
    }

    /// `'a'`: one unit of UTF-16.
    pub(super) fn character_literal(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let (mut at, mut units) = (start + 1, 0);
        loop {
            match self.bytes.get(at) {
                Some(b'\'') => break,
                Some(b'\\') => {
                    let is_long = self.byte(at + 1) == b'U' && !matches!(self.bytes.get(at + 2..at + 6), Some(b"0000"));
                    at = self.escape(at);
                    units += if is_long { 2 } else { 1 };
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

    /// The place behind an escape; notes one that there is not.
    pub(super) fn escape(&mut self, at: usize) -> usize {
        let digits = |most: usize| {
            let end = self.end_of(at + 2, |byte| byte.is_ascii_hexdigit());
            end.min(at + 2 + most)
        };
        match self.byte(at + 1) {
            b'\'' | b'"' | b'\\' | b'0' | b'a' | b'b' | b'e' | b'f' | b'n' | b'r' | b't' | b'v' => return at + 2,
            b'x' if digits(4) > at + 2 => return digits(4),
            b'u' if digits(4) == at + 6 => return at + 6,
            b'U' if digits(8) == at + 10 => {
                let code = u32::from_str_radix(&self.source[at + 2..at + 10], 16).unwrap_or(u32::MAX);
                if code <= 0x10_ffff {
                    return at + 10;
                }
            }
            _ => {}
        }
        let letter = self.character(at + 1).filter(|letter| !matches!(letter, '\n' | '\r'));
        let end = at + 1 + letter.map_or(0, char::len_utf8);
        self.fault(at, end, "there is no such escape");
        end
    }
}
