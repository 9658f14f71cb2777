//! Tokens of C# ("Lexical structure"), for any text.

mod directive;
mod interpolated;
mod number;
mod punctuation;
mod quoted;
mod word;

use memchr::memchr2;

use super::branch::LeftOut;
use crate::parse::{Scan, Scanning};
use crate::tree::{Token, TokenKind};
use interpolated::{Change, Open};

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
pub(super) type Lexer<'s> = Scan<'s, Around>;

/// What the lexer and the parser keep of their own.
#[derive(Debug, Default)]
pub(super) struct Around {
    /// The stretches that are left out.
    left_out: LeftOut,
    /// The interpolated strings around, the innermost last.
    open: Vec<Open>,
    /// How `open` came to be, to go back.
    changes: Vec<Change>,
    /// The arrow ahead belongs to a case, and begins no lambda expression.
    pub(super) before_arrow: bool,
    /// Words of queries have their meaning.
    pub(super) in_query: bool,
}

impl Around {
    /// With nothing open yet.
    pub(super) fn new(left_out: LeftOut) -> Around {
        Around { left_out, ..Around::default() }
    }
}

impl Scanning for Around {
    type Goal = Goal;

    #[inline]
    fn lex(scan: &mut Scan<'_, Self>, tokens: &mut Vec<Token>, goal: Goal) {
        match goal {
            Goal::Greater => scan.shift_or_greater(tokens),
            Goal::Usual => scan.next(tokens),
        }
    }

    fn gone_back(&mut self, offset: usize) {
        self.undo_from(offset);
    }
}

impl Scan<'_, Around> {
    #[inline]
    fn usual(&mut self, tokens: &mut Vec<Token>) {
        match self.trivia(tokens) {
            Some(byte) => self.solid(tokens, byte),
            None => self.push(tokens, TokenKind::EndOfFile, self.at),
        }
    }

    /// What has no meaning, up to the next byte that has one; nothing at the end.
    #[inline]
    fn trivia(&mut self, tokens: &mut Vec<Token>) -> Option<u8> {
        loop {
            let at = self.at;
            let byte = self.bytes.get(at).copied()?;
            match byte {
                b' ' | b'\t' | 0x0b | 0x0c => {
                    let end = self.end_of(at, |byte| matches!(byte, b' ' | b'\t' | 0x0b | 0x0c));
                    self.push(tokens, TokenKind::Blank, end);
                }
                b'\n' => self.push(tokens, TokenKind::LineEnd, at + 1),
                b'\r' => self.push(tokens, TokenKind::LineEnd, self.behind_line_end(at)),
                b'/' if self.byte(at + 1) == b'/' => self.line_comment(tokens),
                b'/' if self.byte(at + 1) == b'*' => self.unnested_comment(tokens),
                b'#' if self.begins_line(at) => self.directive(tokens),
                // What ends some files.
                0x1a if self.bytes[at + 1..].iter().all(u8::is_ascii_whitespace) => {
                    self.push(tokens, TokenKind::Blank, at + 1)
                }
                0x80.. => match self.odd_whitespace(at) {
                    Some(3) if at == 0 && self.character(0) == Some('\u{feff}') => {
                        self.push(tokens, TokenKind::ByteOrderMark, 3);
                    }
                    Some(length) => self.push(tokens, TokenKind::Blank, at + length),
                    None => return Some(byte),
                },
                _ => return Some(byte),
            }
        }
    }

    /// The token that begins with a byte.
    #[inline]
    fn solid(&mut self, tokens: &mut Vec<Token>, byte: u8) {
        let at = self.at;
        match byte {
            b'a'..=b'z' | b'A'..=b'Z' | b'_' => self.word(tokens),
            b'0'..=b'9' => self.number(tokens),
            b'.' if self.byte(at + 1).is_ascii_digit() => self.number(tokens),
            b'"' => self.string(tokens),
            b'\'' => self.character_literal(tokens),
            b'@' | b'$' if self.begins_string(at) => self.marked_string(tokens),
            b'@' | b'\\' | 0x80.. => self.word_beyond_ascii(tokens),
            _ => self.punctuation(tokens, byte),
        }
    }

    /// The length of a whitespace character beyond ASCII.
    fn odd_whitespace(&self, at: usize) -> Option<usize> {
        self.character(at).filter(|letter| letter.is_whitespace() || *letter == '\u{feff}').map(char::len_utf8)
    }

    /// Past the carriage return at an offset, with the line feed behind it.
    fn behind_line_end(&self, at: usize) -> usize {
        if self.byte(at + 1) == b'\n' { at + 2 } else { at + 1 }
    }

    /// Up to the end of the line.
    fn line_comment(&mut self, tokens: &mut Vec<Token>) {
        let end = self.end_of_line(self.at);
        // Characters beyond ASCII end lines, too; a search for their first bytes is enough where there are none.
        let comment = &self.source[self.at..end];
        let end = memchr2(0xe2, 0xc2, comment.as_bytes())
            .and_then(|_| comment.find(['\u{85}', '\u{2028}', '\u{2029}']))
            .map_or(end, |length| self.at + length);
        self.push(tokens, TokenKind::Comment, end);
    }

    /// The offset of what ends the line.
    fn end_of_line(&self, at: usize) -> usize {
        let rest = &self.bytes[at..];
        at + memchr2(b'\n', b'\r', rest).unwrap_or(rest.len())
    }
}
