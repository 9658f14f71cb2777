//! "Pre-processing directives": lines for the preprocessor, and what they leave out.

use super::Around;
use crate::parse::Scan;
use crate::tree::{Token, TokenKind};

/// The words of directives, with those of scripts.
const DIRECTIVES: &[&str] = &[
    "define",
    "undef",
    "if",
    "elif",
    "else",
    "endif",
    "line",
    "error",
    "warning",
    "region",
    "endregion",
    "pragma",
    "nullable",
    "r",
    "load",
];

impl Scan<'_, Around> {
    /// Whether only whitespace is before an offset on its line.
    pub(super) fn begins_line(&self, at: usize) -> bool {
        let before = self.bytes[..at].iter().rev().find(|byte| !matches!(byte, b' ' | b'\t' | 0x0b | 0x0c));
        before.is_none_or(|byte| matches!(byte, b'\n' | b'\r'))
            || self.source[..at].trim_end_matches([' ', '\t']) == "\u{feff}"
    }

    /// A line for the preprocessor, with the stretch that it leaves out.
    pub(super) fn directive(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let end = self.end_of_line(start);
        let line = self.source[start + 1..end].trim_start();
        let word = line.split(|letter: char| !letter.is_ascii_alphabetic()).next().unwrap_or_default();
        // A first line that says which program runs the file, and what is said to a build.
        let is_for_others = line.starts_with('!') || line.starts_with(':');
        if !is_for_others && !DIRECTIVES.contains(&word) {
            self.fault(start, start + 1 + (end - start - 1).min(word.len()), "there is no such directive");
        }
        if let Some(wrong) = self.state.left_out.wrong_at(start) {
            self.fault(start, end, wrong);
        }
        self.push(tokens, TokenKind::Directive, end);
        let next_line = match self.byte(end) {
            b'\r' => self.behind_line_end(end),
            b'\n' => end + 1,
            _ => return,
        };
        if let Some(left_out) = self.state.left_out.from(next_line) {
            self.push(tokens, TokenKind::LineEnd, next_line);
            self.push(tokens, TokenKind::LeftOut, left_out);
        }
    }
}
