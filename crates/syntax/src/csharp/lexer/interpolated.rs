//! "Interpolated strings": their tokens come one after the other, with what is in their holes in between.
//!
//! What is open is kept here with how it came to be, since the parser may go back and have a stretch cut again.

use super::Around;
use crate::parse::Scan;
use crate::tree::{Token, TokenKind};

/// A string that has begun.
#[derive(Debug, Clone, Copy)]
pub(super) struct Open {
    /// How many quotes end a raw one; nothing for another one.
    raw: Option<usize>,
    is_verbatim: bool,
    /// How many braces begin a hole.
    braces: usize,
    has_lines: bool,
    part: Part,
    /// How many brackets are open in the hole.
    depth: usize,
}

/// The part of a string that is cut.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Part {
    Text,
    Hole,
    Format,
}

/// A change of what is open, at the token that begins at an offset.
#[derive(Debug, Clone, Copy)]
pub(super) struct Change {
    offset: usize,
    what: What,
}

#[derive(Debug, Clone, Copy)]
enum What {
    Began,
    Ended(Open),
    Was(Open),
}

impl Open {
    pub(super) fn new(raw: Option<usize>, is_verbatim: bool, dollars: usize, has_lines: bool) -> Open {
        let braces = if raw.is_some() { dollars } else { 1 };
        Open { raw, is_verbatim, braces, has_lines, part: Part::Text, depth: 0 }
    }

    /// Whether its text may go on behind a line end.
    fn goes_over_lines(&self) -> bool {
        self.is_verbatim || self.has_lines
    }
}

impl Around {
    /// What is open becomes what it was before the token that begins at an offset.
    pub(super) fn undo_from(&mut self, offset: usize) {
        while let Some(change) = self.changes.pop_if(|change| change.offset >= offset) {
            match change.what {
                What::Began => drop(self.open.pop()),
                What::Ended(open) => self.open.push(open),
                What::Was(open) => {
                    if let Some(last) = self.open.last_mut() {
                        *last = open;
                    }
                }
            }
        }
    }
}

impl Scan<'_, Around> {
    pub(super) fn begin_string(&mut self, open: Open) {
        self.state.changes.push(Change { offset: self.at, what: What::Began });
        self.state.open.push(open);
    }

    fn end_string(&mut self) {
        if let Some(open) = self.state.open.pop() {
            self.state.changes.push(Change { offset: self.at, what: What::Ended(open) });
        }
    }

    fn change_string(&mut self, part: Part, depth: usize) {
        if let Some(last) = self.state.open.last_mut() {
            let before = std::mem::replace(last, Open { part, depth, ..*last });
            self.state.changes.push(Change { offset: self.at, what: What::Was(before) });
        }
    }

    /// The next token: of the innermost string, or of what is in its hole, where one is open.
    #[inline]
    pub(super) fn next(&mut self, tokens: &mut Vec<Token>) {
        let Some(open) = self.state.open.last().copied() else { return self.usual(tokens) };
        match open.part {
            Part::Text => self.string_text(tokens, &open),
            Part::Hole => self.in_hole(tokens, &open),
            Part::Format => self.format(tokens, &open),
        }
    }

    fn string_text(&mut self, tokens: &mut Vec<Token>, open: &Open) {
        let start = self.at;
        let mut at = start;
        loop {
            let Some(byte) = self.bytes.get(at).copied() else { break };
            match byte {
                b'"' => {
                    let run = self.end_of(at, |byte| byte == b'"') - at;
                    match open.raw {
                        Some(quotes) if run < quotes => at += run,
                        None if open.is_verbatim && run > 1 => at += 2,
                        _ if at > start => return self.push(tokens, TokenKind::FormatText, at),
                        raw => {
                            self.end_string();
                            let end = self.behind_mark(at + raw.map_or(1, |_| run));
                            return self.push(tokens, TokenKind::FormatEnd, end);
                        }
                    }
                }
                b'{' => {
                    let run = self.end_of(at, |byte| byte == b'{') - at;
                    if open.raw.is_none() && run > 1 {
                        at += 2;
                    } else if run < open.braces {
                        at += run;
                    } else {
                        // Braces before those of the hole are text.
                        let hole = at + run - open.braces;
                        if hole > start {
                            return self.push(tokens, TokenKind::FormatText, hole);
                        }
                        self.change_string(Part::Hole, 0);
                        return self.push(tokens, TokenKind::BraceOpen, hole + open.braces);
                    }
                }
                b'}' => {
                    let run = self.end_of(at, |byte| byte == b'}') - at;
                    if open.raw.is_none() && run > 1 {
                        at += 2;
                    } else {
                        if run >= open.braces {
                            self.fault(at, at + run, "this brace closes no hole");
                        }
                        at += run;
                    }
                }
                b'\\' if open.raw.is_none() && !open.is_verbatim => at = self.escape(at),
                b'\n' | b'\r' if !open.goes_over_lines() => break,
                _ => at += 1,
            }
        }
        self.fault(start, at, "the string is never closed");
        self.end_string();
        if at > start {
            return self.push(tokens, TokenKind::FormatText, at);
        }
        self.next(tokens);
    }

    fn in_hole(&mut self, tokens: &mut Vec<Token>, open: &Open) {
        let Some(byte) = self.trivia(tokens) else {
            return self.push(tokens, TokenKind::EndOfFile, self.at);
        };
        match byte {
            b'}' if open.depth == 0 => self.close_hole(tokens, open),
            b':' if open.depth == 0 && self.byte(self.at + 1) != b':' => {
                self.change_string(Part::Format, 0);
                self.push(tokens, TokenKind::Colon, self.at + 1);
            }
            b'(' | b'[' | b'{' => {
                self.change_string(Part::Hole, open.depth + 1);
                self.solid(tokens, byte);
            }
            b')' | b']' | b'}' => {
                self.change_string(Part::Hole, open.depth.saturating_sub(1));
                self.solid(tokens, byte);
            }
            _ => self.solid(tokens, byte),
        }
    }

    fn close_hole(&mut self, tokens: &mut Vec<Token>, open: &Open) {
        let run = self.end_of(self.at, |byte| byte == b'}') - self.at;
        if run < open.braces {
            self.fault(self.at, self.at + run, "a hole ends with as many braces as it begins with");
        }
        self.change_string(Part::Text, 0);
        self.push(tokens, TokenKind::BraceClose, self.at + run.min(open.braces));
    }

    /// How the value of a hole is written, up to the end of the hole.
    fn format(&mut self, tokens: &mut Vec<Token>, open: &Open) {
        let ends = |byte: u8| matches!(byte, b'}' | b'"') || matches!(byte, b'\n' | b'\r') && !open.goes_over_lines();
        let end = self.end_of(self.at, |byte| !ends(byte));
        if end > self.at {
            return self.push(tokens, TokenKind::FormatText, end);
        }
        if self.byte(end) == b'}' {
            return self.close_hole(tokens, open);
        }
        self.fault(end, (end + 1).min(self.bytes.len()), "the hole is never closed");
        self.change_string(Part::Text, 0);
        self.next(tokens);
    }
}
