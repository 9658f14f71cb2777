//! From text to tokens, in one pass and for any text.
//!
//! Line structure becomes tokens here, as in the reference: `Newline` ends a logical line, `Indent` and `Dedent` (zero
//! wide) are before the first token of the line that changes the indentation. Line ends without meaning are
//! trivia. Format strings come out in pieces, with the tokens of their expressions in between.

mod bytes;
mod indentation;
mod number;
mod operator;
mod string;
mod word;

use crate::text::Span;
use crate::tree::{Fault, Problem, Token, TokenKind};
use bytes::{Class, class_of};
use indentation::Indentation;
use string::FormatFrame;

/// The deepest nesting of brackets, as in CPython's tokenizer (`MAXLEVEL`).
const BRACKET_LIMIT: usize = 200;

/// Cuts a text into tokens, the last being `EndOfFile`. Their strings put together are the text.
pub(super) fn tokens(source: &str) -> (Vec<Token>, Vec<Fault>) {
    let mut lexer = Lexer::new(source);
    lexer.run();
    lexer.faults.sort_by_key(|fault| fault.span);
    (lexer.tokens, lexer.faults)
}

/// A bracket that is open.
#[derive(Debug, Clone, Copy)]
struct Bracket {
    kind: TokenKind,
    at: u32,
    /// It is the `{` of an interpolation in the innermost format string.
    interpolation: bool,
}

struct Lexer<'s> {
    source: &'s str,
    bytes: &'s [u8],
    position: usize,
    tokens: Vec<Token>,
    faults: Vec<Fault>,
    brackets: Vec<Bracket>,
    formats: Vec<FormatFrame>,
    indentation: Indentation,
    /// No solid token is on the current logical line yet.
    line_is_empty: bool,
}

impl<'s> Lexer<'s> {
    fn new(source: &'s str) -> Lexer<'s> {
        Lexer {
            source,
            bytes: source.as_bytes(),
            position: 0,
            tokens: Vec::with_capacity(source.len() / 3 + 8),
            faults: Vec::new(),
            brackets: Vec::new(),
            formats: Vec::new(),
            indentation: Indentation::default(),
            line_is_empty: true,
        }
    }

    fn run(&mut self) {
        if self.source.starts_with('\u{feff}') {
            self.push_to(TokenKind::ByteOrderMark, '\u{feff}'.len_utf8());
        }
        self.start_line();
        while self.position < self.bytes.len() {
            self.next_token();
        }
        self.end_of_file();
    }

    // Every token begins where the one before it ends, which is what makes the tokens lossless.

    /// A token from the current position up to `end`.
    #[inline]
    fn push_to(&mut self, kind: TokenKind, end: usize) {
        self.tokens.push(Token { start: self.position as u32, kind });
        self.position = end;
    }

    /// A token of the program's text.
    #[inline]
    fn push_solid(&mut self, kind: TokenKind, end: usize) {
        self.line_is_empty = false;
        self.push_to(kind, end);
    }

    fn fault(&mut self, start: usize, end: usize, problem: Problem) {
        self.faults.push(Fault { span: Span::new(start as u32, end as u32), problem });
    }

    #[inline]
    fn byte(&self, at: usize) -> u8 {
        // Zero represents "past the end"; a real zero byte is a fault of its own.
        self.bytes.get(at).copied().unwrap_or(0)
    }

    #[inline]
    fn next_token(&mut self) {
        let start = self.position;
        let byte = self.bytes[start];
        match class_of(byte) {
            Class::Letter => self.word(),
            Class::Blank => {
                let end = self.end_of_blanks(start);
                self.push_to(TokenKind::Blank, end);
            }
            Class::Digit => self.number(),
            Class::Quote => self.string(start),
            Class::Operator => self.operator(byte),
            Class::Open => self.open_bracket(byte),
            Class::Close => self.close_bracket(byte),
            Class::LineEnd => self.line_end(),
            Class::Hash => {
                let end = self.end_of_line(start);
                self.push_to(TokenKind::Comment, end);
            }
            Class::Backslash => self.joined_line(),
            Class::HighByte => self.word_beyond_ascii(),
            Class::Other => self.unknown(),
        }
    }

    fn end_of_blanks(&self, start: usize) -> usize {
        let mut end = start + 1;
        while class_of(self.byte(end)) == Class::Blank {
            end += 1;
        }
        end
    }

    /// The end of the text on this line, before its line end.
    fn end_of_line(&self, start: usize) -> usize {
        memchr::memchr2(b'\n', b'\r', &self.bytes[start..]).map_or(self.bytes.len(), |length| start + length)
    }

    /// Just past the line end that begins at `at`.
    fn past_line_end(&self, at: usize) -> usize {
        if self.byte(at) == b'\r' && self.byte(at + 1) == b'\n' { at + 2 } else { at + 1 }
    }

    fn line_end(&mut self) {
        let end = self.past_line_end(self.position);
        if !self.brackets.is_empty() {
            self.push_to(TokenKind::LineEnd, end);
            self.give_up_brackets_before_statement();
            return;
        }
        let kind = if self.line_is_empty { TokenKind::LineEnd } else { TokenKind::Newline };
        self.push_to(kind, end);
        self.start_line();
    }

    /// A line that begins with a word that can only begin a statement shows that an open bracket was forgotten.
    fn give_up_brackets_before_statement(&mut self) {
        let mut at = self.position;
        while class_of(self.byte(at)) == Class::Blank {
            at += 1;
        }
        if !word::begins_only_statements(&self.bytes[at..]) {
            return;
        }
        let innermost = self.brackets[self.brackets.len() - 1];
        self.fault(innermost.at as usize, innermost.at as usize + 1, Problem::Unclosed(innermost.kind));
        self.brackets.clear();
        self.formats.clear();
        // The line end becomes the end of the logical line after all.
        if let Some(last) = self.tokens.last_mut() {
            last.kind = TokenKind::Newline;
        }
        self.start_line();
    }

    /// `\` at the end of a line joins it with the next one.
    fn joined_line(&mut self) {
        let start = self.position;
        let next = start + 1;
        if class_of(self.byte(next)) == Class::LineEnd && next < self.bytes.len() {
            let end = self.past_line_end(next);
            if end >= self.bytes.len() {
                self.fault(start, next, Problem::Rule("a line is joined with a next line that is not there"));
            }
            self.push_to(TokenKind::LineJoin, end);
            return;
        }
        self.fault(start, next, Problem::Rule("'\\' joins lines only at the very end of a line"));
        self.push_solid(TokenKind::Unknown, next);
    }

    fn unknown(&mut self) {
        let start = self.position;
        let end = start + self.source[start..].chars().next().map_or(1, char::len_utf8);
        let problem = match self.bytes[start] {
            0 => Problem::Rule("a zero byte is not allowed in source code"),
            b'$' | b'?' | b'`' => Problem::Rule("this character has no meaning outside strings and comments"),
            byte if byte < 0x20 || byte == 0x7f => Problem::Rule("a control character is not allowed here"),
            _ => Problem::Rule("this character cannot be part of a name"),
        };
        self.fault(start, end, problem);
        self.push_solid(TokenKind::Unknown, end);
    }

    fn open_bracket(&mut self, byte: u8) {
        let kind = match byte {
            b'(' => TokenKind::ParenOpen,
            b'[' => TokenKind::BracketOpen,
            _ => TokenKind::BraceOpen,
        };
        self.push_bracket(kind, false);
    }

    fn push_bracket(&mut self, kind: TokenKind, interpolation: bool) {
        if self.brackets.len() == BRACKET_LIMIT {
            self.fault(self.position, self.position + 1, Problem::TooDeep(BRACKET_LIMIT as u32));
        }
        self.brackets.push(Bracket { kind, at: self.position as u32, interpolation });
        self.push_solid(kind, self.position + 1);
    }

    fn close_bracket(&mut self, byte: u8) {
        let (kind, fitting) = match byte {
            b')' => (TokenKind::ParenClose, TokenKind::ParenOpen),
            b']' => (TokenKind::BracketClose, TokenKind::BracketOpen),
            _ => (TokenKind::BraceClose, TokenKind::BraceOpen),
        };
        let at = self.position;
        self.push_solid(kind, at + 1);
        match self.brackets.last().copied() {
            None => self.fault(at, at + 1, Problem::Unopened(kind)),
            Some(open) if open.kind != fitting => {
                self.fault(at, at + 1, Problem::Mismatched { open: open.kind, close: kind });
                self.close_mismatched(fitting);
            }
            Some(open) => {
                self.brackets.pop();
                if open.interpolation {
                    self.after_interpolation();
                }
            }
        }
    }

    /// A closing bracket that does not fit ends the bracket further out that it fits, with what was opened within it; where it fits
    /// none, it is taken for a slip and ends the innermost one. Nothing reaches out of an interpolation.
    fn close_mismatched(&mut self, fitting: TokenKind) {
        let border = self.brackets.iter().rposition(|open| open.interpolation).map_or(0, |format| format + 1);
        let fits = self.brackets[border..].iter().rposition(|open| open.kind == fitting);
        let innermost = self.brackets.len() - 1;
        self.brackets.truncate(fits.map_or(innermost.max(border), |outer| border + outer));
    }

    fn end_of_file(&mut self) {
        if let Some(open) = self.brackets.last() {
            self.fault(open.at as usize, open.at as usize + 1, Problem::Unclosed(open.kind));
            self.brackets.clear();
        }
        if !self.line_is_empty {
            self.push_to(TokenKind::Newline, self.position);
        }
        while self.indentation.leave() {
            self.push_to(TokenKind::Dedent, self.position);
        }
        self.push_to(TokenKind::EndOfFile, self.position);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn kinds(source: &str) -> Vec<TokenKind> {
        tokens(source).0.iter().map(|token| token.kind).filter(|kind| !kind.is_trivia()).collect()
    }

    #[test]
    fn blocks_become_tokens() {
        use TokenKind::{Colon, Dedent, EndOfFile, If, Indent, Name, Newline};
        let expected = [If, Name, Colon, Newline, Indent, Name, Newline, Dedent, Name, Newline, EndOfFile];
        assert_eq!(kinds("if a:\n  b\n# note\n\nc"), expected);
    }

    #[test]
    fn a_forgotten_bracket_ends_before_the_next_statement() {
        let (_, faults) = tokens("fares = (1,\ndef sell():\n    pass\n");
        assert_eq!(faults.len(), 1);
        assert_eq!(faults[0].problem, Problem::Unclosed(TokenKind::ParenOpen));
        assert_eq!(faults[0].span.start, 8);
    }

    #[test]
    fn format_strings_come_in_pieces() {
        use TokenKind::*;
        let expected = [
            FormatStart,
            FormatText,
            BraceOpen,
            Name,
            Exclamation,
            Name,
            Colon,
            FormatText,
            BraceOpen,
            Name,
            BraceClose,
            BraceClose,
            FormatEnd,
            Newline,
            EndOfFile,
        ];
        assert_eq!(kinds("f'{{to {quay!r:>{width}}'"), expected);
    }
}
