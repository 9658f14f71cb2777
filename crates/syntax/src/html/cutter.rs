//! Cuts a page into tokens where the parser says what is there.

use crate::text::Span;
use crate::tree::{Builder, Fault, Kind, Mark, Problem, Role, Token, TokenId, TokenKind, Tree};

use super::template::Templates;

/// The place in a page, with the tokens and nodes before it.
pub(super) struct Cutter<'s> {
    pub(super) source: &'s str,
    pub(super) bytes: &'s [u8],
    /// Offset of what is not cut yet.
    pub(super) at: usize,
    pub(super) builder: Builder,
    pub(super) templates: Templates,
    tokens: Vec<Token>,
    faults: Vec<Fault>,
    /// Just past the last token that is no trivia.
    solid_end: TokenId,
}

impl<'s> Cutter<'s> {
    pub(super) fn new(source: &'s str) -> Cutter<'s> {
        let mut cutter = Cutter {
            source,
            bytes: source.as_bytes(),
            at: 0,
            builder: Builder::new(source.len() / 8),
            templates: Templates::default(),
            tokens: Vec::with_capacity(source.len() / 6 + 8),
            faults: Vec::new(),
            solid_end: 0,
        };
        if source.starts_with('\u{feff}') {
            cutter.trivia(TokenKind::ByteOrderMark, 3);
        }
        cutter
    }

    /// The next byte, or one some bytes ahead.
    #[inline]
    pub(super) fn peek(&self, ahead: usize) -> Option<u8> {
        self.bytes.get(self.at + ahead).copied()
    }

    /// A token up to a place.
    #[inline]
    pub(super) fn push(&mut self, kind: TokenKind, end: usize) {
        self.trivia(kind, end);
        self.solid_end = self.tokens.len() as TokenId;
    }

    #[inline]
    fn trivia(&mut self, kind: TokenKind, end: usize) {
        self.tokens.push(Token { start: self.at as u32, kind });
        self.at = end;
    }

    /// A comment up to a place.
    pub(super) fn comment(&mut self, end: usize) {
        self.trivia(TokenKind::Comment, end);
    }

    /// The whitespace up to the next character that is none.
    #[inline]
    pub(super) fn whitespace(&mut self) {
        loop {
            match self.peek(0) {
                Some(b' ' | b'\t' | b'\x0c') => {
                    let rest = &self.bytes[self.at..];
                    let length = rest.iter().position(|byte| !matches!(byte, b' ' | b'\t' | b'\x0c'));
                    self.trivia(TokenKind::Blank, self.at + length.unwrap_or(rest.len()));
                }
                Some(b'\n') => self.trivia(TokenKind::LineEnd, self.at + 1),
                Some(b'\r') => {
                    let length = if self.peek(1) == Some(b'\n') { 2 } else { 1 };
                    self.trivia(TokenKind::LineEnd, self.at + length);
                }
                _ => return,
            }
        }
    }

    /// Remembers that a node may begin here.
    #[inline]
    pub(super) fn open(&self) -> Mark {
        self.builder.open(self.tokens.len() as TokenId)
    }

    /// Finishes a node that ends with the last token that is no trivia.
    #[inline]
    pub(super) fn close(&mut self, mark: Mark, kind: Kind, role: Role) {
        self.builder.close(mark, kind, self.solid_end);
        self.builder.role(role);
    }

    /// A token that is a node of its own.
    #[inline]
    pub(super) fn leaf(&mut self, token: TokenKind, end: usize, kind: Kind, role: Role) {
        let mark = self.open();
        self.push(token, end);
        self.close(mark, kind, role);
    }

    /// Notes a fault over a stretch.
    pub(super) fn fault(&mut self, start: usize, end: usize, problem: Problem) {
        self.faults.push(Fault { span: Span::new(start as u32, end as u32), problem });
    }

    /// Whether a fault was noted at a place or behind it.
    pub(super) fn has_fault_from(&self, start: usize) -> bool {
        self.faults.last().is_some_and(|fault| fault.span.start as usize >= start)
    }

    /// The tree of everything.
    pub(super) fn finish(mut self) -> Tree {
        self.trivia(TokenKind::EndOfFile, self.bytes.len());
        self.builder.close(Mark::first(), Kind::File, self.tokens.len() as TokenId);
        self.builder.finish(self.tokens, self.source, self.faults)
    }
}
