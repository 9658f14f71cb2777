//! What tags hold (the JSX specification of 2022): text between them, names with hyphens, values without escapes.

use super::Lexer;
use super::bytes::{Class, class_of};
use crate::tree::{Token, TokenKind};

impl Lexer<'_> {
    /// Text up to a tag or an interpolation, or else what is there.
    pub(super) fn markup_text(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let found = memchr::memchr2(b'<', b'{', &self.bytes[start..]);
        let end = found.map_or(self.bytes.len(), |length| start + length);
        if end == start {
            let kind = match self.byte(start) {
                b'<' => TokenKind::Less,
                b'{' => TokenKind::BraceOpen,
                _ => return self.push(tokens, TokenKind::EndOfFile, start),
            };
            return self.push(tokens, kind, start + 1);
        }
        if let Some(at) = memchr::memchr2(b'>', b'}', &self.bytes[start..end]) {
            let at = start + at;
            let problem = "between tags, '>' and '}' must be a string in braces";
            self.fault(at, at + 1, problem);
        }
        self.push(tokens, TokenKind::MarkupText, end);
    }

    /// `data-quay`: a name with hyphens; anything else as usual.
    pub(super) fn markup_name(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let Some(mut end) = self.end_of_name(start) else { return self.usual(tokens) };
        while self.byte(end) == b'-' {
            end += 1;
            while self.byte(end) == b'-' || matches!(class_of(self.byte(end)), Class::Letter | Class::Digit) {
                end += 1;
            }
        }
        self.push(tokens, TokenKind::Name, end);
    }

    /// A text in quotes, over line ends and without escapes; anything else as usual.
    pub(super) fn markup_value(&mut self, tokens: &mut Vec<Token>) {
        let before = tokens.len();
        self.usual(tokens);
        let Some(start) = tokens.get(before..).and_then(|new| new.iter().find(|token| token.kind == TokenKind::String))
        else {
            return;
        };
        let start = start.start as usize;
        self.forget_faults_from(start);
        match memchr::memchr(self.bytes[start], &self.bytes[start + 1..]) {
            Some(length) => self.at = start + 1 + length + 1,
            None => {
                self.fault(start, start + 1, "this string is never closed");
                self.at = self.bytes.len();
            }
        }
    }
}
