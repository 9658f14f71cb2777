//! Tokens of Go ("Lexical elements"), for any text.

mod number;
mod text;

use memchr::memchr;

use crate::parse::{Cut, sign};
use crate::tree::{Fault, Token, TokenKind};

/// Cuts a text into tokens, which join to it.
pub(super) fn tokens(source: &str) -> (Vec<Token>, Vec<Fault>) {
    let mut lexer = Lexer { cut: Cut::new(source), ends_statement: false };
    while let Some(byte) = lexer.cut.byte() {
        lexer.token(byte);
    }
    lexer.cut.finish()
}

struct Lexer<'s> {
    cut: Cut<'s>,
    /// Whether a semicolon is meant where the line ends now.
    ends_statement: bool,
}

impl Lexer<'_> {
    #[inline]
    fn push(&mut self, kind: TokenKind, end: usize) {
        self.cut.push(kind, end);
        if !kind.is_trivia() {
            self.ends_statement = matches!(
                kind,
                TokenKind::Name
                    | TokenKind::Number
                    | TokenKind::String
                    | TokenKind::Character
                    | TokenKind::Break
                    | TokenKind::Continue
                    | TokenKind::Fallthrough
                    | TokenKind::Return
                    | TokenKind::PlusPlus
                    | TokenKind::MinusMinus
                    | TokenKind::ParenClose
                    | TokenKind::BracketClose
                    | TokenKind::BraceClose
            );
        }
    }

    #[inline]
    fn of_length(&mut self, kind: TokenKind, length: usize) {
        self.push(kind, self.cut.at + length);
    }

    #[inline]
    fn peek(&self, ahead: usize) -> u8 {
        self.cut.bytes.get(self.cut.at + ahead).copied().unwrap_or(0)
    }

    fn token(&mut self, byte: u8) {
        match byte {
            b' ' | b'\t' => {
                let end = self.cut.end_of(|byte| matches!(byte, b' ' | b'\t'));
                self.push(TokenKind::Blank, end);
            }
            b'\n' => self.line_end(1),
            b'\r' if self.peek(1) == b'\n' => self.line_end(2),
            b'\r' => self.of_length(TokenKind::Blank, 1),
            b'/' if self.peek(1) == b'/' => self.line_comment(),
            b'/' if self.peek(1) == b'*' => self.comment(),
            b'a'..=b'z' | b'A'..=b'Z' | b'_' | 0x80.. => self.word(),
            b'0'..=b'9' => self.number(),
            b'.' if self.peek(1).is_ascii_digit() => self.number(),
            b'"' => self.interpreted_string(),
            b'`' => self.raw_string(),
            b'\'' => self.rune(),
            _ => self.operator(byte),
        }
    }

    fn line_end(&mut self, length: usize) {
        let kind = if self.ends_statement { TokenKind::Newline } else { TokenKind::LineEnd };
        self.of_length(kind, length);
        self.ends_statement = false;
    }

    fn line_comment(&mut self) {
        let rest = &self.cut.bytes[self.cut.at..];
        let length = memchr(b'\n', rest).unwrap_or(rest.len());
        let length = if rest[..length].ends_with(b"\r") { length - 1 } else { length };
        self.of_length(TokenKind::Comment, length.max(2));
    }

    /// `/* … */`; one that goes over lines counts as the end of a line.
    fn comment(&mut self) {
        let rest = &self.cut.bytes[self.cut.at..];
        let closed = memchr::memmem::find(&rest[2..], b"*/").map(|at| at + 4);
        let length = closed.unwrap_or(rest.len());
        if closed.is_none() {
            self.cut.fault(self.cut.at, self.cut.at + 2, "the comment is never closed");
        }
        if self.ends_statement && memchr(b'\n', &rest[..length]).is_some() {
            self.of_length(TokenKind::Newline, 0);
            self.ends_statement = false;
        }
        self.of_length(TokenKind::Comment, length);
    }

    fn word(&mut self) {
        let rest = &self.cut.source[self.cut.at..];
        let is_part = |letter: char| letter == '_' || letter.is_alphanumeric();
        let end = rest.char_indices().find(|(_, letter)| !is_part(*letter)).map_or(rest.len(), |(at, _)| at);
        if end == 0 || rest.chars().next().is_some_and(char::is_numeric) {
            self.cut.unknown();
            return;
        }
        let kind = keyword(&rest[..end]).unwrap_or(TokenKind::Name);
        self.of_length(kind, end);
    }

    fn operator(&mut self, byte: u8) {
        let (two, three) = (self.peek(1), self.peek(2));
        let (kind, length) = match (byte, two, three) {
            (b'<', b'<', b'=') => (TokenKind::ShiftLeftAssign, 3),
            (b'>', b'>', b'=') => (TokenKind::ShiftRightAssign, 3),
            (b'&', b'^', b'=') => (TokenKind::AmpersandCaretAssign, 3),
            (b'.', b'.', b'.') => (TokenKind::Ellipsis, 3),
            (b'<', b'<', _) => (TokenKind::ShiftLeft, 2),
            (b'>', b'>', _) => (TokenKind::ShiftRight, 2),
            (b'&', b'^', _) => (TokenKind::AmpersandCaret, 2),
            (b'&', b'&', _) => (TokenKind::AndAnd, 2),
            (b'|', b'|', _) => (TokenKind::BarBar, 2),
            (b'<', b'-', _) => (TokenKind::ChannelArrow, 2),
            (b'+', b'+', _) => (TokenKind::PlusPlus, 2),
            (b'-', b'-', _) => (TokenKind::MinusMinus, 2),
            (b'=', b'=', _) => (TokenKind::Equal, 2),
            (b'!', b'=', _) => (TokenKind::NotEqual, 2),
            (b'<', b'=', _) => (TokenKind::LessEqual, 2),
            (b'>', b'=', _) => (TokenKind::GreaterEqual, 2),
            (b':', b'=', _) => (TokenKind::ColonAssign, 2),
            (b'+', b'=', _) => (TokenKind::PlusAssign, 2),
            (b'-', b'=', _) => (TokenKind::MinusAssign, 2),
            (b'*', b'=', _) => (TokenKind::StarAssign, 2),
            (b'/', b'=', _) => (TokenKind::SlashAssign, 2),
            (b'%', b'=', _) => (TokenKind::PercentAssign, 2),
            (b'&', b'=', _) => (TokenKind::AmpersandAssign, 2),
            (b'|', b'=', _) => (TokenKind::BarAssign, 2),
            (b'^', b'=', _) => (TokenKind::CaretAssign, 2),
            _ => match sign(byte) {
                Some(kind) => (kind, 1),
                None => {
                    self.ends_statement = false;
                    return self.cut.unknown();
                }
            },
        };
        self.of_length(kind, length);
    }
}

/// "Keywords".
fn keyword(word: &str) -> Option<TokenKind> {
    Some(match word {
        "break" => TokenKind::Break,
        "case" => TokenKind::Case,
        "chan" => TokenKind::Chan,
        "const" => TokenKind::Const,
        "continue" => TokenKind::Continue,
        "default" => TokenKind::Default,
        "defer" => TokenKind::Defer,
        "else" => TokenKind::Else,
        "fallthrough" => TokenKind::Fallthrough,
        "for" => TokenKind::For,
        "func" => TokenKind::Func,
        "go" => TokenKind::GoWord,
        "goto" => TokenKind::Goto,
        "if" => TokenKind::If,
        "import" => TokenKind::Import,
        "interface" => TokenKind::InterfaceWord,
        "map" => TokenKind::MapWord,
        "package" => TokenKind::Package,
        "range" => TokenKind::Range,
        "return" => TokenKind::Return,
        "select" => TokenKind::Select,
        "struct" => TokenKind::Struct,
        "switch" => TokenKind::Switch,
        "type" => TokenKind::TypeWord,
        "var" => TokenKind::Var,
        _ => return None,
    })
}
