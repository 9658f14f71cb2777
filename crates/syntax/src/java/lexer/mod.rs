//! Tokens of Java ("Lexical Structure"), for any text.

mod number;
mod punctuation;
mod quoted;
mod word;

use memchr::memchr2;

use crate::parse::{Scan, Scanning};
use crate::tree::{Token, TokenKind};

/// What the parser expects at a place.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(super) enum Goal {
    /// A token of the usual sort, in which `>` represents itself.
    #[default]
    Usual,
    /// An operator that begins with `>`, all of it.
    Greater,
}

/// Cuts a text into tokens.
pub(super) type Lexer<'s> = Scan<'s, Around<'s>>;

/// What the parser keeps of its own.
#[derive(Debug, Default)]
pub(super) struct Around<'s> {
    /// The arrow ahead belongs to a case, and begins no lambda expression.
    pub(super) before_arrow: bool,
    /// The names of the types around, the innermost last; nothing for one without a name.
    pub(super) types: Vec<&'s str>,
}

impl Scanning for Around<'_> {
    type Goal = Goal;

    #[inline]
    fn lex(scan: &mut Scan<'_, Self>, tokens: &mut Vec<Token>, goal: Goal) {
        match goal {
            Goal::Usual => scan.usual(tokens),
            Goal::Greater => scan.shift_or_greater(tokens),
        }
    }
}

impl Scan<'_, Around<'_>> {
    fn usual(&mut self, tokens: &mut Vec<Token>) {
        loop {
            let at = self.at;
            let Some(byte) = self.bytes.get(at).copied() else {
                return self.push(tokens, TokenKind::EndOfFile, at);
            };
            match byte {
                b'a'..=b'z' | b'A'..=b'Z' | b'_' | b'$' => return self.word(tokens),
                b' ' | b'\t' | 0x0c => {
                    let end = self.end_of(at, |byte| matches!(byte, b' ' | b'\t' | 0x0c));
                    self.push(tokens, TokenKind::Blank, end);
                }
                b'\n' => self.push(tokens, TokenKind::LineEnd, at + 1),
                b'\r' => {
                    let length = if self.byte(at + 1) == b'\n' { 2 } else { 1 };
                    self.push(tokens, TokenKind::LineEnd, at + length);
                }
                b'/' if self.byte(at + 1) == b'/' => self.line_comment(tokens),
                b'/' if self.byte(at + 1) == b'*' => self.unnested_comment(tokens),
                b'0'..=b'9' => return self.number(tokens),
                b'.' if self.byte(at + 1).is_ascii_digit() => return self.number(tokens),
                b'"' if self.bytes[at..].starts_with(b"\"\"\"") => return self.text_block(tokens),
                b'"' => return self.string(tokens),
                b'\'' => return self.character_literal(tokens),
                // "Translation of Input Characters": what ends some files.
                0x1a if at + 1 == self.bytes.len() => self.push(tokens, TokenKind::Blank, at + 1),
                0x80.. | b'\\' => {
                    if at == 0 && self.character(0) == Some('\u{feff}') {
                        self.push(tokens, TokenKind::ByteOrderMark, 3);
                    } else {
                        return self.word_beyond_ascii(tokens);
                    }
                }
                _ => return self.punctuation(tokens, byte),
            }
        }
    }

    /// Up to the end of the line.
    fn line_comment(&mut self, tokens: &mut Vec<Token>) {
        let rest = &self.bytes[self.at..];
        let length = memchr2(b'\n', b'\r', rest).unwrap_or(rest.len());
        self.push(tokens, TokenKind::Comment, self.at + length);
    }
}
