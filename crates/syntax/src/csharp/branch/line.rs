//! The lines for the preprocessor in a text, and what the code between them is like.

use memchr::{memchr, memchr_iter, memmem};

/// A line for the preprocessor.
#[derive(Debug)]
pub(super) struct Line<'s> {
    /// Where the line begins.
    pub(super) start: usize,
    /// Where its `#` is.
    pub(super) hash: usize,
    /// Where the next line begins.
    pub(super) end: usize,
    pub(super) word: Word<'s>,
    /// The code between the line of this sort before it and this one.
    pub(super) before: Shape,
}

/// What a line says.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Word<'s> {
    If(&'s str),
    Elif(&'s str),
    Else,
    Endif,
    Define(&'s str),
    Undef(&'s str),
    Region,
    EndRegion,
    Other,
}

/// What a stretch of code is like.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(super) struct Shape {
    /// How many brackets it opens and does not close.
    open: i32,
    /// The least of that, on the way.
    least: i32,
    /// Its last byte that is code.
    last: Option<u8>,
}

impl Shape {
    /// Goes on with what is behind it.
    pub(super) fn join(&mut self, next: Shape) {
        self.least = self.least.min(self.open + next.least);
        self.open += next.open;
        self.last = next.last.or(self.last);
    }

    /// Whether it is whole statements, members, arguments or nothing.
    pub(super) fn is_whole(&self) -> bool {
        self.open == 0 && self.least == 0 && self.last.is_none_or(|last| matches!(last, b';' | b'}' | b',' | b']'))
    }

    /// Whether what is behind it begins a statement, a member or an argument.
    pub(super) fn may_be_followed(&self) -> bool {
        self.last.is_none_or(|last| matches!(last, b';' | b'}' | b'{' | b',' | b']' | b'(' | b'['))
    }

    fn see(&mut self, byte: u8) {
        match byte {
            b'(' | b'[' | b'{' => self.open += 1,
            b')' | b']' | b'}' => {
                self.open -= 1;
                self.least = self.least.min(self.open);
            }
            _ => {}
        }
        self.last = Some(byte);
    }
}

/// The lines for the preprocessor, in their order. None is looked for where none has a partner.
pub(super) fn lines(source: &str) -> Vec<Line<'_>> {
    if !has_pairs(source) {
        return Vec::new();
    }
    let mut reader = Reader { source, bytes: source.as_bytes(), at: 0, shape: Shape::default(), lines: Vec::new() };
    reader.read();
    reader.lines
}

/// Whether there are directives that belong to others, perhaps within strings.
fn has_pairs(source: &str) -> bool {
    memchr_iter(b'#', source.as_bytes()).any(|at| {
        let word = source[at + 1..].trim_start_matches([' ', '\t']);
        ["if", "el", "end", "region"].iter().any(|start| word.starts_with(start))
    })
}

struct Reader<'s> {
    source: &'s str,
    bytes: &'s [u8],
    at: usize,
    shape: Shape,
    lines: Vec<Line<'s>>,
}

impl Reader<'_> {
    fn byte(&self, at: usize) -> u8 {
        self.bytes.get(at).copied().unwrap_or(0)
    }

    fn read(&mut self) {
        self.at_line_start();
        while let Some(byte) = self.bytes.get(self.at).copied() {
            match (byte, self.byte(self.at + 1)) {
                (b'\n', _) | (b'\r', _) => {
                    self.at += 1;
                    self.at_line_start();
                }
                (b'/', b'/') => self.at = self.end_of_line(self.at),
                (b'/', b'*') => {
                    let rest = &self.bytes[self.at + 2..];
                    self.at += memmem::find(rest, b"*/").map_or(rest.len() + 2, |length| length + 4);
                }
                (b'"', _) => self.string(),
                (b'@', b'"') => self.verbatim(self.at + 2),
                (b'@', b'$') | (b'$', b'@') if self.byte(self.at + 2) == b'"' => self.verbatim(self.at + 3),
                (b'\'', _) => self.character(),
                (b' ' | b'\t', _) => self.at += 1,
                _ => {
                    self.shape.see(byte);
                    self.at += 1;
                }
            }
        }
    }

    fn end_of_line(&self, at: usize) -> usize {
        let rest = &self.bytes[at..];
        at + memchr::memchr2(b'\n', b'\r', rest).unwrap_or(rest.len())
    }

    /// Takes the line if it is one for the preprocessor.
    fn at_line_start(&mut self) {
        let start = self.at;
        let indent =
            self.bytes[start..].iter().take_while(|byte| matches!(byte, b' ' | b'\t' | 0xef | 0xbb | 0xbf)).count();
        let hash = start + indent;
        if self.byte(hash) != b'#' {
            return;
        }
        let end = self.end_of_line(hash);
        let next = match (self.byte(end), self.byte(end + 1)) {
            (b'\r', b'\n') => end + 2,
            _ => (end + 1).min(self.bytes.len()),
        };
        let word = word_of(&self.source[hash + 1..end]);
        self.lines.push(Line { start, hash, end: next, word, before: std::mem::take(&mut self.shape) });
        self.at = end;
    }

    fn string(&mut self) {
        let quotes = self.bytes[self.at..].iter().take_while(|byte| **byte == b'"').count();
        self.shape.see(b'"');
        if quotes > 2 {
            let behind = self.at + quotes;
            let end = memmem::find(&self.bytes[behind..], &self.bytes[self.at..behind]);
            self.at = end.map_or(self.bytes.len(), |length| behind + length + quotes);
            return;
        }
        let mut at = self.at + 1;
        while let Some(byte) = self.bytes.get(at) {
            match byte {
                b'"' => {
                    at += 1;
                    break;
                }
                b'\n' | b'\r' => break,
                b'\\' => at += 2,
                _ => at += 1,
            }
        }
        self.at = at.min(self.bytes.len());
    }

    /// A verbatim string, from behind its quote.
    fn verbatim(&mut self, behind_quote: usize) {
        self.shape.see(b'"');
        let mut at = behind_quote;
        while let Some(length) = memchr(b'"', self.bytes.get(at..).unwrap_or_default()) {
            at += length + 1;
            if self.byte(at) != b'"' {
                self.at = at;
                return;
            }
            at += 1;
        }
        self.at = self.bytes.len();
    }

    /// A character in quotes; a quote alone is one in prose.
    fn character(&mut self) {
        self.shape.see(b'\'');
        let rest = &self.source[self.at + 1..];
        let skipped = if rest.starts_with('\\') { 2 } else { 0 };
        let close = rest.bytes().skip(skipped).take(10).position(|byte| byte == b'\'');
        self.at += 1 + close.map_or(0, |length| skipped + length + 1);
    }
}

fn word_of(line: &str) -> Word<'_> {
    let line = line.trim_start();
    let end = line.find(|letter: char| !letter.is_ascii_alphabetic()).unwrap_or(line.len());
    let (word, rest) = line.split_at(end);
    let symbol = || rest.split_whitespace().next().unwrap_or_default();
    match word {
        "if" => Word::If(rest),
        "elif" => Word::Elif(rest),
        "else" => Word::Else,
        "endif" => Word::Endif,
        "define" => Word::Define(symbol()),
        "undef" => Word::Undef(symbol()),
        "region" => Word::Region,
        "endregion" => Word::EndRegion,
        _ => Word::Other,
    }
}
