//! Cuts a text into tokens while it is parsed, for lexers that ask the parser what it expects.

use memchr::memmem;

use super::Lex;
use crate::text::Span;
use crate::tree::{Fault, Problem, Token, TokenKind};

/// How a language cuts its tokens, with what its parser keeps of its own.
pub(crate) trait Scanning: Sized {
    /// What the parser may expect at a place.
    type Goal: Copy + Default;

    /// Appends the next token that is no trivia, and the trivia before it.
    fn lex(scan: &mut Scan<'_, Self>, tokens: &mut Vec<Token>, goal: Self::Goal);

    /// The text is cut again from an offset on: what is kept becomes what it was there.
    fn gone_back(&mut self, _offset: usize) {}
}

/// The place in a text, with the faults before it.
#[derive(Debug)]
pub(crate) struct Scan<'s, S> {
    pub(crate) source: &'s str,
    pub(crate) bytes: &'s [u8],
    /// Offset of the next character.
    pub(crate) at: usize,
    faults: Vec<Fault>,
    /// What only this language keeps.
    pub(crate) state: S,
}

impl<'s, S> Scan<'s, S> {
    /// At the beginning of a text.
    pub(crate) fn new(source: &'s str, state: S) -> Scan<'s, S> {
        Scan { source, bytes: source.as_bytes(), at: 0, faults: Vec::new(), state }
    }

    /// A token from the current place up to `end`.
    #[inline]
    pub(crate) fn push(&mut self, tokens: &mut Vec<Token>, kind: TokenKind, end: usize) {
        tokens.push(Token { start: self.at as u32, kind });
        self.at = end;
    }

    /// Notes that a stretch breaks a rule of the language.
    pub(crate) fn fault(&mut self, start: usize, end: usize, rule: &'static str) {
        self.problem(start, end, Problem::Rule(rule));
    }

    /// Notes what is wrong with a stretch.
    pub(crate) fn problem(&mut self, start: usize, end: usize, problem: Problem) {
        self.faults.push(Fault { span: Span::new(start as u32, end as u32), problem });
    }

    /// Forgets the faults that begin at an offset or behind it.
    pub(crate) fn forget_faults_from(&mut self, start: usize) {
        while self.faults.last().is_some_and(|fault| fault.span.start as usize >= start) {
            self.faults.pop();
        }
    }

    /// The byte at an offset; zero past the end.
    #[inline]
    pub(crate) fn byte(&self, at: usize) -> u8 {
        self.bytes.get(at).copied().unwrap_or(0)
    }

    /// The character at an offset.
    pub(crate) fn character(&self, at: usize) -> Option<char> {
        self.source.get(at..)?.chars().next()
    }

    /// The end of the bytes from an offset on of which something holds.
    #[inline]
    pub(crate) fn end_of(&self, at: usize, is_part: impl Fn(u8) -> bool) -> usize {
        let rest = &self.bytes[at.min(self.bytes.len())..];
        at + rest.iter().position(|byte| !is_part(*byte)).unwrap_or(rest.len())
    }

    /// `/* … */`, which ends at the first of its ends.
    pub(crate) fn unnested_comment(&mut self, tokens: &mut Vec<Token>) {
        let rest = &self.bytes[self.at + 2..];
        let end = match memmem::find(rest, b"*/") {
            Some(length) => self.at + length + 4,
            None => {
                self.fault(self.at, self.at + 2, "the comment is never closed");
                self.bytes.len()
            }
        };
        self.push(tokens, TokenKind::Comment, end);
    }

    /// An operator that begins with `>`, in a language with shifts that fill with zeros.
    pub(crate) fn shift_or_greater(&mut self, tokens: &mut Vec<Token>) {
        let (kind, length) = match &self.bytes[self.at..] {
            [_, b'>', b'>', b'=', ..] => (TokenKind::ShiftRightZeroAssign, 4),
            [_, b'>', b'>', ..] => (TokenKind::ShiftRightZero, 3),
            [_, b'>', b'=', ..] => (TokenKind::ShiftRightAssign, 3),
            [_, b'>', ..] => (TokenKind::ShiftRight, 2),
            [_, b'=', ..] => (TokenKind::GreaterEqual, 2),
            _ => (TokenKind::Greater, 1),
        };
        self.push(tokens, kind, self.at + length);
    }

    /// One character that nothing begins with.
    pub(crate) fn unknown(&mut self, tokens: &mut Vec<Token>) {
        let length = self.character(self.at).map_or(1, char::len_utf8);
        self.push(tokens, TokenKind::Unknown, self.at + length);
    }
}

impl<S: Scanning> Lex for Scan<'_, S> {
    type Goal = S::Goal;

    #[inline]
    fn lex(&mut self, tokens: &mut Vec<Token>, goal: S::Goal) {
        S::lex(self, tokens, goal);
    }

    fn end(&self) -> u32 {
        self.at as u32
    }

    fn restart(&mut self, offset: u32) {
        self.at = offset as usize;
        self.state.gone_back(self.at);
        self.forget_faults_from(self.at);
    }

    fn faults(&self) -> &[Fault] {
        &self.faults
    }
}
