//! "Comments", and the first line of a script ("Shebang").

use memchr::{memchr, memchr2};

use super::Lexer;
use crate::tree::{Token, TokenKind};

impl Lexer<'_> {
    /// Up to the end of the line.
    pub(super) fn line_comment(&mut self, tokens: &mut Vec<Token>) {
        let rest = &self.bytes[self.at..];
        let length = memchr(b'\n', rest).unwrap_or(rest.len());
        let length = if rest[..length].ends_with(b"\r") { length - 1 } else { length };
        self.push(tokens, TokenKind::Comment, self.at + length.max(2));
    }

    /// `/* … */`, in which others may be.
    pub(super) fn block_comment(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let (mut at, mut open) = (start + 2, 1u32);
        while open > 0 {
            let Some(next) = memchr2(b'*', b'/', &self.bytes[at..]) else {
                self.fault(start, start + 2, "the comment is never closed");
                return self.push(tokens, TokenKind::Comment, self.bytes.len());
            };
            at += next;
            let step = match (self.byte(at), self.byte(at + 1)) {
                (b'*', b'/') => {
                    open -= 1;
                    2
                }
                (b'/', b'*') => {
                    open += 1;
                    2
                }
                _ => 1,
            };
            at += step;
        }
        self.push(tokens, TokenKind::Comment, at);
    }

    /// Whether the text begins with the name of a program that runs it, and not with an attribute.
    pub(super) fn begins_script(&self) -> bool {
        let Some(rest) = self.source.strip_prefix("#!") else { return false };
        let mut rest = rest.trim_start();
        while let Some(comment) = rest.strip_prefix("//") {
            rest = comment.split_once('\n').map_or("", |(_, behind)| behind).trim_start();
        }
        !rest.starts_with('[')
    }
}
