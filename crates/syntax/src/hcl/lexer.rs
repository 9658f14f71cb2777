//! Tokens of HCL ("Lexical Elements", HCL native syntax), for any text.
//!
//! A string without parts is one token. One with parts, and a here-document, are cut into their pieces: what is open around a place is kept
//! on a stack.

use memchr::memchr;

use crate::parse::Cut;
use crate::tree::{Fault, Token, TokenKind};

/// Cuts a text into tokens, which join to it.
pub(super) fn tokens(source: &str) -> (Vec<Token>, Vec<Fault>) {
    let mut lexer = Lexer { cut: Cut::new(source), open: Vec::new(), has_content: false };
    while let Some(byte) = lexer.cut.byte() {
        match lexer.open.last() {
            Some(Open::Quoted) => lexer.quoted_part(),
            Some(Open::Here { .. }) => lexer.here_part(),
            _ => lexer.token(byte),
        }
    }
    lexer.cut.finish()
}

/// What is open around a place.
#[derive(Debug, Clone, Copy)]
enum Open {
    /// `{`, in which lines count; `for` has none.
    Brace { lines_count: bool },
    /// `(` or `[`.
    Bracket,
    /// `${` or `%{`.
    Part,
    /// A string with parts.
    Quoted,
    /// A here-document, by where the word that ends it is.
    Here { word: (usize, usize) },
}

struct Lexer<'s> {
    cut: Cut<'s>,
    open: Vec<Open>,
    /// Whether the line holds anything but whitespace and comments.
    has_content: bool,
}

/// What is nested deeper is no longer told apart: the parser leaves it out.
const DEEPEST: usize = 10_000;

impl Lexer<'_> {
    #[inline]
    fn push(&mut self, kind: TokenKind, end: usize) {
        self.cut.push(kind, end);
        self.has_content |= !kind.is_trivia();
    }

    #[inline]
    fn one(&mut self, kind: TokenKind) {
        self.push(kind, self.cut.at + 1);
    }

    fn peek(&self, ahead: usize) -> Option<u8> {
        self.cut.bytes.get(self.cut.at + ahead).copied()
    }

    fn enter(&mut self, open: Open) {
        if self.open.len() < DEEPEST {
            self.open.push(open);
        }
    }

    fn token(&mut self, byte: u8) {
        match byte {
            b' ' | b'\t' => {
                let end = self.cut.end_of(|byte| matches!(byte, b' ' | b'\t'));
                self.push(TokenKind::Blank, end);
            }
            b'\n' => self.line_end(1),
            b'\r' if self.peek(1) == Some(b'\n') => self.line_end(2),
            b'#' => self.line_comment(),
            b'/' if self.peek(1) == Some(b'/') => self.line_comment(),
            b'/' if self.peek(1) == Some(b'*') => self.comment(),
            b'"' => self.string(),
            b'<' if self.peek(1) == Some(b'<') && self.here_document() => {}
            b'0'..=b'9' => self.number(),
            b'{' => {
                let lines_count = !self.begins_for();
                self.one(TokenKind::BraceOpen);
                self.enter(Open::Brace { lines_count });
            }
            b'(' | b'[' => {
                self.one(if byte == b'(' { TokenKind::ParenOpen } else { TokenKind::BracketOpen });
                self.enter(Open::Bracket);
            }
            b')' | b']' => {
                self.one(if byte == b')' { TokenKind::ParenClose } else { TokenKind::BracketClose });
                if matches!(self.open.last(), Some(Open::Bracket)) {
                    self.open.pop();
                }
            }
            b'}' => {
                self.one(TokenKind::BraceClose);
                // A bracket that is open here was not closed: what is around it goes on.
                while matches!(self.open.last(), Some(Open::Bracket)) {
                    self.open.pop();
                }
                if matches!(self.open.last(), Some(Open::Brace { .. } | Open::Part)) {
                    self.open.pop();
                }
            }
            b'~' if self.peek(1) == Some(b'}') => self.one(TokenKind::Tilde),
            b'_' | b'a'..=b'z' | b'A'..=b'Z' | 0x80.. => self.name(),
            _ => self.operator(byte),
        }
    }

    fn operator(&mut self, byte: u8) {
        let two = [byte, self.peek(1).unwrap_or(0)];
        let (kind, length) = match &two {
            b"&&" => (TokenKind::AndAnd, 2),
            b"||" => (TokenKind::BarBar, 2),
            b"==" => (TokenKind::Equal, 2),
            b"!=" => (TokenKind::NotEqual, 2),
            b"<=" => (TokenKind::LessEqual, 2),
            b">=" => (TokenKind::GreaterEqual, 2),
            b"=>" => (TokenKind::FatArrow, 2),
            b".." if self.peek(2) == Some(b'.') => (TokenKind::Ellipsis, 3),
            [b'<', _] => (TokenKind::Less, 1),
            [b'>', _] => (TokenKind::Greater, 1),
            [b'=', _] => (TokenKind::Assign, 1),
            [b'!', _] => (TokenKind::Exclamation, 1),
            [b'+', _] => (TokenKind::Plus, 1),
            [b'-', _] => (TokenKind::Minus, 1),
            [b'*', _] => (TokenKind::Star, 1),
            [b'/', _] => (TokenKind::Slash, 1),
            [b'%', _] => (TokenKind::Percent, 1),
            [b'?', _] => (TokenKind::Question, 1),
            [b':', _] => (TokenKind::Colon, 1),
            [b'.', _] => (TokenKind::Dot, 1),
            [b',', _] => (TokenKind::Comma, 1),
            [b';', _] => (TokenKind::Semicolon, 1),
            _ => {
                self.has_content = true;
                return self.cut.unknown();
            }
        };
        self.push(kind, self.cut.at + length);
    }

    /// The end of a line, which ends an entry where lines count.
    fn line_end(&mut self, length: usize) {
        let counts = match self.open.last() {
            None | Some(Open::Brace { lines_count: true }) => true,
            Some(_) => self.begins_entry(self.cut.at + length),
        };
        if !counts {
            return self.push(TokenKind::LineEnd, self.cut.at + length);
        }
        while matches!(self.open.last(), Some(Open::Bracket)) {
            self.open.pop();
        }
        let kind = if self.has_content { TokenKind::Newline } else { TokenKind::LineEnd };
        self.push(kind, self.cut.at + length);
        self.has_content = false;
    }

    /// Whether the line at a place can only be an entry of a body, so that a bracket before it was not closed: `name = …` at its very
    /// beginning, or `type "label" {`.
    fn begins_entry(&self, at: usize) -> bool {
        if !matches!(self.open.last(), Some(Open::Bracket)) || self.open.len() > 1 {
            return false;
        }
        let line = &self.cut.bytes[at..];
        let line = &line[..memchr(b'\n', line).unwrap_or(line.len())];
        let name = line.iter().take_while(|byte| is_name_part(**byte)).count();
        let rest = line[name..].trim_ascii();
        let is_assignment = rest.first() == Some(&b'=') && !matches!(rest.get(1), Some(b'=' | b'>'));
        name > 0
            && line[0].is_ascii_alphabetic()
            && (is_assignment || rest.first() == Some(&b'"') && rest.ends_with(b"{"))
    }

    fn line_comment(&mut self) {
        let rest = &self.cut.bytes[self.cut.at..];
        let line = memchr(b'\n', rest).unwrap_or(rest.len());
        // A carriage return alone ends no line.
        let has_end = line < rest.len() && rest[..line].ends_with(b"\r");
        let line = if has_end { line - 1 } else { line };
        self.push(TokenKind::Comment, self.cut.at + line);
    }

    fn comment(&mut self) {
        let (start, rest) = (self.cut.at, &self.cut.bytes[self.cut.at + 2..]);
        let end = memchr::memmem::find(rest, b"*/").map(|found| start + 2 + found + 2);
        if end.is_none() {
            self.cut.fault(start, start + 2, "the comment is never closed");
        }
        self.push(TokenKind::Comment, end.unwrap_or(self.cut.bytes.len()));
    }

    /// `Identifier = ID_Start (ID_Continue | '-')*`
    fn name(&mut self) {
        let end = self.cut.end_of(is_name_part);
        let kind = match &self.cut.bytes[self.cut.at..end] {
            b"true" => TokenKind::TrueWord,
            b"false" => TokenKind::FalseWord,
            b"null" => TokenKind::NullWord,
            _ => TokenKind::Name,
        };
        self.push(kind, end);
    }

    /// `NumericLit = decimal+ ("." decimal+)? (expmark decimal+)?`; behind a dot, an index alone.
    fn number(&mut self) {
        let digits = |from: usize| self.cut.bytes[from..].iter().take_while(|byte| byte.is_ascii_digit()).count();
        let bytes = self.cut.bytes;
        let mut end = self.cut.at + digits(self.cut.at);
        let is_index = self.cut.at > 0 && bytes[self.cut.at - 1] == b'.';
        if !is_index {
            if bytes.get(end) == Some(&b'.') && bytes.get(end + 1).is_some_and(u8::is_ascii_digit) {
                end += 1 + digits(end + 1);
            }
            if matches!(bytes.get(end), Some(b'e' | b'E')) {
                let sign = usize::from(matches!(bytes.get(end + 1), Some(b'+' | b'-')));
                if bytes.get(end + 1 + sign).is_some_and(u8::is_ascii_digit) {
                    end += 1 + sign + digits(end + 1 + sign);
                }
            }
        }
        self.push(TokenKind::Number, end);
    }

    /// Whether a brace begins a `for` expression, in which line ends are whitespace.
    fn begins_for(&self) -> bool {
        let rest = self.cut.bytes[self.cut.at + 1..].trim_ascii_start();
        let Some(behind) = rest.strip_prefix(b"for") else { return false };
        let is_word = behind.first().is_some_and(u8::is_ascii_whitespace);
        is_word && !matches!(behind.trim_ascii_start().first(), Some(b'=' | b':'))
    }

    /// A string: one token where it has no parts.
    fn string(&mut self) {
        match self.end_of_text(self.cut.at + 1, true) {
            Ending::Closed(end) => self.push(TokenKind::String, end),
            Ending::Part(_) => {
                self.one(TokenKind::FormatStart);
                self.enter(Open::Quoted);
            }
            Ending::Unclosed(end) => {
                self.cut.fault(self.cut.at, end, "the string is never closed");
                self.push(TokenKind::String, end);
            }
        }
    }

    /// The next piece of a string with parts.
    fn quoted_part(&mut self) {
        if self.peek(0) == Some(b'"') {
            self.one(TokenKind::FormatEnd);
            self.open.pop();
            return;
        }
        if self.begins_part(self.cut.at) {
            return self.part();
        }
        let ending = self.end_of_text(self.cut.at, true);
        let end = match ending {
            Ending::Closed(end) => end - 1,
            Ending::Part(end) => end,
            Ending::Unclosed(end) => {
                self.cut.fault(self.cut.at.min(end), end, "the string is never closed");
                self.open.pop();
                end
            }
        };
        if end > self.cut.at {
            self.push(TokenKind::FormatText, end);
        }
    }

    /// `${` or `%{`, perhaps with a mark that takes whitespace away.
    fn part(&mut self) {
        let trims = usize::from(self.peek(2) == Some(b'~'));
        self.push(TokenKind::DollarBrace, self.cut.at + 2 + trims);
        self.enter(Open::Part);
    }

    fn begins_part(&self, at: usize) -> bool {
        matches!(self.cut.bytes.get(at..at + 2), Some(b"${" | b"%{"))
    }

    /// Where text in a string or a here-document ends: at its quote, at a part, or at the end of the line.
    fn end_of_text(&mut self, start: usize, is_quoted: bool) -> Ending {
        let bytes = self.cut.bytes;
        let mut at = start;
        loop {
            match bytes.get(at) {
                None => return Ending::Unclosed(at),
                Some(b'"') if is_quoted => return Ending::Closed(at + 1),
                Some(b'\n') => return Ending::Unclosed(at - usize::from(at > start && bytes[at - 1] == b'\r')),
                Some(b'\\') if is_quoted => at = self.escape(at),
                // Doubled, a mark stands for itself.
                Some(mark @ (b'$' | b'%')) if bytes.get(at + 1) == Some(mark) && bytes.get(at + 2) == Some(&b'{') => {
                    at += 3
                }
                Some(b'$' | b'%') if bytes.get(at + 1) == Some(&b'{') => return Ending::Part(at),
                Some(_) => at += 1,
            }
        }
    }

    /// The place behind the escape at a backslash.
    fn escape(&mut self, at: usize) -> usize {
        let digits = match self.cut.bytes.get(at + 1) {
            Some(b'n' | b'r' | b't' | b'"' | b'\\') => return at + 2,
            Some(b'u') => 4,
            Some(b'U') => 8,
            // What is wrong is that nothing closes the string.
            Some(b'\n' | b'\r') | None => return at + 1,
            Some(_) => return self.cut.no_escape(at),
        };
        let there = self.cut.bytes[at + 2..].iter().take(digits).take_while(|byte| byte.is_ascii_hexdigit()).count();
        if there < digits {
            self.cut.fault(at, at + 2 + there, "\\u and \\U are followed by four or eight hexadecimal digits");
        }
        at + 2 + there
    }

    /// `<<word` or `<<-word` at the end of a line; whether one is here.
    fn here_document(&mut self) -> bool {
        let bytes = self.cut.bytes;
        let start = self.cut.at + 2 + usize::from(self.peek(2) == Some(b'-'));
        let end = start + bytes[start..].iter().take_while(|byte| is_name_part(**byte)).count();
        let line_end = match bytes.get(end..) {
            Some([b'\n', ..]) => 1,
            Some([b'\r', b'\n', ..]) => 2,
            _ => 0,
        };
        if end == start || line_end == 0 {
            return false;
        }
        self.push(TokenKind::HereOperator, end);
        self.push(TokenKind::LineEnd, end + line_end);
        self.enter(Open::Here { word: (start, end) });
        true
    }

    /// The next piece of a here-document: its text up to a part, the part, or the line that ends it.
    fn here_part(&mut self) {
        let Some(Open::Here { word: (start, end) }) = self.open.last().copied() else { return };
        let bytes = self.cut.bytes;
        if self.begins_part(self.cut.at) {
            return self.part();
        }
        let mut at = self.cut.at;
        loop {
            let begins_line = at == 0 || bytes[at - 1] == b'\n';
            let line = &bytes[at..];
            let line = &line[..memchr(b'\n', line).unwrap_or(line.len())];
            if begins_line && line.trim_ascii() == &bytes[start..end] {
                if at > self.cut.at {
                    self.push(TokenKind::HereText, at);
                }
                let indent = line.len() - line.trim_ascii_start().len();
                let word = indent + (end - start);
                if indent > 0 {
                    self.push(TokenKind::Blank, at + indent);
                }
                self.push(TokenKind::HereEnd, at + word);
                self.open.pop();
                return;
            }
            match self.end_of_text(at, false) {
                Ending::Part(part) => return self.push(TokenKind::HereText, part),
                _ if at + line.len() >= bytes.len() => {
                    self.cut.fault(start, end, "the line that ends this here-document is missing");
                    self.push(TokenKind::HereText, bytes.len());
                    self.open.pop();
                    return;
                }
                _ => at += line.len() + 1,
            }
        }
    }
}

/// How a piece of text ends.
enum Ending {
    /// Behind the quote that closes it.
    Closed(usize),
    /// Where a part begins.
    Part(usize),
    /// Where the line or the file ends.
    Unclosed(usize),
}

fn is_name_part(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || matches!(byte, b'_' | b'-') || byte >= 0x80
}
