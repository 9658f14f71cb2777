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

use crate::parse::{Scan, Scanning};
use crate::tree::{Token, TokenKind};
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
pub(super) type Lexer<'s> = Scan<'s, OldForms>;

/// What only old scripts may hold.
#[derive(Debug)]
pub(super) struct OldForms {
    /// Comments of the form that hides a script from old browsers are recognised; false in modules and in TypeScript.
    pub(super) html_comments: bool,
    /// Numbers may begin with a zero, as old scripts have them.
    pub(super) leading_zeros: bool,
}

impl Scanning for OldForms {
    type Goal = Goal;

    #[inline]
    fn lex(scan: &mut Lexer<'_>, tokens: &mut Vec<Token>, goal: Goal) {
        match goal {
            Goal::Usual => scan.usual(tokens),
            Goal::RegularExpression => scan.regular_expression(tokens),
            Goal::Greater => scan.shift_or_greater(tokens),
            Goal::Less => scan.push(tokens, TokenKind::Less, scan.at + 1),
            Goal::Template => scan.template_text(tokens),
            Goal::MarkupText => scan.markup_text(tokens),
            Goal::MarkupName => scan.markup_name(tokens),
            Goal::MarkupValue => scan.markup_value(tokens),
        }
    }
}

impl Lexer<'_> {
    fn usual(&mut self, tokens: &mut Vec<Token>) {
        loop {
            let start = self.at;
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
                Class::Punctuation if self.state.html_comments && self.html_comment(tokens) => {}
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
                Class::Other => return self.odd_character(tokens),
            }
        }
    }

    /// Whitespace and line ends beyond ASCII ("White Space", "Line Terminators"); the byte-order mark counts as a space.
    fn blank_beyond_ascii(&mut self, tokens: &mut Vec<Token>) -> bool {
        let Some(character) = self.character(self.at) else { return false };
        let kind = match character {
            '\u{feff}' if self.at == 0 => TokenKind::ByteOrderMark,
            '\u{2028}' | '\u{2029}' => TokenKind::LineEnd,
            '\u{a0}' | '\u{feff}' | '\u{1680}' | '\u{2000}'..='\u{200a}' | '\u{202f}' | '\u{205f}' | '\u{3000}' => {
                TokenKind::Blank
            }
            _ => return false,
        };
        self.push(tokens, kind, self.at + character.len_utf8());
        true
    }

    /// A character that nothing begins with.
    fn odd_character(&mut self, tokens: &mut Vec<Token>) {
        let start = self.at;
        let end = start + self.character(start).map_or(1, char::len_utf8);
        let rule = match self.bytes[start] {
            0 => "a zero byte is not allowed in source code",
            byte if byte < 0x20 || byte == 0x7f => "a control character is not allowed here",
            b'#' => "'#' is only allowed before the name of a private member",
            b'\\' => "'\\' begins an escape only in strings and names",
            _ => "this character cannot be part of a name",
        };
        self.fault(start, end, rule);
        self.push(tokens, TokenKind::Unknown, end);
    }
}
