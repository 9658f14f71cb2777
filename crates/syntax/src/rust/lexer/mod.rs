//! Tokens of Rust ("Lexical structure"), for any text.

mod comment;
mod number;
mod punctuation;
mod quoted;
mod word;

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
    /// The first character alone: half of `&&`, `||` or `<<`.
    Single,
}

/// Cuts a text into tokens.
pub(super) type Lexer<'s> = Scan<'s, Margin>;

/// What the parser keeps of its own.
#[derive(Debug, Default)]
pub(super) struct Margin {
    /// An item at the beginning of a line is in no block.
    pub(super) ends_blocks: bool,
}

impl Scanning for Margin {
    type Goal = Goal;

    #[inline]
    fn lex(scan: &mut Lexer<'_>, tokens: &mut Vec<Token>, goal: Goal) {
        match goal {
            Goal::Usual => scan.usual(tokens),
            Goal::Greater => scan.greater(tokens),
            Goal::Single => scan.single(tokens),
        }
    }
}

impl Lexer<'_> {
    fn usual(&mut self, tokens: &mut Vec<Token>) {
        loop {
            let at = self.at;
            let Some(byte) = self.bytes.get(at).copied() else {
                return self.push(tokens, TokenKind::EndOfFile, at);
            };
            match byte {
                b'a'..=b'z' | b'A'..=b'Z' | b'_' => return self.word(tokens),
                b' ' | b'\t' | 0x0b | 0x0c => {
                    let end = self.end_of(at, |byte| matches!(byte, b' ' | b'\t' | 0x0b | 0x0c));
                    self.push(tokens, TokenKind::Blank, end);
                }
                b'\n' => self.push(tokens, TokenKind::LineEnd, at + 1),
                b'\r' => {
                    let length = if self.byte(at + 1) == b'\n' { 2 } else { 1 };
                    self.push(tokens, TokenKind::LineEnd, at + length);
                }
                b'/' if self.byte(at + 1) == b'/' => self.line_comment(tokens),
                b'/' if self.byte(at + 1) == b'*' => self.block_comment(tokens),
                b'#' if at == 0 && self.begins_script() => self.line_comment(tokens),
                b'0'..=b'9' => return self.number(tokens),
                b'"' => return self.string(tokens, at),
                b'\'' => return self.quote(tokens),
                0x80.. => {
                    if !self.space_beyond_ascii(tokens) {
                        return self.word_beyond_ascii(tokens);
                    }
                }
                _ => return self.punctuation(tokens, byte),
            }
        }
    }

    /// "Whitespace", beyond ASCII, and the byte-order mark.
    fn space_beyond_ascii(&mut self, tokens: &mut Vec<Token>) -> bool {
        let Some(character) = self.character(self.at) else { return false };
        let kind = match character {
            '\u{feff}' if self.at == 0 => TokenKind::ByteOrderMark,
            '\u{85}' | '\u{2028}' | '\u{2029}' | '\u{200e}' | '\u{200f}' => TokenKind::Blank,
            _ => return false,
        };
        self.push(tokens, kind, self.at + character.len_utf8());
        true
    }
}
