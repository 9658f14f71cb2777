//! Tokens of TOML ("Whitespace", "Comment", "String", TOML 1.0), for any text.
//!
//! What a word means depends on where it is: `2027-03-01` is a date after an equals sign and a name before one. So the lexer knows
//! whether a key or a value comes next.

use super::scalar::{self, Scalar};
use crate::parse::Cut;
use crate::tree::{Fault, Token, TokenKind};

/// Cuts a text into tokens, which join to it.
pub(super) fn tokens(source: &str) -> (Vec<Token>, Vec<Fault>) {
    let mut lexer = Lexer { cut: Cut::new(source), expects: Expects::Key, open: Vec::new(), has_content: false };
    while let Some(byte) = lexer.cut.byte() {
        lexer.token(byte);
    }
    lexer.cut.finish()
}

/// What comes next.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Expects {
    Key,
    Value,
}

struct Lexer<'s> {
    cut: Cut<'s>,
    expects: Expects,
    /// The brackets that are open around a value.
    open: Vec<TokenKind>,
    /// Whether the line holds anything but whitespace and comments.
    has_content: bool,
}

impl Lexer<'_> {
    /// A token up to a place, which becomes the current one.
    #[inline]
    fn push(&mut self, kind: TokenKind, end: usize) {
        self.cut.push(kind, end);
        self.has_content |= !kind.is_trivia();
    }

    fn token(&mut self, byte: u8) {
        let one = self.cut.at + 1;
        match byte {
            b' ' | b'\t' => {
                let end = self.cut.end_of(|byte| matches!(byte, b' ' | b'\t'));
                self.push(TokenKind::Blank, end);
            }
            b'\n' => self.line_end(one),
            b'\r' if self.cut.bytes.get(one) == Some(&b'\n') => self.line_end(one + 1),
            b'#' => self.comment(),
            b'"' | b'\'' => self.string(byte),
            b'[' => self.bracket(TokenKind::BracketOpen),
            b'{' => self.bracket(TokenKind::BraceOpen),
            b']' => self.bracket(TokenKind::BracketClose),
            b'}' => self.bracket(TokenKind::BraceClose),
            b'=' => {
                self.push(TokenKind::Assign, one);
                self.expects = Expects::Value;
            }
            b',' => {
                self.push(TokenKind::Comma, one);
                self.expects = self.after_comma();
            }
            b'.' if self.expects == Expects::Key => self.push(TokenKind::Dot, one),
            _ if self.expects == Expects::Key && is_bare(byte) => {
                let end = self.cut.end_of(is_bare);
                self.push(TokenKind::Name, end);
            }
            _ if self.expects == Expects::Value && !is_control(byte) => self.scalar(),
            _ => {
                self.has_content = true;
                self.cut.unknown();
            }
        }
    }

    /// The end of a line, which ends an entry unless an array is open. After a mistake the next line begins anew, so that a bracket that
    /// is missing does not take the rest of the file with it.
    fn line_end(&mut self, end: usize) {
        if self.open.is_empty() || self.begins_entry(end) {
            let kind = if self.has_content { TokenKind::Newline } else { TokenKind::LineEnd };
            self.push(kind, end);
            self.expects = Expects::Key;
            self.open.clear();
            self.has_content = false;
        } else {
            self.push(TokenKind::LineEnd, end);
        }
    }

    /// Whether the line at a place can only be an entry or a header: an array was not closed before it. Nor may an inline table go over
    /// several lines.
    fn begins_entry(&self, at: usize) -> bool {
        let line = &self.cut.bytes[at..];
        let line = &line[..memchr::memchr(b'\n', line).unwrap_or(line.len())];
        let key = line.iter().take_while(|byte| is_bare(**byte) || **byte == b'.').count();
        let rest = line[key..].trim_ascii_start();
        key > 0 && rest.first() == Some(&b'=')
            || line.starts_with(b"[[") && line.trim_ascii_end().ends_with(b"]]") && is_header(line)
    }

    fn after_comma(&self) -> Expects {
        if self.open.last() == Some(&TokenKind::BracketOpen) { Expects::Value } else { Expects::Key }
    }

    /// A bracket around a value; those of a header are beside a key.
    fn bracket(&mut self, kind: TokenKind) {
        self.push(kind, self.cut.at + 1);
        if kind.opens() && self.expects == Expects::Value {
            self.open.push(kind);
            self.expects = self.after_comma();
        } else if kind.closes() {
            self.open.pop();
        }
    }

    /// `comment = comment-start-symbol *non-eol`
    fn comment(&mut self) {
        let rest = &self.cut.bytes[self.cut.at..];
        let line = memchr::memchr(b'\n', rest).unwrap_or(rest.len());
        let line = if rest[..line].ends_with(b"\r") { line - 1 } else { line };
        let control = rest[..line].iter().position(|byte| is_control(*byte));
        if let Some(control) = control {
            let at = self.cut.at + control;
            self.cut.fault(at, at + 1, "no control character is in a comment");
        }
        self.push(TokenKind::Comment, self.cut.at + line);
    }

    /// A string in any of the four forms.
    fn string(&mut self, quote: u8) {
        let rest = &self.cut.bytes[self.cut.at..];
        let is_long = rest.len() > 2 && rest[1] == quote && rest[2] == quote;
        let end = if is_long { self.long_string(quote) } else { self.short_string(quote) };
        self.push(TokenKind::String, end);
        self.after_value();
    }

    /// A value that nothing is around is all that its entry holds.
    fn after_value(&mut self) {
        if self.open.is_empty() {
            self.expects = Expects::Key;
        }
    }

    /// `basic-string`, `literal-string`: up to the quote, or to the end of the line where there is none.
    fn short_string(&mut self, quote: u8) -> usize {
        let start = self.cut.at;
        let mut at = start + 1;
        loop {
            match self.cut.bytes.get(at) {
                Some(byte) if *byte == quote => return at + 1,
                Some(b'\n') | None => break,
                Some(b'\r') if self.cut.bytes.get(at + 1) == Some(&b'\n') => break,
                Some(b'\\') if quote == b'"' => at = self.escape(at),
                Some(byte) => {
                    self.control_in_string(*byte, at);
                    at += 1;
                }
            }
        }
        self.cut.fault(start, at, "the string is never closed");
        at
    }

    /// `ml-basic-string`, `ml-literal-string`: up to three quotes, of which two more may be before.
    fn long_string(&mut self, quote: u8) -> usize {
        let start = self.cut.at;
        let mut at = start + 3;
        loop {
            match self.cut.bytes.get(at) {
                None => break,
                Some(byte) if *byte == quote => {
                    let run = self.cut.bytes[at..].iter().take(5).take_while(|byte| **byte == quote).count();
                    if run >= 3 {
                        return at + run;
                    }
                    at += run;
                }
                Some(b'\\') if quote == b'"' && self.joins_lines(at) => at += 1,
                Some(b'\\') if quote == b'"' => at = self.escape(at),
                Some(b'\n') => at += 1,
                Some(b'\r') if self.cut.bytes.get(at + 1) == Some(&b'\n') => at += 2,
                Some(byte) => {
                    self.control_in_string(*byte, at);
                    at += 1;
                }
            }
        }
        self.cut.fault(start, start + 3, "the string is never closed");
        at
    }

    /// `mlb-escaped-nl = escape ws newline`
    fn joins_lines(&self, at: usize) -> bool {
        let rest = &self.cut.bytes[at + 1..];
        let blanks = rest.iter().take_while(|byte| matches!(byte, b' ' | b'\t')).count();
        rest[blanks..].starts_with(b"\n") || rest[blanks..].starts_with(b"\r\n")
    }

    fn control_in_string(&mut self, byte: u8, at: usize) {
        if is_control(byte) {
            self.cut.fault(at, at + 1, "a control character in a string is written as an escape");
        }
    }

    /// The place after the escape at a backslash.
    fn escape(&mut self, at: usize) -> usize {
        let digits = match self.cut.bytes.get(at + 1) {
            Some(b'"' | b'\\' | b'b' | b'f' | b'n' | b'r' | b't') => return at + 2,
            Some(b'u') => 4,
            Some(b'U') => 8,
            // What is wrong is that nothing closes the string.
            Some(b'\n' | b'\r') | None => return at + 1,
            Some(_) => return self.cut.no_escape(at),
        };
        let there = self.cut.bytes[at + 2..].iter().take(digits).take_while(|byte| byte.is_ascii_hexdigit()).count();
        let code = u32::from_str_radix(&self.cut.source[at + 2..at + 2 + there], 16);
        if there < digits || code.ok().and_then(char::from_u32).is_none() {
            self.cut.fault(
                at,
                at + 2 + there,
                "\\u and \\U are followed by four or eight hexadecimal digits, which name a character",
            );
        }
        at + 2 + there
    }

    /// A value that is neither a string nor in brackets.
    fn scalar(&mut self) {
        let start = self.cut.at;
        let is_part =
            |byte: u8| !matches!(byte, b' ' | b'\t' | b'\n' | b'\r' | b',' | b']' | b'}' | b'#' | b'=' | b'[' | b'{');
        let mut end = self.cut.end_of(is_part);
        // A blank may be between a date and a time.
        if scalar::is_date(&self.cut.source[start..end]) && scalar::begins_time(&self.cut.bytes[end..]) {
            self.cut.at = end + 1;
            end = self.cut.end_of(is_part);
            self.cut.at = start;
        }
        let kind = match scalar::of(&self.cut.source[start..end]) {
            Ok(Scalar::Number) => TokenKind::Number,
            Ok(Scalar::DateTime) => TokenKind::DateTime,
            Ok(Scalar::True) => TokenKind::TrueWord,
            Ok(Scalar::False) => TokenKind::FalseWord,
            Err(rule) => {
                self.cut.fault(start, end, rule);
                TokenKind::Name
            }
        };
        self.push(kind, end);
        self.after_value();
    }
}

/// `[[` and `]]` around a key, not around numbers or strings of an array.
fn is_header(line: &[u8]) -> bool {
    let key = line.trim_ascii_end();
    let key = key.get(2..key.len().saturating_sub(2)).unwrap_or_default().trim_ascii();
    !key.is_empty() && key[0].is_ascii_alphabetic() && key.iter().all(|byte| is_bare(*byte) || *byte == b'.')
}

/// `unquoted-key = 1*( ALPHA / DIGIT / %x2D / %x5F )`
fn is_bare(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b'_')
}

/// Characters that are nowhere in a document but at line ends.
fn is_control(byte: u8) -> bool {
    matches!(byte, 0..=8 | 0x0a..=0x1f | 0x7f)
}
