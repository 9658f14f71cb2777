//! Cuts a text into tokens from its beginning to its end, for lexers that need no parser to know what comes next.

use crate::text::Span;
use crate::tree::{Fault, Problem, Token, TokenKind};

/// The place in a text, with the tokens and the faults before it.
pub(crate) struct Cut<'s> {
    pub(crate) source: &'s str,
    pub(crate) bytes: &'s [u8],
    /// Offset of the next character.
    pub(crate) at: usize,
    tokens: Vec<Token>,
    faults: Vec<Fault>,
}

impl<'s> Cut<'s> {
    /// At the beginning of a text, behind its byte-order mark.
    pub(crate) fn new(source: &'s str) -> Cut<'s> {
        let tokens = Vec::with_capacity(source.len() / 4 + 8);
        let mut cut = Cut { source, bytes: source.as_bytes(), at: 0, tokens, faults: Vec::new() };
        if source.starts_with('\u{feff}') {
            cut.push(TokenKind::ByteOrderMark, 3);
        }
        cut
    }

    /// The next byte.
    #[inline]
    pub(crate) fn byte(&self) -> Option<u8> {
        self.bytes.get(self.at).copied()
    }

    /// A token from the current place up to another one, which becomes the current one.
    #[inline]
    pub(crate) fn push(&mut self, kind: TokenKind, end: usize) {
        self.tokens.push(Token { start: self.at as u32, kind });
        self.at = end;
    }

    /// Notes that a stretch breaks a rule of the language.
    pub(crate) fn fault(&mut self, start: usize, end: usize, rule: &'static str) {
        self.faults.push(Fault { span: Span::new(start as u32, end as u32), problem: Problem::Rule(rule) });
    }

    /// The end of the bytes from here on of which something holds.
    pub(crate) fn end_of(&self, is_part: impl Fn(u8) -> bool) -> usize {
        let rest = &self.bytes[self.at..];
        self.at + rest.iter().position(|byte| !is_part(*byte)).unwrap_or(rest.len())
    }

    /// One character that nothing begins with.
    pub(crate) fn unknown(&mut self) {
        let end = self.at + self.source[self.at..].chars().next().map_or(1, char::len_utf8);
        self.push(TokenKind::Unknown, end);
    }

    /// Notes a backslash with what is behind it as no escape, and gives the place after both.
    pub(crate) fn no_escape(&mut self, at: usize) -> usize {
        let letter = self.source[at + 1..].chars().next().map_or(0, char::len_utf8);
        self.fault(at, at + 1 + letter, "there is no such escape");
        at + 1 + letter
    }

    /// The tokens, which join to the text, and the faults.
    pub(crate) fn finish(mut self) -> (Vec<Token>, Vec<Fault>) {
        self.push(TokenKind::EndOfFile, self.at);
        (self.tokens, self.faults)
    }
}
