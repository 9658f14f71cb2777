//! Here-documents: the word after `<<`, and the body from the next line on.

use super::{Lexer, Open, Pending, Place};
use crate::tree::TokenKind;

impl Lexer<'_> {
    /// After `<<`: reads ahead which line will end the body. The word itself is cut into tokens like any other.
    pub(super) fn here_delimiter(&mut self, indented: bool) {
        self.place.target = true;
        let mut at = self.position;
        while matches!(self.byte(at), b' ' | b'\t') || (self.byte(at) == b'\\' && self.byte(at + 1) == b'\n') {
            at += if self.byte(at) == b'\\' { 2 } else { 1 };
        }
        let (mut delimiter, mut quoted) = (Vec::new(), false);
        while at < self.bytes.len() {
            match self.bytes[at] {
                b' ' | b'\t' | b'\n' | b';' | b'&' | b'|' | b'<' | b'>' | b'(' | b')' => break,
                b'\\' => {
                    quoted = true;
                    delimiter.extend(self.bytes.get(at + 1));
                    at += 2;
                }
                quote @ (b'\'' | b'"') => {
                    quoted = true;
                    let Some(length) = memchr::memchr(quote, &self.bytes[at + 1..]) else { break };
                    delimiter.extend_from_slice(&self.bytes[at + 1..at + 1 + length]);
                    at += length + 2;
                }
                byte => {
                    delimiter.push(byte);
                    at += 1;
                }
            }
        }
        let delimiter = String::from_utf8_lossy(&delimiter).into_owned();
        self.pending.push_back(Pending { delimiter, quoted, indented });
    }

    /// At the beginning of the line after one with `<<`, or after the body before: the next body.
    pub(super) fn next_here_body(&mut self) {
        let Some(pending) = self.pending.pop_front() else {
            self.bodies_due = false;
            return;
        };
        let start = self.position;
        let end = self.end_of_body(&pending);
        if pending.quoted {
            self.push(TokenKind::HereText, end);
            self.end_of_here(end);
            return;
        }
        // An empty token, so that the body begins with a token of its own whatever is in it.
        self.open(Open::Here { end: end as u32 }, TokenKind::HereText, 0, Place::START);
        if end == start && !self.gave_up {
            self.here_body(end);
        }
    }

    /// Where the line begins that ends a body; the end of the text where there is none, which shells accept. The end of backquotes around
    /// it ends a line too.
    fn end_of_body(&self, pending: &Pending) -> usize {
        let in_backquotes = self.in_backquotes();
        let mut at = self.position;
        while at < self.bytes.len() {
            let end = memchr::memchr(b'\n', &self.bytes[at..]).map_or(self.bytes.len(), |length| at + length);
            let line = &self.source[at..end];
            let line = if pending.indented { line.trim_start_matches('\t') } else { line };
            let is_last = |line: &str| line.strip_prefix(&*pending.delimiter).is_some_and(|rest| rest.starts_with('`'));
            if line == pending.delimiter || in_backquotes && is_last(line) {
                return at;
            }
            at = end + 1;
        }
        self.bytes.len()
    }

    /// Whether backquotes are open.
    pub(super) fn in_backquotes(&self) -> bool {
        self.frames.iter().any(|frame| frame.open == Open::Backquotes)
    }

    /// Within a body in which expansions count.
    pub(super) fn here_body(&mut self, end: usize) {
        let start = self.position;
        if start >= end {
            if let Some(frame) = self.frames.pop() {
                self.place = frame.outer;
            }
            return self.end_of_here(start);
        }
        match self.bytes[start] {
            b'$' => self.dollar(),
            b'`' => self.backquote(),
            _ => {
                let mut at = start;
                while at < end && !matches!(self.bytes[at], b'$' | b'`') {
                    at = if self.bytes[at] == b'\\' { self.past_escape(at) } else { at + 1 };
                }
                self.push(TokenKind::FormatText, at);
            }
        }
    }

    /// The line that ends a body, and its line end.
    fn end_of_here(&mut self, start: usize) {
        let rest = &self.bytes[start..];
        let length = match self.in_backquotes() {
            true => memchr::memchr2(b'\n', b'`', rest),
            false => memchr::memchr(b'\n', rest),
        };
        let end = length.map_or(self.bytes.len(), |length| start + length);
        self.push(TokenKind::HereEnd, end);
        if self.byte(end) == b'\n' {
            self.push(TokenKind::LineEnd, end + 1);
        }
    }
}
