//! What begins with `$`, and commands in backquotes.

use super::word::is_name_byte;
use super::{Lexer, Open, Place};
use crate::tree::{Problem, TokenKind};

impl Lexer<'_> {
    /// At a `$`, in a word or in quotes.
    pub(super) fn dollar(&mut self) {
        let start = self.position;
        self.finish_if_new_word();
        let quoted = matches!(self.top(), Some(Open::Quotes | Open::EscapedQuotes | Open::Here { .. }));
        match self.byte(start + 1) {
            b'(' if self.byte(start + 2) == b'(' && self.is_arithmetic(start + 3) => {
                self.open(Open::Arithmetic { parens: 0 }, TokenKind::DollarParens, 3, Place::START);
            }
            b'(' => self.open(Open::Commands, TokenKind::DollarParen, 2, Place::START),
            b'{' => self.open_braces(),
            b'[' => self.open(Open::Subscript { brackets: 0 }, TokenKind::DollarBracket, 2, Place::START),
            b'\'' if !quoted => self.escaped_quoted(),
            b'"' if !quoted => self.open_quotes(2),
            byte if byte == b'_' || byte.is_ascii_alphabetic() => {
                let end = (start + 1..).find(|at| !is_name_byte(self.byte(*at))).unwrap_or(start + 2);
                self.push_part(TokenKind::ShellParameter, end);
            }
            b'0'..=b'9' | b'@' | b'*' | b'#' | b'?' | b'-' | b'$' | b'!' => {
                self.push_part(TokenKind::ShellParameter, start + 2);
            }
            _ => {
                let kind = if quoted { TokenKind::FormatText } else { TokenKind::ShellText };
                self.push_part(kind, start + 1);
            }
        }
    }

    /// `${`, the parameter, and what tells how quotes are read after it.
    fn open_braces(&mut self) {
        let in_quotes = matches!(self.top(), Some(Open::Quotes | Open::EscapedQuotes | Open::Here { .. }))
            || matches!(self.top(), Some(Open::Braces { plain_quotes: true }));
        self.open(Open::Braces { plain_quotes: false }, TokenKind::DollarBrace, 2, Place::START);
        if self.gave_up {
            return;
        }
        let start = self.position;
        // `#` and `!` before a parameter ask for its length, or for the parameter that it names.
        let mut at = start;
        if matches!(self.byte(at), b'#' | b'!')
            && !matches!(self.byte(at + 1), b'}' | b':' | b'-' | b'=' | b'+' | b'%' | b'/')
        {
            at += 1;
        }
        let name_end = match self.byte(at) {
            byte if is_name_byte(byte) => (at..).find(|at| !is_name_byte(self.byte(*at))).unwrap_or(at + 1),
            b'@' | b'*' | b'#' | b'?' | b'-' | b'$' | b'!' => at + 1,
            _ => at,
        };
        if name_end > at {
            if at > start {
                self.push(TokenKind::ShellText, at);
            }
            self.push(TokenKind::Name, name_end);
        }
        let operator = self.byte(self.position);
        let after = if operator == b':' { self.byte(self.position + 1) } else { operator };
        let plain_quotes = in_quotes && matches!(after, b'-' | b'=' | b'?' | b'+');
        if let Some(frame) = self.frames.last_mut() {
            frame.open = Open::Braces { plain_quotes };
        }
    }

    /// Within `${ … }`, after the parameter.
    pub(super) fn in_braces(&mut self, plain_quotes: bool) {
        let start = self.position;
        match self.bytes[start] {
            b'}' => self.close_part(TokenKind::BraceClose, 1),
            b'\'' if !plain_quotes => self.single_quoted(start + 1),
            b'"' => self.open_quotes(1),
            b'$' => self.dollar(),
            b'`' => self.backquote(),
            _ => {
                let mut end = start;
                while end < self.bytes.len() {
                    match self.bytes[end] {
                        b'}' | b'"' | b'$' | b'`' => break,
                        b'\'' if !plain_quotes => break,
                        b'\\' => end = self.past_escape(end),
                        _ => end += 1,
                    }
                }
                self.push(TokenKind::ShellText, end.max(start + 1));
            }
        }
    }

    /// Opens commands in backquotes, or closes those that are open.
    pub(super) fn backquote(&mut self) {
        let Some(open) = self.frames.iter().rposition(|frame| frame.open == Open::Backquotes) else {
            self.finish_if_new_word();
            return self.open(Open::Backquotes, TokenKind::Backquote, 1, Place::START);
        };
        if open + 1 < self.frames.len() {
            let inner = self.frames[self.frames.len() - 1];
            self.fault(
                inner.at as usize,
                inner.at as usize + 1,
                Problem::Rule("this is not closed before the backquote"),
            );
            self.frames.truncate(open + 1);
        }
        self.close_part(TokenKind::Backquote, 1);
    }
}
