//! Comments.

use super::Lexer;
use crate::tree::{Token, TokenKind};

impl Lexer<'_> {
    /// `//` and the line of `#!`.
    pub(super) fn line_comment(&mut self, tokens: &mut Vec<Token>) {
        let end = self.end_of_line(self.at);
        self.push(tokens, TokenKind::Comment, end);
    }

    pub(super) fn block_comment(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        match memchr::memmem::find(&self.bytes[start + 2..], b"*/") {
            Some(length) => self.push(tokens, TokenKind::Comment, start + 2 + length + 2),
            None => {
                self.fault(start, start + 2, "this comment is never closed");
                self.push(tokens, TokenKind::Comment, self.bytes.len());
            }
        }
    }

    /// `<!--` anywhere and `-->` at the beginning of a line ("HTML-like Comments", annex B.1.1). Whether there was one.
    #[inline]
    pub(super) fn html_comment(&mut self, tokens: &mut Vec<Token>) -> bool {
        let rest = &self.bytes[self.at..];
        let opens = rest[0] == b'<' && rest.starts_with(b"<!--");
        let closes = rest[0] == b'-' && rest.starts_with(b"-->") && self.only_trivia_on_line(tokens);
        if opens || closes {
            self.line_comment(tokens);
        }
        opens || closes
    }

    fn only_trivia_on_line(&self, tokens: &[Token]) -> bool {
        let before = tokens.iter().rev().find(|token| !matches!(token.kind, TokenKind::Blank | TokenKind::Comment));
        before.is_none_or(|token| matches!(token.kind, TokenKind::LineEnd | TokenKind::ByteOrderMark))
    }

    /// The end of the text on this line, before its line end.
    pub(super) fn end_of_line(&self, start: usize) -> usize {
        let mut at = start;
        loop {
            let Some(found) = memchr::memchr3(b'\n', b'\r', 0xe2, &self.bytes[at..]) else { return self.bytes.len() };
            at += found;
            // U+2028 and U+2029 end lines too.
            if self.bytes[at] != 0xe2 || matches!(self.bytes[at..], [_, 0x80, 0xa8 | 0xa9, ..]) {
                return at;
            }
            at += 1;
        }
    }
}
