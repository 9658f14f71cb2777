//! "Character and string literals", "Byte and byte string literals", "Lifetimes and loop labels".

use memchr::memchr_iter;

use super::Lexer;
use crate::tree::{Token, TokenKind};

/// What a literal holds.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Holds {
    Characters,
    Bytes,
    /// A string of C: characters and bytes.
    Both,
}

impl Lexer<'_> {
    /// What the letters before a quote say of the literal.
    fn held(&self, quote: usize) -> Holds {
        match self.byte(self.at) {
            b'b' if quote > self.at => Holds::Bytes,
            b'c' if quote > self.at => Holds::Both,
            _ => Holds::Characters,
        }
    }

    /// `"…"` over as many lines as it takes, whose quote is at `quote`.
    pub(super) fn string(&mut self, tokens: &mut Vec<Token>, quote: usize) {
        let holds = self.held(quote);
        let mut at = quote + 1;
        loop {
            match self.bytes.get(at) {
                Some(b'"') => break,
                Some(b'\\') => at = self.escape(at, holds, true),
                Some(0x80..) if holds == Holds::Bytes => at = self.no_byte(at),
                Some(_) => at += 1,
                None => {
                    self.fault(quote, quote + 1, "the string is never closed");
                    return self.push(tokens, TokenKind::String, self.bytes.len());
                }
            }
        }
        self.push_with_suffix(tokens, TokenKind::String, at + 1);
    }

    /// A string without escapes, whose characters begin at `first`, between as many `#`.
    pub(super) fn raw_string(&mut self, tokens: &mut Vec<Token>, first: usize, hashes: usize) {
        let holds = self.held(first - 1);
        let rest = &self.bytes[first..];
        let closes = |at: &usize| {
            let behind = &rest[at + 1..];
            behind.len() >= hashes && behind[..hashes].iter().all(|byte| *byte == b'#')
        };
        let Some(length) = memchr_iter(b'"', rest).find(closes) else {
            self.fault(first - 1, first, "the string is never closed");
            return self.push(tokens, TokenKind::String, self.bytes.len());
        };
        if holds == Holds::Bytes
            && let Some(high) = rest[..length].iter().position(|byte| !byte.is_ascii())
        {
            self.no_byte(first + high);
        }
        self.push_with_suffix(tokens, TokenKind::String, first + length + 1 + hashes);
    }

    /// At a single quote: a character, or the name of a lifetime or a loop.
    pub(super) fn quote(&mut self, tokens: &mut Vec<Token>) {
        let at = self.at;
        let first = self.character(at + 1);
        let behind = at + 1 + first.map_or(0, char::len_utf8);
        let is_character = self.byte(behind) == b'\'' && first != Some('\'');
        if is_character || !self.begins_name(at + 1) {
            return self.character_literal(tokens, at);
        }
        let is_raw = self.bytes[at + 1..].starts_with(b"r#") && self.begins_name(at + 3);
        let end = self.end_of_name(if is_raw { at + 3 } else { at + 1 });
        if self.byte(end) == b'\'' {
            self.fault(at, end + 1, "single quotes hold one character");
            return self.push(tokens, TokenKind::Character, end + 1);
        }
        self.push(tokens, TokenKind::Lifetime, end);
    }

    /// `'a'` or `b'a'`, whose quote is at `quote`.
    pub(super) fn character_literal(&mut self, tokens: &mut Vec<Token>, quote: usize) {
        let holds = self.held(quote);
        let mut at = quote + 1;
        match self.character(at) {
            Some('\\') => at = self.escape(at, holds, false),
            Some('\'') => {
                self.fault(quote, at + 1, "single quotes hold one character");
                return self.push(tokens, TokenKind::Character, at + 1);
            }
            None | Some('\n' | '\r') => {}
            Some(character) if holds == Holds::Bytes && !character.is_ascii() => at = self.no_byte(at),
            Some('\t') => {
                self.fault(at, at + 1, "this character is written as an escape here");
                at += 1;
            }
            Some(character) => at += character.len_utf8(),
        }
        if self.byte(at) == b'\'' {
            return self.push_with_suffix(tokens, TokenKind::Character, at + 1);
        }
        self.fault(quote, quote + 1, "the quote is never closed");
        self.push(tokens, TokenKind::Character, at);
    }

    /// "Suffixes": the letters behind a literal belong to it.
    fn push_with_suffix(&mut self, tokens: &mut Vec<Token>, kind: TokenKind, end: usize) {
        let end = if self.begins_name(end) { self.end_of_name(end) } else { end };
        self.push(tokens, kind, end);
    }

    /// Notes a character that is no byte, and gives the place behind it.
    fn no_byte(&mut self, at: usize) -> usize {
        let end = at + self.character(at).map_or(1, char::len_utf8);
        self.fault(at, end, "a byte literal holds only ASCII characters; write others as escapes");
        end
    }

    /// The place behind an escape; notes one that there is not.
    fn escape(&mut self, at: usize, holds: Holds, in_string: bool) -> usize {
        match self.byte(at + 1) {
            b'n' | b'r' | b't' | b'\\' | b'0' | b'\'' | b'"' => return at + 2,
            b'\n' if in_string => return at + 2,
            b'\r' if in_string && self.byte(at + 2) == b'\n' => return at + 3,
            b'x' => {
                let code = self.source.get(at + 2..at + 4).filter(|digits| !digits.starts_with('+'));
                let code = code.and_then(|digits| u32::from_str_radix(digits, 16).ok());
                match code {
                    Some(code) if holds != Holds::Characters || code < 128 => return at + 4,
                    Some(_) => {
                        self.fault(at, at + 4, "this escape is no character");
                        return at + 4;
                    }
                    None => {}
                }
            }
            b'u' if holds != Holds::Bytes => {
                if let Some(length) = self.unicode_escape(at + 2) {
                    return at + 2 + length;
                }
            }
            _ => {}
        }
        let letter = self.character(at + 1).filter(|letter| !matches!(letter, '\n' | '\r'));
        let end = at + 1 + letter.map_or(0, char::len_utf8);
        self.fault(at, end, "there is no such escape");
        end
    }

    /// The length of `{1f6a2}` at an offset, if it is the code of a character.
    fn unicode_escape(&self, at: usize) -> Option<usize> {
        let inner = self.source.get(at..)?.strip_prefix('{')?;
        let length = inner.bytes().take(16).position(|byte| byte == b'}')?;
        let digits = inner[..length].replace('_', "");
        let is_code = !inner.starts_with(['_', '+']) && (1..=6).contains(&digits.len());
        let code = u32::from_str_radix(&digits, 16).ok().filter(|_| is_code)?;
        char::from_u32(code).map(|_| length + 2)
    }
}
