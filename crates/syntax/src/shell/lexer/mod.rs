//! From text to tokens, in one pass and for any text.
//!
//! What a character means depends on what is open around it: a substitution holds commands, a quoted text holds expansions, an
//! expansion may hold quoted text again. So the lexer keeps a stack of what is open, and knows where a command may begin:
//! only there are words such as `if` and `case` more than words, and only there does `)` end a pattern.
//!
//! The parts of a word are tokens of their own that are side by side without a space between them.

mod arithmetic;
mod command;
mod expansion;
mod here;
mod word;

use std::collections::VecDeque;

use crate::text::Span;
use crate::tree::{Fault, Problem, Token, TokenKind};

/// The deepest nesting of what may be open.
const LIMIT: usize = 256;

/// Cuts a text into tokens, the last being `EndOfFile`. Their strings put together are the text.
pub(super) fn tokens(source: &str) -> (Vec<Token>, Vec<Fault>) {
    let mut lexer = Lexer::new(source);
    lexer.run();
    (lexer.tokens, lexer.faults)
}

/// What is open, and how it is closed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Open {
    /// `( … )` around commands: a subshell, `$(…)`, `<(…)`.
    Commands,
    /// `( … )` after the name of a function.
    FunctionParens,
    /// `( … )` around the elements of an array.
    Array,
    /// `?( … )` and its like: alternatives of a pattern.
    Alternatives,
    /// `` ` … ` ``
    Backquotes,
    /// Double quotes behind backslashes: within backquotes that are within double quotes, these are what quotes.
    EscapedQuotes,
    /// `" … "`
    Quotes,
    /// `${ … }`; whether single quotes are plain characters in it.
    Braces { plain_quotes: bool },
    /// `(( … ))` or `$(( … ))`, with the parentheses open in it.
    Arithmetic { parens: u32 },
    /// `$[ … ]`, or the subscript of an assignment.
    Subscript { brackets: u32 },
    /// `[[ … ]]`
    Condition,
    /// `case … esac`
    Case(CasePart),
    /// The body of a here-document, up to a byte.
    Here { end: u32 },
}

/// Where in a `case` the text is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum CasePart {
    BeforeIn,
    Pattern,
    Body,
}

/// What the lexer knows of the command it is in; kept while a substitution in a word of it is read.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
struct Place {
    /// A command may begin here.
    command: bool,
    /// The next word is the target of a redirection.
    target: bool,
    /// The command takes assignments as arguments, as `export` does.
    declares: bool,
    /// The words are those of a command that runs them: assignments of arrays are possible among them.
    evaluates: bool,
    /// `in` is a word of its own after so many more words, counted down; nothing where it is not.
    until_in: Option<u8>,
    /// The last token was a part of a word.
    in_word: bool,
    /// Whether a word of `[[ … ]]` is a regular expression.
    regex: Regex,
    /// Round brackets of the regular expression that are open.
    regex_parens: u32,
    /// What has come of `function name`.
    function: FunctionPart,
}

/// What has come of the head of a function.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum FunctionPart {
    None,
    /// `function`
    Word,
    /// `function name`
    Name,
}

/// Whether a word is a regular expression.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Regex {
    No,
    /// The next one is.
    Next,
    /// The current one is.
    Now,
}

impl Place {
    const START: Place = Place {
        command: true,
        target: false,
        declares: false,
        evaluates: false,
        until_in: None,
        in_word: false,
        regex: Regex::No,
        regex_parens: 0,
        function: FunctionPart::None,
    };
}

#[derive(Debug, Clone, Copy)]
struct Frame {
    open: Open,
    at: u32,
    /// The place around it, to go on with when it is closed.
    outer: Place,
}

/// A here-document whose body has not come yet.
#[derive(Debug)]
struct Pending {
    delimiter: String,
    /// Its body is taken as it is.
    quoted: bool,
    /// Tabs at the beginning of its lines do not count.
    indented: bool,
}

struct Lexer<'s> {
    source: &'s str,
    bytes: &'s [u8],
    position: usize,
    tokens: Vec<Token>,
    faults: Vec<Fault>,
    frames: Vec<Frame>,
    place: Place,
    /// Here-documents whose bodies have not come yet, in the order of their operators.
    pending: VecDeque<Pending>,
    /// The line that asked for them has ended.
    bodies_due: bool,
    /// Nested too deep: the rest is taken as it is.
    gave_up: bool,
}

impl<'s> Lexer<'s> {
    fn new(source: &'s str) -> Lexer<'s> {
        Lexer {
            source,
            bytes: source.as_bytes(),
            position: 0,
            tokens: Vec::with_capacity(source.len() / 3 + 8),
            faults: Vec::new(),
            frames: Vec::new(),
            place: Place::START,
            pending: VecDeque::new(),
            bodies_due: false,
            gave_up: false,
        }
    }

    fn run(&mut self) {
        if self.source.starts_with('\u{feff}') {
            self.push(TokenKind::ByteOrderMark, '\u{feff}'.len_utf8());
        }
        while self.position < self.bytes.len() {
            let before = (self.position, self.frames.len(), self.tokens.len(), self.bodies_due);
            if self.bodies_due && !matches!(self.top(), Some(Open::Here { .. })) {
                self.next_here_body();
            } else {
                self.next_token();
            }
            debug_assert!(
                self.gave_up || before != (self.position, self.frames.len(), self.tokens.len(), self.bodies_due),
                "the lexer stands still"
            );
            if self.gave_up {
                self.push(TokenKind::Unknown, self.bytes.len());
            }
        }
        self.end_of_file();
    }

    fn next_token(&mut self) {
        match self.frames.last().map(|frame| frame.open) {
            Some(Open::Quotes) => self.quoted(),
            Some(Open::EscapedQuotes) => self.quoted_by_escapes(),
            Some(Open::Braces { plain_quotes }) => self.in_braces(plain_quotes),
            Some(Open::Arithmetic { parens }) => self.arithmetic(parens),
            Some(Open::Subscript { brackets }) => self.subscript(brackets),
            Some(Open::Alternatives) => self.alternatives(),
            Some(Open::Here { end }) => self.here_body(end as usize),
            _ => self.command_token(),
        }
    }

    /// A token from the current position up to `end`.
    #[inline]
    fn push(&mut self, kind: TokenKind, end: usize) {
        self.tokens.push(Token { start: self.position as u32, kind });
        self.position = end;
    }

    /// A part of a word.
    fn push_part(&mut self, kind: TokenKind, end: usize) {
        self.push(kind, end);
        self.place.in_word = true;
    }

    /// Opens something; `place` holds within it.
    fn open(&mut self, open: Open, kind: TokenKind, length: usize, place: Place) {
        if self.frames.len() == LIMIT {
            self.fault(self.position, self.position + 1, Problem::TooDeep(LIMIT as u32));
            self.gave_up = true;
            return;
        }
        let frame = Frame { open, at: self.position as u32, outer: self.place };
        self.push(kind, self.position + length);
        self.frames.push(frame);
        self.place = place;
    }

    /// Closes the innermost, and goes on where it began.
    fn close(&mut self, kind: TokenKind, length: usize) {
        if let Some(frame) = self.frames.pop() {
            self.place = frame.outer;
        }
        self.push(kind, self.position + length);
    }

    /// Closes the innermost, which is a part of a word.
    fn close_part(&mut self, kind: TokenKind, length: usize) {
        self.close(kind, length);
        self.place.in_word = true;
    }

    fn top(&self) -> Option<Open> {
        self.frames.last().map(|frame| frame.open)
    }

    fn fault(&mut self, start: usize, end: usize, problem: Problem) {
        self.faults.push(Fault { span: Span::new(start as u32, end as u32), problem });
    }

    /// The byte at a place; zero past the end.
    #[inline]
    fn byte(&self, at: usize) -> u8 {
        self.bytes.get(at).copied().unwrap_or(0)
    }

    fn at(&self, text: &[u8]) -> bool {
        self.bytes[self.position..].starts_with(text)
    }

    /// Just past the character at a place.
    fn past_character(&self, at: usize) -> usize {
        at + self.source[at..].chars().next().map_or(1, char::len_utf8)
    }

    /// Just past a backslash and the character that it is before.
    fn past_escape(&self, at: usize) -> usize {
        if at + 1 < self.bytes.len() { self.past_character(at + 1) } else { at + 1 }
    }

    fn end_of_file(&mut self) {
        // A here-document that nothing ends goes to the end of the text: shells accept that.
        while matches!(self.top(), Some(Open::Here { .. })) {
            self.frames.pop();
            self.push(TokenKind::HereEnd, self.position);
        }
        let is_open = |frame: &&Frame| !matches!(frame.open, Open::Here { .. });
        if let Some(frame) = self.frames.iter().rfind(is_open).copied() {
            let kind = match frame.open {
                Open::Backquotes => TokenKind::Backquote,
                Open::Braces { .. } => TokenKind::DollarBrace,
                Open::Subscript { .. } => TokenKind::BracketOpen,
                Open::Case(_) => TokenKind::Case,
                Open::Condition => TokenKind::ConditionOpen,
                _ => TokenKind::ParenOpen,
            };
            let problem = match frame.open {
                Open::Quotes | Open::EscapedQuotes => Problem::Rule("this quote is never closed"),
                _ => Problem::Unclosed(kind),
            };
            self.fault(frame.at as usize, frame.at as usize + 1, problem);
        }
        self.push(TokenKind::EndOfFile, self.position);
    }
}
