//! The state of reading: the place, the tokens so far, the nodes that are finished.

use crate::parse::{DEPTH_LIMIT, Parsed, Stop};
use crate::text::Span;
use crate::tree::{Builder, Fault, Kind, Mark, Problem, Role, Token, TokenId, TokenKind, Tree};

/// Reads a text once, from its beginning to its end.
pub(super) struct Reader<'s> {
    pub(super) source: &'s str,
    pub(super) bytes: &'s [u8],
    /// Offset of the next character.
    pub(super) at: usize,
    /// Offset at which the current line begins.
    pub(super) line_start: usize,
    tokens: Vec<Token>,
    /// Just past the last token that is no trivia.
    solid_end: TokenId,
    builder: Builder,
    faults: Vec<Fault>,
    depth: u32,
    told_too_deep: bool,
    /// The brackets that are open, each with its place.
    pub(super) brackets: Vec<(usize, TokenKind)>,
    /// The handles of tags that the document declares.
    pub(super) handles: Vec<&'s str>,
}

impl<'s> Reader<'s> {
    pub(super) fn new(source: &'s str) -> Reader<'s> {
        Reader {
            source,
            bytes: source.as_bytes(),
            at: 0,
            line_start: 0,
            tokens: Vec::with_capacity(source.len() / 4 + 8),
            solid_end: 0,
            builder: Builder::new(source.len() / 6),
            faults: Vec::new(),
            depth: 0,
            told_too_deep: false,
            brackets: Vec::new(),
            handles: Vec::new(),
        }
    }

    /// The tree, once the end is reached.
    pub(super) fn finish(mut self) -> Tree {
        self.tokens.push(Token { start: self.source.len() as u32, kind: TokenKind::EndOfFile });
        debug_assert_eq!(self.at, self.source.len(), "all is read");
        self.builder.close(Mark::first(), Kind::File, self.tokens.len() as TokenId);
        self.builder.finish(self.tokens, self.source, self.faults)
    }

    // Looking.

    #[inline]
    pub(super) fn byte(&self) -> Option<u8> {
        self.bytes.get(self.at).copied()
    }

    #[inline]
    pub(super) fn byte_after(&self, count: usize) -> Option<u8> {
        self.bytes.get(self.at + count).copied()
    }

    pub(super) fn at_end(&self) -> bool {
        self.at >= self.bytes.len()
    }

    /// Whether whitespace, a line end or the end of the text is so many bytes further on.
    #[inline]
    pub(super) fn is_space_after(&self, count: usize) -> bool {
        self.byte_after(count).is_none_or(is_space_or_end)
    }

    /// How many bytes are before the place on its line.
    pub(super) fn column(&self) -> i32 {
        (self.at - self.line_start) as i32
    }

    /// How many spaces begin the line, up to the place.
    pub(super) fn indent(&self) -> i32 {
        let line = &self.bytes[self.line_start..self.at];
        spaces(line) as i32
    }

    /// Whether tabs are among the whitespace before the first character of the line.
    pub(super) fn has_tab_indent(&self) -> bool {
        let line = &self.bytes[self.line_start..self.at];
        line[..whitespace(line)].contains(&b'\t')
    }

    /// Whether the place is at `---` or `...` at the beginning of a line.
    pub(super) fn at_marker(&self) -> bool {
        self.at == self.line_start && is_marker(&self.bytes[self.at..])
    }

    /// Whether the place is at an indicator of block style: `-`, `?` or `:` with whitespace behind it.
    #[inline]
    pub(super) fn at_indicator(&self, indicator: u8) -> bool {
        self.byte() == Some(indicator) && self.is_space_after(1)
    }

    // Taking.

    /// A token of so many bytes.
    #[inline]
    pub(super) fn take(&mut self, kind: TokenKind, bytes: usize) {
        self.tokens.push(Token { start: self.at as u32, kind });
        self.at += bytes;
        if !kind.is_trivia() {
            self.solid_end = self.tokens.len() as TokenId;
        }
    }

    /// A token up to an offset, perhaps over several lines, of which the last begins at another one.
    pub(super) fn take_lines(&mut self, kind: TokenKind, end: usize, line_start: usize) {
        self.take(kind, end - self.at);
        self.line_start = line_start;
    }

    /// A token as a node of its own.
    pub(super) fn leaf(&mut self, token: TokenKind, bytes: usize, kind: Kind, role: Role) {
        let mark = self.open();
        self.take(token, bytes);
        self.close_as(mark, kind, role);
    }

    /// Whitespace within a line.
    pub(super) fn skip_blanks(&mut self) {
        let count = whitespace(&self.bytes[self.at..]);
        if count > 0 {
            self.take(TokenKind::Blank, count);
        }
    }

    /// `s-l-comments`, `s-separate`: whitespace, comments and line ends. Tells whether a line ended.
    pub(super) fn skip_separation(&mut self) -> bool {
        let mut crossed = false;
        loop {
            self.skip_blanks();
            match self.byte() {
                Some(b'\n' | b'\r') => {
                    self.line_end();
                    crossed = true;
                }
                Some(b'#') if self.may_begin_comment() => self.comment(),
                _ => return crossed,
            }
        }
    }

    /// Whether a comment may be here: whitespace is before it.
    pub(super) fn may_begin_comment(&self) -> bool {
        self.at == self.line_start || matches!(self.bytes[self.at - 1], b' ' | b'\t')
    }

    /// A comment, to the end of its line.
    pub(super) fn comment(&mut self) {
        let length = line_length(&self.bytes[self.at..]);
        self.check_printable(self.at, self.at + length);
        self.take(TokenKind::Comment, length);
    }

    pub(super) fn line_end(&mut self) {
        let length = line_end_length(&self.bytes[self.at..]);
        self.take(TokenKind::LineEnd, length);
        self.line_start = self.at;
    }

    // Building.

    pub(super) fn open(&self) -> Mark {
        self.builder.open(self.tokens.len() as TokenId)
    }

    /// Finishes a node that ends with the last token that is no trivia.
    pub(super) fn close_as(&mut self, mark: Mark, kind: Kind, role: Role) {
        self.builder.close(mark, kind, self.solid_end);
        self.builder.role(role);
    }

    /// Says what the node finished last is to its parent.
    pub(super) fn role(&mut self, role: Role) {
        self.builder.role(role);
    }

    /// A node that is not written, right behind what was.
    pub(super) fn empty(&mut self, role: Role) {
        self.empty_in(Mark::first(), role);
    }

    /// The same in a node that begins at a mark.
    pub(super) fn empty_in(&mut self, holder: Mark, role: Role) {
        let token = self.solid_end.max(holder.token());
        let mark = self.builder.open(token);
        self.builder.close(mark, Kind::Null, token);
        self.builder.role(role);
    }

    /// Where the first token of a node begins that may begin at a mark.
    pub(super) fn start_of(&self, mark: Mark) -> usize {
        self.tokens.get(mark.token() as usize).map_or(self.at, |token| token.start as usize)
    }

    // Faults.

    pub(super) fn fault(&mut self, start: usize, end: usize, rule: &'static str) {
        self.note(start, end, Problem::Rule(rule));
    }

    pub(super) fn note(&mut self, start: usize, end: usize, problem: Problem) {
        self.faults.push(Fault { span: Span::new(start as u32, end as u32), problem });
    }

    /// A fault at the next character, after which the rest of the entry is left out.
    pub(super) fn stop(&mut self, rule: &'static str) -> Parsed {
        let end = (self.at + 1).min(self.bytes.len());
        self.fault(self.at, end, rule);
        Err(Stop)
    }

    /// Characters that no stream holds (`c-printable`).
    pub(super) fn check_printable(&mut self, start: usize, end: usize) {
        let is_control = |byte: &u8| matches!(byte, 0..=8 | 0x0b | 0x0c | 0x0e..=0x1f | 0x7f);
        if let Some(found) = self.bytes[start..end].iter().position(is_control) {
            self.fault(
                start + found,
                start + found + 1,
                "a control character is written as an escape in double quotes",
            );
        }
    }

    /// Runs a rule one level deeper; past the limit the rest of the entry is left out.
    pub(super) fn nested(&mut self, rule: impl FnOnce(&mut Self) -> Parsed) -> Parsed {
        if self.depth >= DEPTH_LIMIT {
            if !self.told_too_deep {
                self.told_too_deep = true;
                self.note(self.at, self.at + 1, Problem::TooDeep(DEPTH_LIMIT));
            }
            return Err(Stop);
        }
        self.depth += 1;
        let outcome = rule(self);
        self.depth -= 1;
        outcome
    }

    /// Leaves out the rest of an entry: of its line, and the lines that are indented deeper than the entry. `mark` is where it began.
    pub(super) fn leave_out(&mut self, mark: Mark, column: i32, role: Role) {
        self.brackets.clear();
        // What stopped the reading may be the entry that comes next.
        let is_next =
            self.start_of(mark) < self.line_start && self.column() <= column && self.indent() == self.column();
        if !is_next {
            self.leave_out_line();
        }
        loop {
            let (at, line_start) = (self.at, self.line_start);
            let rest = &self.bytes[at..];
            let indented = whitespace(rest);
            let is_blank = rest.get(indented).is_none_or(|byte| matches!(byte, b'\n' | b'\r'));
            let spaces = spaces(rest) as i32;
            let ends = at != line_start
                || self.at_end()
                || self.at_marker()
                || (!is_blank && spaces <= column && indented as i32 == spaces);
            if ends {
                break;
            }
            self.leave_out_line();
        }
        self.close_as(mark, Kind::Error, role);
    }

    /// Leaves out the rest of a line, its end included.
    fn leave_out_line(&mut self) {
        self.skip_blanks();
        let rest = &self.bytes[self.at..];
        let length = line_length(rest);
        if length > 0 && self.at == self.line_start && is_marker(rest) {
            return;
        }
        if length > 0 {
            self.take(TokenKind::Unknown, length);
        }
        if !self.at_end() {
            self.line_end();
        }
    }
}

/// `---` or `...` with whitespace behind it.
pub(super) fn is_marker(rest: &[u8]) -> bool {
    (rest.starts_with(b"---") || rest.starts_with(b"...")) && rest.get(3).copied().is_none_or(is_space_or_end)
}

pub(super) fn is_space_or_end(byte: u8) -> bool {
    matches!(byte, b' ' | b'\t' | b'\n' | b'\r')
}

/// `c-flow-indicator`
pub(super) fn is_flow_indicator(byte: u8) -> bool {
    matches!(byte, b',' | b'[' | b']' | b'{' | b'}')
}

/// How many bytes the line end at the beginning of some bytes has.
pub(super) fn line_end_length(bytes: &[u8]) -> usize {
    match bytes {
        [b'\r', b'\n', ..] => 2,
        [b'\r' | b'\n', ..] => 1,
        _ => 0,
    }
}

/// How many bytes are before the end of a line.
pub(super) fn line_length(bytes: &[u8]) -> usize {
    memchr::memchr2(b'\n', b'\r', bytes).unwrap_or(bytes.len())
}

/// How many spaces are at the beginning of some bytes.
pub(super) fn spaces(bytes: &[u8]) -> usize {
    bytes.iter().take_while(|byte| **byte == b' ').count()
}

/// How many spaces and tabs are at the beginning of some bytes.
pub(super) fn whitespace(bytes: &[u8]) -> usize {
    bytes.iter().take_while(|byte| matches!(byte, b' ' | b'\t')).count()
}
