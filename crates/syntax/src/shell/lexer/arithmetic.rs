//! Arithmetic, and subscripts, which are arithmetic most of the time.

use super::word::is_name_byte;
use super::{Lexer, Open};
use crate::tree::TokenKind;

impl Lexer<'_> {
    /// Whether two parentheses that open before a place are closed by two that are together: then it is arithmetic, else it is a
    /// subshell in a substitution or in another subshell.
    pub(super) fn is_arithmetic(&self, inner: usize) -> bool {
        let mut depth = 0_u32;
        let mut at = inner;
        while at < self.bytes.len() {
            match self.bytes[at] {
                b'\\' => at += 1,
                b'\'' => match memchr::memchr(b'\'', &self.bytes[at + 1..]) {
                    Some(length) => at += length + 1,
                    None => return false,
                },
                b'"' => match self.past_quotes(at + 1) {
                    Some(end) => at = end,
                    None => return false,
                },
                b'(' => depth += 1,
                b')' if depth == 0 => return self.byte(at + 1) == b')',
                b')' => depth -= 1,
                b';' if depth == 0 && self.byte(at + 1) == b';' => return self.looks_like_loop(inner),
                _ => {}
            }
            at += 1;
        }
        false
    }

    /// `for ((;;))` has two semicolons side by side.
    fn looks_like_loop(&self, inner: usize) -> bool {
        let end = memchr::memchr(b'\n', &self.bytes[inner..]).map_or(self.bytes.len(), |length| inner + length);
        memchr::memmem::find(&self.bytes[inner..end], b"))").is_some()
    }

    /// The closing quote, from just after the opening one.
    fn past_quotes(&self, inner: usize) -> Option<usize> {
        let mut at = inner;
        while at < self.bytes.len() {
            match self.bytes[at] {
                b'"' => return Some(at),
                b'\\' => at += 1,
                _ => {}
            }
            at += 1;
        }
        None
    }

    /// Within `(( … ))`.
    pub(super) fn arithmetic(&mut self, parens: u32) {
        match (self.bytes[self.position], parens) {
            (b')', 0) => {
                let length = if self.byte(self.position + 1) == b')' { 2 } else { 1 };
                let frame = self.frames[self.frames.len() - 1];
                let is_command = self.bytes[frame.at as usize] == b'(';
                self.close(TokenKind::ParensClose, length);
                self.place.in_word = !is_command;
                self.place.command = is_command || self.place.command;
            }
            (b'(', _) => self.set_depth(Open::Arithmetic { parens: parens + 1 }, TokenKind::ParenOpen),
            (b')', _) => self.set_depth(Open::Arithmetic { parens: parens - 1 }, TokenKind::ParenClose),
            _ => self.operand(),
        }
    }

    /// Within `[ … ]`.
    pub(super) fn subscript(&mut self, brackets: u32) {
        match (self.bytes[self.position], brackets) {
            (b']', 0) => {
                self.close_part(TokenKind::BracketClose, 1);
                self.assignment_sign();
            }
            (b'[', _) => self.set_depth(Open::Subscript { brackets: brackets + 1 }, TokenKind::BracketOpen),
            (b']', _) => self.set_depth(Open::Subscript { brackets: brackets - 1 }, TokenKind::BracketClose),
            _ => self.operand(),
        }
    }

    fn set_depth(&mut self, open: Open, kind: TokenKind) {
        self.push(kind, self.position + 1);
        if let Some(frame) = self.frames.last_mut() {
            frame.open = open;
        }
    }

    /// A number, a name, an expansion, a quoted text, or any other character.
    fn operand(&mut self) {
        let start = self.position;
        match self.bytes[start] {
            b' ' | b'\t' | b'\n' => {
                let is_blank = |at: &usize| matches!(self.byte(*at), b' ' | b'\t' | b'\n');
                let end = (start..).find(|at| !is_blank(at)).unwrap_or(start + 1);
                self.push(TokenKind::LineEnd, end);
            }
            b'\\' if self.byte(start + 1) == b'\n' => self.push(TokenKind::LineJoin, start + 2),
            b'\'' => self.single_quoted(start + 1),
            b'"' => self.open_quotes(1),
            b'$' => self.dollar(),
            b'`' => self.backquote(),
            byte if byte.is_ascii_digit() => {
                let is_digit = |byte: u8| is_name_byte(byte) || matches!(byte, b'#' | b'@');
                let end = (start..).find(|at| !is_digit(self.byte(*at))).unwrap_or(start + 1);
                self.push(TokenKind::Number, end);
            }
            byte if is_name_byte(byte) => {
                let end = (start..).find(|at| !is_name_byte(self.byte(*at))).unwrap_or(start + 1);
                self.push(TokenKind::Name, end);
            }
            _ => {
                let end = self.past_character(start);
                self.push(TokenKind::ShellText, end);
            }
        }
    }
}
