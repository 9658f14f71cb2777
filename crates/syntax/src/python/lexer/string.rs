//! Strings: section "String and Bytes literals" of the reference, and format strings (PEP 701, PEP 750).

use super::{Lexer, TokenKind};
use crate::tree::Problem;

/// A format string that is open.
#[derive(Debug, Clone, Copy)]
pub(super) struct FormatFrame {
    quote: u8,
    triple: bool,
    raw: bool,
    /// Brackets open where the string begins.
    base: usize,
}

impl Lexer<'_> {
    /// At the prefix of a string (the current position), its quote being at `quote_at`.
    pub(super) fn string(&mut self, quote_at: usize) {
        let start = self.position;
        let prefix = &self.bytes[start..quote_at];
        let quote = self.bytes[quote_at];
        let triple = self.byte(quote_at + 1) == quote && self.byte(quote_at + 2) == quote;
        let content = quote_at + if triple { 3 } else { 1 };
        if prefix.iter().any(|byte| matches!(byte, b'f' | b'F' | b't' | b'T')) {
            let raw = prefix.iter().any(|byte| matches!(byte, b'r' | b'R'));
            self.formats.push(FormatFrame { quote, triple, raw, base: self.brackets.len() });
            self.push_solid(TokenKind::FormatStart, content);
            return self.format_text(false);
        }
        let (end, closed) =
            if triple { self.end_of_triple(content, quote) } else { self.end_of_single(content, quote) };
        if !closed {
            self.fault(start, content, Problem::Rule("this string is never closed"));
        }
        self.push_solid(TokenKind::String, end);
    }

    fn end_of_single(&self, start: usize, quote: u8) -> (usize, bool) {
        let mut at = start;
        loop {
            match self.bytes.get(at) {
                None => return (at, false),
                Some(byte) if *byte == quote => return (at + 1, true),
                Some(b'\n' | b'\r') => return (at, false),
                Some(b'\\') => at = self.past_escape(at),
                Some(_) => at += 1,
            }
        }
    }

    fn end_of_triple(&self, start: usize, quote: u8) -> (usize, bool) {
        let mut at = start;
        while let Some(found) = memchr::memchr2(quote, b'\\', &self.bytes[at..]) {
            at += found;
            if self.bytes[at] == b'\\' {
                at = self.past_escape(at);
            } else if self.byte(at + 1) == quote && self.byte(at + 2) == quote {
                return (at + 3, true);
            } else {
                at += 1;
            }
            at = at.min(self.bytes.len());
        }
        (self.bytes.len(), false)
    }

    /// Just past a backslash and what it is before; the line end CR LF is one character here.
    fn past_escape(&self, at: usize) -> usize {
        let end = if self.byte(at + 1) == b'\r' && self.byte(at + 2) == b'\n' { at + 3 } else { at + 2 };
        end.min(self.bytes.len())
    }

    /// Text of the innermost format string, up to an interpolation or the string's end; with `spec`, the text of a format
    /// specification, which the closing brace ends.
    fn format_text(&mut self, spec: bool) {
        let Some(frame) = self.formats.last().copied() else { return };
        let mut at = self.position;
        loop {
            let byte = self.byte(at);
            match byte {
                _ if at >= self.bytes.len() => return self.unclosed_format(at),
                b'\n' | b'\r' if !frame.triple => return self.unclosed_format(at),
                b'{' if self.byte(at + 1) == b'{' && !spec => at += 2,
                b'{' => {
                    self.push_format_text(at);
                    return self.push_bracket(TokenKind::BraceOpen, true);
                }
                b'}' if spec => return self.push_format_text(at),
                b'}' if self.byte(at + 1) == b'}' => at += 2,
                b'}' => {
                    self.fault(at, at + 1, Problem::Rule("a lone '}' in a format string is written '}}'"));
                    at += 1;
                }
                b'\\' => at = self.past_format_escape(at, frame.raw),
                _ if byte == frame.quote => {
                    let length = if frame.triple { 3 } else { 1 };
                    let closes = !frame.triple || (self.byte(at + 1) == byte && self.byte(at + 2) == byte);
                    if closes {
                        return self.end_format(at, length, spec);
                    }
                    at += 1;
                }
                _ => at += 1,
            }
        }
    }

    /// `\N{NAME}` is no interpolation, and a backslash does not hide a brace.
    fn past_format_escape(&self, at: usize, raw: bool) -> usize {
        if !raw && self.byte(at + 1) == b'N' && self.byte(at + 2) == b'{' {
            let name = &self.bytes[at + 3..];
            let length = name.iter().take_while(|byte| byte.is_ascii_alphanumeric() || b" -()".contains(byte)).count();
            if name.get(length) == Some(&b'}') {
                return at + 3 + length + 1;
            }
        }
        if matches!(self.byte(at + 1), b'{' | b'}') { at + 1 } else { self.past_escape(at) }
    }

    fn push_format_text(&mut self, end: usize) {
        if end > self.position {
            self.push_solid(TokenKind::FormatText, end);
        }
    }

    fn end_format(&mut self, at: usize, length: usize, spec: bool) {
        self.push_format_text(at);
        if spec {
            self.drop_format_brackets();
        }
        self.formats.pop();
        self.push_solid(TokenKind::FormatEnd, at + length);
    }

    fn unclosed_format(&mut self, at: usize) {
        self.push_format_text(at);
        let start = self.position;
        self.fault(start, start, Problem::Rule("this format string is never closed"));
        self.drop_format_brackets();
        self.formats.pop();
    }

    /// The innermost format string ends although interpolations in it are open.
    fn drop_format_brackets(&mut self) {
        let Some(frame) = self.formats.last().copied() else { return };
        if let Some(open) = self.brackets.get(frame.base).copied() {
            self.fault(open.at as usize, open.at as usize + 1, Problem::Unclosed(open.kind));
            self.brackets.truncate(frame.base);
        }
    }

    /// Whether a colon here begins a format specification: directly within an interpolation, in no inner bracket.
    pub(super) fn colon_starts_format(&self) -> bool {
        self.brackets.last().is_some_and(|open| open.interpolation)
    }

    pub(super) fn start_format_spec(&mut self) {
        self.push_solid(TokenKind::Colon, self.position + 1);
        self.format_text(true);
    }

    /// After the `}` of an interpolation: back to the text around it.
    pub(super) fn after_interpolation(&mut self) {
        let Some(frame) = self.formats.last() else { return };
        // Within a specification the brace of the interpolation that it belongs to is still open.
        let in_spec = self.brackets.len() > frame.base;
        self.format_text(in_spec);
    }
}
