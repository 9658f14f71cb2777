//! Indentation: the columns of the blocks that are open.
//!
//! A tab leads to the next multiple of eight; a second count with tabs of one tells indentation that depends on the width of a tab,
//! which the language forbids. A form feed starts the count again.

use super::Lexer;
use super::bytes::{Class, class_of};
use crate::tree::{Problem, TokenKind};

/// The most blocks within each other, as in CPython's tokenizer (`MAXINDENT`).
const BLOCK_LIMIT: usize = 100;

/// The open blocks, outermost first, without the file itself.
#[derive(Debug, Default)]
pub(super) struct Indentation {
    open: Vec<Columns>,
}

/// A line's indentation counted in two ways.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
struct Columns {
    /// With tab stops at multiples of eight.
    wide: u32,
    /// With tabs as wide as a space.
    narrow: u32,
}

impl Columns {
    fn add(&mut self, byte: u8) {
        match byte {
            b'\t' => {
                self.wide = (self.wide / 8 + 1) * 8;
                self.narrow += 1;
            }
            0x0c => *self = Columns::default(),
            _ => {
                self.wide += 1;
                self.narrow += 1;
            }
        }
    }

    /// The two counts do not agree on which line is further right.
    fn contradicts(self, other: Columns) -> bool {
        self.wide.cmp(&other.wide) != self.narrow.cmp(&other.narrow)
    }
}

impl Indentation {
    fn current(&self) -> Columns {
        self.open.last().copied().unwrap_or_default()
    }

    /// Leaves the innermost block, if there is one.
    pub(super) fn leave(&mut self) -> bool {
        self.open.pop().is_some()
    }
}

impl Lexer<'_> {
    /// At the beginning of a line outside brackets: takes its whitespace, and tells blocks that begin or end with it.
    pub(super) fn start_line(&mut self) {
        self.line_is_empty = true;
        let mut columns = Columns::default();
        // With joined lines in the indentation, the first part that is not empty counts.
        let mut settled: Option<Columns> = None;
        loop {
            let start = self.position;
            let mut end = start;
            while class_of(self.byte(end)) == Class::Blank {
                columns.add(self.byte(end));
                end += 1;
            }
            if end > start {
                self.push_to(TokenKind::Blank, end);
            }
            let joins =
                self.byte(end) == b'\\' && end + 1 < self.bytes.len() && class_of(self.byte(end + 1)) == Class::LineEnd;
            if !joins {
                break;
            }
            settled = settled.or(Some(columns).filter(|columns| columns.wide > 0));
            self.joined_line();
        }
        let blank = self.position >= self.bytes.len()
            || matches!(class_of(self.bytes[self.position]), Class::LineEnd | Class::Hash);
        if !blank {
            self.indent_to(settled.unwrap_or(columns));
        }
    }

    fn indent_to(&mut self, columns: Columns) {
        let current = self.indentation.current();
        if columns == current {
            return;
        }
        let at = self.position;
        if columns.contradicts(current) {
            self.fault(
                at,
                at,
                Problem::Rule("spaces and tabs are mixed so that the indentation depends on the width of a tab"),
            );
        }
        if columns.wide > current.wide {
            if self.indentation.open.len() == BLOCK_LIMIT {
                self.fault(at, at, Problem::TooDeep(BLOCK_LIMIT as u32));
            }
            self.indentation.open.push(columns);
            self.push_to(TokenKind::Indent, at);
            return;
        }
        while self.indentation.current().wide > columns.wide {
            self.indentation.leave();
            self.push_to(TokenKind::Dedent, at);
        }
        if self.indentation.current().wide != columns.wide {
            self.fault(at, at, Problem::Rule("this indentation fits no block that is open"));
        } else if self.indentation.current().narrow != columns.narrow {
            self.fault(
                at,
                at,
                Problem::Rule("spaces and tabs are mixed so that the indentation depends on the width of a tab"),
            );
        }
    }
}
