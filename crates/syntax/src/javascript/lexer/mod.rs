//! From text to tokens, one at a time: what `/`, `>`, `}` or a line of text mean depends on what the parser expects there.
//!
//! After "Lexical Grammar" (ECMAScript 2025, chapter 12), whose goal symbols are [`Goal`] here. Line ends are trivia; the parser asks for
//! them where they matter.

mod bytes;
mod comment;
mod literal;
mod markup;
mod number;
mod punctuation;
mod word;

pub(super) use literal::escapes;

use crate::parse::Lex;
use crate::text::Span;
use crate::tree::{Fault, Problem, Token, TokenKind};
use bytes::{Class, class_of};

/// What the parser expects at a place.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(super) enum Goal {
    /// A token of the usual sort: `/` divides, and each `>` represents itself.
    #[default]
    Usual,
    /// A regular expression, from its slash on.
    RegularExpression,
    /// An operator that begins with `>`, all of it.
    Greater,
    /// A `<` that represents itself.
    Less,
    /// The text of a template, after its backquote or after an interpolation.
    Template,
    /// Text between tags.
    MarkupText,
    /// A name in a tag, with hyphens.
    MarkupName,
    /// The value of an attribute: a text without escapes.
    MarkupValue,
}

/// Cuts a text into tokens.
#[derive(Debug)]
pub(super) struct Lexer<'s> {
    source: &'s str,
    bytes: &'s [u8],
    position: usize,
    faults: Vec<Fault>,
    /// Comments of the form that hides a script from old browsers are recognised; false in modules and in TypeScript.
    pub(super) html_comments: bool,
    /// Numbers may begin with a zero, as old scripts have them.
    leading_zeros: bool,
}

impl<'s> Lexer<'s> {
    /// `old_forms`: what only old scripts may hold, comments in the form of HTML and numbers with leading zeros.
    pub(super) fn new(source: &'s str, old_forms: bool) -> Lexer<'s> {
        Lexer {
            source,
            bytes: source.as_bytes(),
            position: 0,
            faults: Vec::new(),
            html_comments: old_forms,
            leading_zeros: old_forms,
        }
    }

    /// A token from the current position up to `end`.
    #[inline]
    fn push(&mut self, tokens: &mut Vec<Token>, kind: TokenKind, end: usize) {
        tokens.push(Token { start: self.position as u32, kind });
        self.position = end;
    }

    fn fault(&mut self, start: usize, end: usize, problem: Problem) {
        self.faults.push(Fault { span: Span::new(start as u32, end as u32), problem });
    }

    #[inline]
    fn byte(&self, at: usize) -> u8 {
        // Zero represents "past the end"; a real zero byte is a fault of its own.
        self.bytes.get(at).copied().unwrap_or(0)
    }

    /// The character at an offset.
    fn character(&self, at: usize) -> Option<char> {
        self.source.get(at..)?.chars().next()
    }

    fn usual(&mut self, tokens: &mut Vec<Token>) {
        loop {
            let start = self.position;
            let Some(byte) = self.bytes.get(start).copied() else {
                return self.push(tokens, TokenKind::EndOfFile, start);
            };
            match class_of(byte) {
                Class::Letter => return self.word(tokens),
                Class::Blank => {
                    let mut end = start + 1;
                    while class_of(self.byte(end)) == Class::Blank {
                        end += 1;
                    }
                    self.push(tokens, TokenKind::Blank, end);
                }
                Class::LineEnd => {
                    let end = if byte == b'\r' && self.byte(start + 1) == b'\n' { start + 2 } else { start + 1 };
                    self.push(tokens, TokenKind::LineEnd, end);
                }
                Class::Punctuation if self.html_comments && self.html_comment(tokens) => {}
                Class::Punctuation => return self.punctuation(tokens, byte),
                Class::Digit => return self.number(tokens),
                Class::Quote => return self.string(tokens, byte),
                Class::Backquote => return self.push(tokens, TokenKind::FormatStart, start + 1),
                Class::Slash => match self.byte(start + 1) {
                    b'/' => self.line_comment(tokens),
                    b'*' => self.block_comment(tokens),
                    b'=' => return self.push(tokens, TokenKind::SlashAssign, start + 2),
                    _ => return self.push(tokens, TokenKind::Slash, start + 1),
                },
                Class::Hash if start == 0 && self.byte(1) == b'!' => self.line_comment(tokens),
                Class::Hash => return self.private_name(tokens),
                Class::Backslash => return self.word_beyond_ascii(tokens),
                Class::HighByte => {
                    if !self.blank_beyond_ascii(tokens) {
                        return self.word_beyond_ascii(tokens);
                    }
                }
                Class::Other => return self.unknown(tokens),
            }
        }
    }

    /// Whitespace and line ends beyond ASCII ("White Space", "Line Terminators"); the byte-order mark counts as a space.
    fn blank_beyond_ascii(&mut self, tokens: &mut Vec<Token>) -> bool {
        let Some(character) = self.character(self.position) else { return false };
        let kind = match character {
            '\u{feff}' if self.position == 0 => TokenKind::ByteOrderMark,
            '\u{2028}' | '\u{2029}' => TokenKind::LineEnd,
            '\u{a0}' | '\u{feff}' | '\u{1680}' | '\u{2000}'..='\u{200a}' | '\u{202f}' | '\u{205f}' | '\u{3000}' => {
                TokenKind::Blank
            }
            _ => return false,
        };
        self.push(tokens, kind, self.position + character.len_utf8());
        true
    }

    fn unknown(&mut self, tokens: &mut Vec<Token>) {
        let start = self.position;
        let end = start + self.character(start).map_or(1, char::len_utf8);
        let problem = match self.bytes[start] {
            0 => Problem::Rule("a zero byte is not allowed in source code"),
            byte if byte < 0x20 || byte == 0x7f => Problem::Rule("a control character is not allowed here"),
            b'#' => Problem::Rule("'#' is only allowed before the name of a private member"),
            b'\\' => Problem::Rule("'\\' begins an escape only in strings and names"),
            _ => Problem::Rule("this character cannot be part of a name"),
        };
        self.fault(start, end, problem);
        self.push(tokens, TokenKind::Unknown, end);
    }
}

impl Lex for Lexer<'_> {
    type Goal = Goal;

    #[inline]
    fn lex(&mut self, tokens: &mut Vec<Token>, goal: Goal) {
        match goal {
            Goal::Usual => self.usual(tokens),
            Goal::RegularExpression => self.regular_expression(tokens),
            Goal::Greater => self.greater(tokens),
            Goal::Less => self.push(tokens, TokenKind::Less, self.position + 1),
            Goal::Template => self.template_text(tokens),
            Goal::MarkupText => self.markup_text(tokens),
            Goal::MarkupName => self.markup_name(tokens),
            Goal::MarkupValue => self.markup_value(tokens),
        }
    }

    fn end(&self) -> u32 {
        self.position as u32
    }

    fn restart(&mut self, offset: u32) {
        self.position = offset as usize;
        while self.faults.last().is_some_and(|fault| fault.span.start >= offset) {
            self.faults.pop();
        }
    }

    fn faults(&self) -> &[Fault] {
        &self.faults
    }
}
