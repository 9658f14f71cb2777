//! Going on after a fault.

use super::{DEPTH_LIMIT, Lex, Parsed, Parser, Stop};
use crate::text::Span;
use crate::tree::{Kind, Mark, Problem, TokenKind};

impl<L: Lex> Parser<'_, L> {
    /// Leaves out the tokens of the current statement: up to the end of its line, or to what ends the block.
    pub fn skip_to_line_end(&mut self) {
        while !matches!(self.kind(), TokenKind::Newline | TokenKind::Indent | TokenKind::Dedent | TokenKind::EndOfFile)
        {
            self.bump();
        }
    }

    /// Leaves out everything up to the end of the block that has just begun, blocks within it included.
    pub fn skip_to_block_end(&mut self) {
        let mut open = 0u32;
        loop {
            match self.kind() {
                TokenKind::Indent => open += 1,
                TokenKind::Dedent if open == 0 => return,
                TokenKind::Dedent => open -= 1,
                TokenKind::EndOfFile => return,
                _ => {}
            }
            self.bump();
        }
    }

    /// How many braces are open of those from `mark` up to the current token.
    fn braces_open_since(&self, mark: Mark) -> u32 {
        (mark.token()..self.position()).fold(0, |open, token| match self.kind_of(token) {
            TokenKind::BraceOpen => open + 1,
            TokenKind::BraceClose => open.saturating_sub(1),
            _ => open,
        })
    }

    /// Leaves out what is left of a statement that began at `mark`: up to the semicolon or the brace that ends it, or to where it is said to end.
    /// At the top a brace that closes nothing belongs to it.
    pub fn skip_braced(&mut self, mark: Mark, is_top: bool, ends: impl Fn(&Self) -> bool) {
        let mut open = self.braces_open_since(mark);
        loop {
            match self.kind() {
                TokenKind::EndOfFile => return,
                TokenKind::Semicolon if open == 0 => return self.bump(),
                TokenKind::BraceClose if open == 0 && !is_top => return,
                TokenKind::BraceOpen => open += 1,
                TokenKind::BraceClose if open <= 1 => return self.bump(),
                TokenKind::BraceClose => open -= 1,
                _ if ends(self) => return,
                _ => {}
            }
            self.bump();
        }
    }

    /// Forgets all but the first of the faults noted since there were `before` of them, if they lie in the node that begins
    /// at `mark`: one mistake gives one finding. A fault that the lexer found there already counts as the first.
    pub fn keep_first_fault(&mut self, before: usize, mark: Mark) {
        let start = self.token_span(mark.token()).start;
        let end = self.token_span(self.position()).start;
        let told_by_lexer = self.lexer_fault_in(Span::new(start, end));
        self.faults.truncate(if told_by_lexer { before } else { (before + 1).min(self.faults.len()) });
    }

    /// Whether the lexer noted a fault in this stretch. Its faults are in the order of their places.
    fn lexer_fault_in(&self, span: Span) -> bool {
        let lexed = self.own.faults();
        let first = lexed.partition_point(|fault| fault.span.start < span.start);
        lexed.get(first).is_some_and(|fault| fault.span.start <= span.end)
    }

    /// Takes what is left after something that should be alone; tells of it if nothing was reported before.
    pub fn skip_to_end(&mut self) {
        if !self.at(TokenKind::EndOfFile) && self.fault_count() == 0 {
            let _ = self.expect(TokenKind::EndOfFile);
        }
        while !self.at(TokenKind::EndOfFile) {
            self.bump();
        }
    }

    /// Whether the current token is the first of its logical line.
    pub fn at_line_start(&self) -> bool {
        let before = self.tokens[..self.position() as usize].iter().rev().find(|token| !token.kind.is_trivia());
        before.is_none_or(|token| token.kind.is_layout())
    }

    /// How many faults are noted so far.
    pub fn fault_count(&self) -> usize {
        self.faults.len()
    }

    /// Leaves out code nested past the limit: up to the bracket that closes around it, or the end of the line. Stops where nothing is there.
    pub(super) fn leave_out_nested(&mut self) -> Parsed {
        let mark = self.open();
        let start = self.token_span(self.position()).start;
        let mut open = 0u32;
        loop {
            let kind = self.kind();
            if kind.is_layout() || (open == 0 && (kind.closes() || kind == TokenKind::FormatEnd)) {
                break;
            }
            if kind.opens() {
                open += 1;
            } else if kind.closes() {
                open -= 1;
            }
            self.bump();
        }
        if self.position() != mark.token() {
            self.close(mark, Kind::Opaque);
        }
        if !self.told_too_deep {
            self.told_too_deep = true;
            self.fault(Span::new(start, start + 1), Problem::TooDeep(DEPTH_LIMIT));
        }
        if self.position() == mark.token() { Err(Stop) } else { Ok(()) }
    }
}
