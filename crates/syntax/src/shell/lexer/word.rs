//! Words and their parts.

use super::{Lexer, Open, Place, Regex};
use crate::tree::{Problem, TokenKind};

/// What an assignment begins with.
struct Target {
    /// Where its name ends.
    name_end: usize,
    has_subscript: bool,
}

impl Lexer<'_> {
    /// A word begins with something that is not a plain character: it is no reserved word, and no command can begin after it.
    pub(super) fn finish_if_new_word(&mut self) {
        if !self.place.in_word {
            self.place.command = false;
            self.place.target = false;
        }
    }

    /// One part of a word.
    pub(super) fn part(&mut self) {
        let start = self.position;
        if self.place.regex == Regex::Now && !matches!(self.bytes[start], b'\'' | b'"' | b'$' | b'`') {
            return self.regex_part();
        }
        match self.bytes[start] {
            b'\'' => self.single_quoted(start + 1),
            b'"' => self.open_quotes(1),
            b'\\' if self.opens_escaped_quotes(start) => {
                self.finish_if_new_word();
                self.open(Open::EscapedQuotes, TokenKind::FormatStart, 2, Place::START);
            }
            b'$' => self.dollar(),
            b'`' => self.backquote(),
            byte if self.opens_alternatives(byte) => {
                self.open(Open::Alternatives, TokenKind::PatternOpen, 2, self.place)
            }
            _ => {
                let end = self.end_of_plain(start);
                self.push_part(TokenKind::ShellText, end);
            }
        }
    }

    /// Plain characters and escaped ones, up to what means something.
    fn end_of_plain(&self, start: usize) -> usize {
        let mut end = start;
        loop {
            match self.byte(end) {
                0 if end >= self.bytes.len() => return end,
                b' ' | b'\t' | b'\n' | b';' | b'&' | b'|' | b'<' | b'>' | b'(' | b')' => return end.max(start + 1),
                b'\'' | b'"' | b'$' | b'`' => return end.max(start + 1),
                b'\\' if self.opens_escaped_quotes(end) => return end,
                b'\\' => end = self.past_escape(end),
                byte if end > start
                    && self.byte(end + 1) == b'('
                    && is_pattern_mark(byte)
                    && self.allows_alternatives() =>
                {
                    return end;
                }
                _ => end += 1,
            }
        }
    }

    fn opens_alternatives(&self, byte: u8) -> bool {
        is_pattern_mark(byte) && self.byte(self.position + 1) == b'(' && self.allows_alternatives()
    }

    /// Where a command may begin, `!(` is a negated subshell.
    fn allows_alternatives(&self) -> bool {
        !self.place.command
    }

    /// The characters of a regular expression: brackets of all sorts are its own, and what is in round ones may hold whitespace.
    fn regex_part(&mut self) {
        let mut parens = self.place.regex_parens;
        let mut end = self.position;
        loop {
            match self.byte(end) {
                0 if end >= self.bytes.len() => break,
                b'\n' => break,
                b' ' | b'\t' if parens == 0 => break,
                b'\'' | b'"' | b'$' | b'`' if end > self.position => break,
                b'(' => parens += 1,
                b')' if parens == 0 => break,
                b')' => parens -= 1,
                b'\\' => {
                    end = self.past_escape(end);
                    continue;
                }
                _ => {}
            }
            end = self.past_character(end);
        }
        self.place.regex_parens = parens;
        let end = end.max(self.past_character(self.position));
        self.push_part(TokenKind::ShellText, end);
    }

    pub(super) fn single_quoted(&mut self, inner: usize) {
        let start = self.position;
        match memchr::memchr(b'\'', &self.bytes[inner..]) {
            Some(length) => self.push_part(TokenKind::String, inner + length + 1),
            None => self.unclosed_string(start),
        }
    }

    /// `$'…'`, in which a backslash escapes.
    pub(super) fn escaped_quoted(&mut self) {
        let start = self.position;
        let mut end = start + 2;
        while end < self.bytes.len() && self.bytes[end] != b'\'' {
            end = if self.bytes[end] == b'\\' { self.past_escape(end) } else { self.past_character(end) };
        }
        if end >= self.bytes.len() {
            return self.unclosed_string(start);
        }
        self.push_part(TokenKind::String, end + 1);
    }

    fn unclosed_string(&mut self, start: usize) {
        self.fault(start, start + 1, Problem::Rule("this quote is never closed"));
        self.push_part(TokenKind::String, self.bytes.len());
    }

    pub(super) fn open_quotes(&mut self, length: usize) {
        self.finish_if_new_word();
        self.open(Open::Quotes, TokenKind::FormatStart, length, Place::START);
    }

    /// Whether `\"` quotes here: within backquotes that are within double quotes (POSIX.1-2024, XCU 2.6.3).
    fn opens_escaped_quotes(&self, at: usize) -> bool {
        let is_between = || {
            let open = self.frames.iter().rposition(|frame| frame.open == Open::Backquotes);
            open.is_some_and(|open| open > 0 && self.frames[open - 1].open == Open::Quotes)
        };
        self.byte(at) == b'\\' && self.byte(at + 1) == b'"' && is_between()
    }

    /// Within such quotes.
    pub(super) fn quoted_by_escapes(&mut self) {
        let start = self.position;
        match self.bytes[start] {
            b'\\' if self.byte(start + 1) == b'"' => self.close_part(TokenKind::FormatEnd, 2),
            b'$' => self.dollar(),
            b'`' => self.backquote(),
            _ => {
                let mut end = start;
                while end < self.bytes.len() && !matches!(self.bytes[end], b'$' | b'`') {
                    match (self.bytes[end], self.byte(end + 1)) {
                        (b'\\', b'"') => break,
                        (b'\\', _) => end = self.past_escape(end),
                        _ => end += 1,
                    }
                }
                self.push(TokenKind::FormatText, end);
            }
        }
    }

    /// Within double quotes.
    pub(super) fn quoted(&mut self) {
        let start = self.position;
        match self.bytes[start] {
            b'"' => self.close_part(TokenKind::FormatEnd, 1),
            b'$' => self.dollar(),
            b'`' => self.backquote(),
            _ => {
                let mut end = start;
                while end < self.bytes.len() && !matches!(self.bytes[end], b'"' | b'$' | b'`') {
                    end = if self.bytes[end] == b'\\' { self.past_escape(end) } else { end + 1 };
                }
                self.push(TokenKind::FormatText, end);
            }
        }
    }

    /// The alternatives of a pattern.
    pub(super) fn alternatives(&mut self) {
        let start = self.position;
        match self.bytes[start] {
            b')' => self.close_part(TokenKind::ParenClose, 1),
            b'\'' => self.single_quoted(start + 1),
            b'"' => self.open_quotes(1),
            b'$' => self.dollar(),
            b'`' => self.backquote(),
            byte if is_pattern_mark(byte) && self.byte(start + 1) == b'(' => {
                self.open(Open::Alternatives, TokenKind::PatternOpen, 2, self.place);
            }
            _ => {
                let mut end = start;
                while end < self.bytes.len() && !matches!(self.bytes[end], b')' | b'\'' | b'"' | b'$' | b'`') {
                    if end > start && is_pattern_mark(self.bytes[end]) && self.byte(end + 1) == b'(' {
                        break;
                    }
                    end = if self.bytes[end] == b'\\' { self.past_escape(end) } else { end + 1 };
                }
                self.push_part(TokenKind::ShellText, end);
            }
        }
    }

    /// `name=`, `name+=` or `name[…]=`, if that is what begins here.
    pub(super) fn assignment(&mut self) -> bool {
        let Some(target) = self.assignment_target() else { return false };
        self.push_part(TokenKind::Name, target.name_end);
        if target.has_subscript {
            self.open(Open::Subscript { brackets: 0 }, TokenKind::BracketOpen, 1, self.place);
            return true;
        }
        self.assignment_sign();
        true
    }

    /// After the name, and perhaps a subscript.
    pub(super) fn assignment_sign(&mut self) {
        let (kind, length) = match (self.byte(self.position), self.byte(self.position + 1)) {
            (b'+', b'=') => (TokenKind::PlusAssign, 2),
            (b'=', _) => (TokenKind::Assign, 1),
            _ => return,
        };
        self.push_part(kind, self.position + length);
        let joins_lines = self.byte(self.position) == b'\\' && self.byte(self.position + 1) == b'\n';
        if joins_lines && self.byte(self.position + 2) == b'(' {
            self.push(TokenKind::LineJoin, self.position + 2);
        }
        if self.byte(self.position) == b'(' {
            self.open(Open::Array, TokenKind::ParenOpen, 1, Place { command: false, ..Place::START });
        }
    }

    fn assignment_target(&self) -> Option<Target> {
        let start = self.position;
        let first = self.byte(start);
        if !(first.is_ascii_alphabetic() || first == b'_') {
            return None;
        }
        let name_end = (start..).find(|at| !is_name_byte(self.byte(*at)))?;
        match (self.byte(name_end), self.byte(name_end + 1)) {
            (b'=', _) | (b'+', b'=') => Some(Target { name_end, has_subscript: false }),
            (b'[', _) => {
                let close = self.subscript_end(name_end)?;
                let sign = (self.byte(close + 1), self.byte(close + 2));
                matches!(sign, (b'=', _) | (b'+', b'=')).then_some(Target { name_end, has_subscript: true })
            }
            _ => None,
        }
    }

    /// Where the bracket that opens at a place is closed, on the same line and without a space outside of quotes.
    fn subscript_end(&self, open: usize) -> Option<usize> {
        let mut depth = 0_u32;
        let mut quote = 0;
        for at in open..self.bytes.len() {
            match self.bytes[at] {
                b'\n' => return None,
                byte if quote != 0 => quote = if byte == quote { 0 } else { quote },
                byte @ (b'\'' | b'"') => quote = byte,
                b'[' => depth += 1,
                b']' if depth == 1 => return Some(at),
                b']' => depth -= 1,
                _ => {}
            }
        }
        None
    }
}

/// What is before the alternatives of a pattern.
fn is_pattern_mark(byte: u8) -> bool {
    matches!(byte, b'?' | b'*' | b'+' | b'@' | b'!')
}

pub(super) fn is_name_byte(byte: u8) -> bool {
    byte == b'_' || byte.is_ascii_alphanumeric()
}
