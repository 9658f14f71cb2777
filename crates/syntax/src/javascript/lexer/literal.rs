//! Strings, the text of templates, and regular expressions.

use super::Lexer;
use crate::tree::{Problem, Token, TokenKind};

impl Lexer<'_> {
    /// "String Literals". One that is not closed ends with its line.
    pub(super) fn string(&mut self, tokens: &mut Vec<Token>, quote: u8) {
        let start = self.at;
        let mut at = start + 1;
        let mut escaped = false;
        loop {
            match self.bytes.get(at) {
                None | Some(b'\n' | b'\r') => {
                    self.fault(start, start + 1, "this string is never closed");
                    break;
                }
                Some(b'\\') => {
                    escaped = true;
                    at = self.past_escape(at);
                }
                Some(byte) => {
                    at += 1;
                    if *byte == quote {
                        break;
                    }
                }
            }
        }
        if let Some(problem) = escaped.then(|| escapes(&self.source[start..at], self.state.leading_zeros)).flatten() {
            self.problem(start, at, problem);
        }
        self.push(tokens, TokenKind::String, at);
    }

    /// Just past a backslash and what it escapes; a line end may be two characters.
    fn past_escape(&self, at: usize) -> usize {
        let length = match (self.byte(at + 1), self.byte(at + 2)) {
            (b'\r', b'\n') => 3,
            _ => 1 + self.character(at + 1).map_or(0, char::len_utf8),
        };
        (at + length).min(self.bytes.len())
    }

    /// "Template Literal Lexical Components": the text up to an interpolation or the end, and then what is there.
    pub(super) fn template_text(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let mut at = start;
        // After text comes an interpolation or the end of the template: where there is neither, that has been reported.
        let is_reported = tokens.last().is_some_and(|last| last.kind == TokenKind::FormatText);
        loop {
            let Some(found) = memchr::memchr3(b'`', b'\\', b'$', &self.bytes[at..]) else {
                at = self.bytes.len();
                if !is_reported {
                    self.fault(start.saturating_sub(1), start, "this template is never closed");
                }
                break;
            };
            at += found;
            match self.bytes[at] {
                b'\\' => at = self.past_escape(at),
                b'$' if self.byte(at + 1) != b'{' => at += 1,
                _ => break,
            }
        }
        if at > start {
            return self.push(tokens, TokenKind::FormatText, at);
        }
        match self.byte(at) {
            b'`' => self.push(tokens, TokenKind::FormatEnd, at + 1),
            b'$' => self.push(tokens, TokenKind::DollarBrace, at + 2),
            _ => self.push(tokens, TokenKind::EndOfFile, at),
        }
    }

    /// "Regular Expression Literals", the flags included.
    pub(super) fn regular_expression(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let line_end = self.end_of_line(start);
        let mut at = start + 1;
        let mut in_class = false;
        let closed = loop {
            if at >= line_end {
                break false;
            }
            match self.bytes[at] {
                b'\\' => at = self.past_escape(at).min(line_end),
                b'[' => {
                    in_class = true;
                    at += 1;
                }
                b']' => {
                    in_class = false;
                    at += 1;
                }
                b'/' if !in_class => break true,
                _ => at += 1,
            }
        };
        if !closed {
            self.fault(start, start + 1, "this regular expression is never closed");
            return self.push(tokens, TokenKind::RegularExpression, line_end);
        }
        // Flags are the characters of a name, which may begin with any of them.
        let mut end = at + 1;
        while super::bytes::continues_word(self.byte(end)) {
            end += 1;
        }
        self.push(tokens, TokenKind::RegularExpression, end);
    }
}

/// What is wrong with the escapes of a string, or of the text of a template. Only strings of old scripts may have `octal` ones.
pub(in super::super) fn escapes(text: &str, octal: bool) -> Option<Problem> {
    let bytes = text.as_bytes();
    let mut at = 0;
    while let Some(found) = memchr::memchr(b'\\', &bytes[at..]) {
        at += found;
        let rest = &bytes[at + 1..];
        let sound = match rest.first() {
            Some(b'x') => digits(rest, 1, 2),
            Some(b'u') if rest.get(1) == Some(&b'{') => code_point(&rest[2..]),
            Some(b'u') => digits(rest, 1, 4),
            Some(b'0') if !octal => !rest.get(1).is_some_and(u8::is_ascii_digit),
            Some(b'1'..=b'9') => octal,
            _ => true,
        };
        if !sound {
            return Some(Problem::Rule(
                "an escape in this string is not complete, or is octal where only code points are allowed",
            ));
        }
        at = (at + 2).min(bytes.len());
    }
    None
}

fn digits(text: &[u8], from: usize, count: usize) -> bool {
    text.get(from..from + count).is_some_and(|digits| digits.iter().all(u8::is_ascii_hexdigit))
}

/// Hexadecimal digits up to `}` that give a code point.
fn code_point(text: &[u8]) -> bool {
    let Some(end) = memchr::memchr(b'}', text) else { return false };
    let digits = std::str::from_utf8(&text[..end]).unwrap_or_default();
    !digits.starts_with('+') && u32::from_str_radix(digits, 16).is_ok_and(|value| value <= 0x0010_ffff)
}
