//! Where commands are: whitespace, comments, operators, and the words that begin and end compound commands.

use super::{CasePart, Frame, FunctionPart, Lexer, Open, Place, Regex};
use crate::tree::{Problem, TokenKind};

/// Words that are more than words where a command may begin ("Reserved Words").
fn reserved(word: &[u8]) -> Option<TokenKind> {
    Some(match word {
        b"!" => TokenKind::Exclamation,
        b"{" => TokenKind::BraceOpen,
        b"}" => TokenKind::BraceClose,
        b"[[" => TokenKind::ConditionOpen,
        b"case" => TokenKind::Case,
        b"coproc" => TokenKind::Coproc,
        b"do" => TokenKind::Do,
        b"done" => TokenKind::Done,
        b"elif" => TokenKind::Elif,
        b"else" => TokenKind::Else,
        b"esac" => TokenKind::Esac,
        b"fi" => TokenKind::Fi,
        b"for" => TokenKind::For,
        b"function" => TokenKind::FunctionWord,
        b"if" => TokenKind::If,
        b"select" => TokenKind::Select,
        b"then" => TokenKind::Then,
        b"time" => TokenKind::Time,
        b"until" => TokenKind::Until,
        b"while" => TokenKind::While,
        _ => return None,
    })
}

/// Commands whose arguments may be assignments.
const DECLARING: &[&[u8]] = &[b"alias", b"declare", b"export", b"local", b"readonly", b"typeset"];

/// The operators, longer ones first.
const OPERATORS: &[(&[u8], TokenKind)] = &[
    (b";;&", TokenKind::CaseEnd),
    (b"<<<", TokenKind::Redirect),
    (b"<<-", TokenKind::HereOperator),
    (b"&>>", TokenKind::Redirect),
    (b"&&", TokenKind::AndAnd),
    (b"||", TokenKind::BarBar),
    (b";;", TokenKind::CaseEnd),
    (b";&", TokenKind::CaseEnd),
    (b"|&", TokenKind::Bar),
    (b"<<", TokenKind::HereOperator),
    (b"&>", TokenKind::Redirect),
    (b"<&", TokenKind::Redirect),
    (b">&", TokenKind::Redirect),
    (b">>", TokenKind::Redirect),
    (b">|", TokenKind::Redirect),
    (b"<>", TokenKind::Redirect),
    (b";", TokenKind::Semicolon),
    (b"&", TokenKind::Ampersand),
    (b"|", TokenKind::Bar),
    (b"<", TokenKind::Redirect),
    (b">", TokenKind::Redirect),
];

impl<'s> Lexer<'s> {
    pub(super) fn command_token(&mut self) {
        let start = self.position;
        let is_regex = match self.place.regex {
            Regex::No => false,
            Regex::Next => {
                let joins_lines = self.bytes[start] == b'\\' && self.byte(start + 1) == b'\n';
                !joins_lines && !matches!(self.bytes[start], b' ' | b'\t' | b'\n')
            }
            Regex::Now if self.place.regex_parens > 0 => self.bytes[start] != b'\n',
            Regex::Now => self.place.in_word && !matches!(self.bytes[start], b' ' | b'\t' | b'\n' | b')'),
        };
        if is_regex {
            self.place.regex = Regex::Now;
            return self.part();
        }
        match self.bytes[start] {
            b' ' | b'\t' => {
                let end = (start..).find(|at| !matches!(self.byte(*at), b' ' | b'\t')).unwrap_or(start + 1);
                self.end_word();
                self.push(TokenKind::Blank, end);
            }
            b'\n' => self.line_end(),
            b'\\' if self.byte(start + 1) == b'\n' && !self.place.in_word => self.push(TokenKind::LineJoin, start + 2),
            b'#' if !self.place.in_word => self.comment(),
            b'(' => self.paren_open(),
            b')' => self.paren_close(),
            b'<' | b'>' if self.byte(start + 1) == b'(' && self.top() != Some(Open::Condition) => {
                self.finish_if_new_word();
                self.open(Open::Commands, TokenKind::ProcessOpen, 2, Place::START);
            }
            b';' | b'&' | b'|' | b'<' | b'>' => self.operator(),
            _ if self.place.in_word => self.part(),
            _ => self.word(),
        }
    }

    fn end_word(&mut self) {
        self.place.in_word = false;
        if self.place.regex == Regex::Now {
            self.place.regex = Regex::No;
        }
    }

    fn comment(&mut self) {
        let rest = &self.bytes[self.position..];
        let in_backquotes = self.in_backquotes();
        let length = if in_backquotes { memchr::memchr2(b'\n', b'`', rest) } else { memchr::memchr(b'\n', rest) };
        let end = length.map_or(self.bytes.len(), |length| self.position + length);
        self.push(TokenKind::Comment, end);
    }

    fn line_end(&mut self) {
        let is_layout = matches!(self.top(), Some(Open::Array | Open::Condition | Open::FunctionParens));
        self.push(if is_layout { TokenKind::LineEnd } else { TokenKind::Newline }, self.position + 1);
        self.place.in_word = false;
        if !is_layout && !matches!(self.top(), Some(Open::Case(CasePart::Pattern | CasePart::BeforeIn))) {
            self.begin_command();
        }
        self.bodies_due = !self.pending.is_empty();
    }

    /// From here on a command may begin.
    fn begin_command(&mut self) {
        let until_in = self.place.until_in;
        self.place = Place { until_in, ..Place::START };
    }

    fn operator(&mut self) {
        let (text, kind) =
            OPERATORS.iter().find(|(text, _)| self.at(text)).copied().unwrap_or((b";", TokenKind::Semicolon));
        self.place.in_word = false;
        if self.top() == Some(Open::Condition) && kind == TokenKind::Redirect {
            // `<` and `>` compare there.
            return self.push(TokenKind::Less, self.position + 1);
        }
        self.push(kind, self.position + text.len());
        match kind {
            TokenKind::Redirect => self.place.target = true,
            TokenKind::HereOperator => self.here_delimiter(text == b"<<-"),
            TokenKind::CaseEnd => {
                self.begin_command();
                if let Some(Frame { open: Open::Case(part), .. }) = self.frames.last_mut() {
                    *part = CasePart::Pattern;
                    self.place.command = false;
                }
            }
            _ if self.top() == Some(Open::Case(CasePart::Pattern)) => {}
            _ if self.top() == Some(Open::Condition) => {}
            TokenKind::Semicolon | TokenKind::Ampersand => {
                self.begin_command();
            }
            _ => {
                self.begin_command();
                self.place.until_in = None;
            }
        }
    }

    fn paren_open(&mut self) {
        let start = self.position;
        match self.top() {
            Some(Open::Case(CasePart::Pattern)) | Some(Open::Condition) => {
                self.place.in_word = false;
                self.push(TokenKind::ParenOpen, start + 1);
            }
            _ if self.place.function != FunctionPart::Name
                && (self.place.command || self.place.until_in == Some(1)) =>
            {
                if self.byte(start + 1) == b'(' && self.is_arithmetic(start + 2) {
                    self.place.until_in = None;
                    return self.open(Open::Arithmetic { parens: 0 }, TokenKind::ParensOpen, 2, Place::START);
                }
                self.open(Open::Commands, TokenKind::ParenOpen, 1, Place::START);
            }
            _ => {
                self.place.in_word = false;
                self.open(Open::FunctionParens, TokenKind::ParenOpen, 1, Place::START);
            }
        }
    }

    fn paren_close(&mut self) {
        let start = self.position;
        match self.top() {
            Some(Open::Case(CasePart::Pattern)) => {
                if let Some(Frame { open: Open::Case(part), .. }) = self.frames.last_mut() {
                    *part = CasePart::Body;
                }
                self.push(TokenKind::ParenClose, start + 1);
                self.place = Place::START;
            }
            Some(Open::Condition) => {
                self.place.in_word = false;
                self.push(TokenKind::ParenClose, start + 1);
            }
            Some(Open::Array) => self.close_part(TokenKind::ParenClose, 1),
            Some(Open::FunctionParens) => {
                self.close(TokenKind::ParenClose, 1);
                self.place = Place::START;
            }
            Some(Open::Commands) => {
                let frame = self.frames[self.frames.len() - 1];
                let is_subshell = self.bytes[frame.at as usize] == b'(';
                if is_subshell {
                    // A word that ends a compound command may follow at once.
                    self.close(TokenKind::ParenClose, 1);
                    self.place = Place::START;
                } else {
                    self.close_part(TokenKind::ParenClose, 1);
                }
            }
            _ => {
                self.fault(start, start + 1, Problem::Unopened(TokenKind::ParenClose));
                self.push(TokenKind::ParenClose, start + 1);
                self.place = Place::START;
            }
        }
    }

    /// At the first character of a word.
    fn word(&mut self) {
        let start = self.position;
        if self.place.target {
            self.place.target = false;
            return self.part();
        }
        match self.place.function {
            FunctionPart::Word => {
                self.part();
                self.place.function = FunctionPart::Name;
                return;
            }
            FunctionPart::Name => self.place = Place::START,
            FunctionPart::None => {}
        }
        let bare = self.bare_word(start);
        if self.number_of_redirection(bare) || self.reserved_word(bare) {
            return;
        }
        let in_condition = self.top() == Some(Open::Condition);
        // `eval local quays=(north south)`
        let takes_array = self.place.evaluates && bare.ends_with(b"=") && self.byte(start + bare.len()) == b'(';
        let takes_assignments = (self.place.command || self.place.declares || takes_array) && !in_condition;
        if takes_assignments && self.assignment() {
            return;
        }
        if self.place.command {
            self.place.declares = DECLARING.contains(&bare) && !in_condition;
            self.place.evaluates = matches!(bare, b"eval" | b"let") && !in_condition;
        }
        self.place.command = false;
        if self.top() == Some(Open::Array) && self.byte(start) == b'[' {
            return self.open(Open::Subscript { brackets: 0 }, TokenKind::BracketOpen, 1, self.place);
        }
        self.part();
    }

    /// A word of plain characters, if what begins here is one to its end; else nothing.
    fn bare_word(&self, start: usize) -> &'s [u8] {
        let rest = &self.bytes[start..];
        let length = rest
            .iter()
            .position(|byte| {
                matches!(byte, b' ' | b'\t' | b'\n' | b';' | b'&' | b'|' | b'(' | b')' | b'<' | b'>' | b'`')
            })
            .unwrap_or(rest.len());
        let word = &rest[..length];
        if word.iter().any(|byte| matches!(byte, b'\'' | b'"' | b'$' | b'\\')) { b"" } else { word }
    }

    /// Digits directly before a redirection say which file it is for.
    fn number_of_redirection(&mut self, bare: &[u8]) -> bool {
        let end = self.position + bare.len();
        let is_number = !bare.is_empty() && bare.iter().all(u8::is_ascii_digit);
        let before = is_number && matches!(self.byte(end), b'<' | b'>') && self.top() != Some(Open::Condition);
        if before {
            self.push(TokenKind::Number, end);
        }
        before
    }

    /// A word that is more than a word here.
    fn reserved_word(&mut self, bare: &[u8]) -> bool {
        let end = self.position + bare.len();
        if bare.is_empty() {
            self.count_until_in();
            return false;
        }
        match self.top() {
            Some(Open::Condition) if bare == b"]]" => {
                self.close(TokenKind::ConditionClose, 2);
                self.place = Place::START;
                return true;
            }
            Some(Open::Condition) => {
                if bare == b"=~" {
                    self.push_part(TokenKind::ShellText, end);
                    self.place.regex = Regex::Next;
                    self.place.regex_parens = 0;
                    return true;
                }
                return false;
            }
            Some(Open::Case(CasePart::Pattern)) if bare == b"esac" => {
                self.end_case(end);
                return true;
            }
            Some(Open::Case(CasePart::Pattern) | Open::Array) => return false,
            _ => {}
        }
        if self.place.until_in == Some(0) {
            self.place.until_in = None;
            if bare == b"in" {
                self.push(TokenKind::In, end);
                self.place.command = false;
                if let Some(Frame { open: Open::Case(part @ CasePart::BeforeIn), .. }) = self.frames.last_mut() {
                    *part = CasePart::Pattern;
                }
                return true;
            }
            // `for name do` leaves `in` out.
            self.place.command |= bare == b"do";
        }
        let kind = if self.place.command { reserved(bare) } else { None };
        let Some(kind) = kind else {
            self.count_until_in();
            return false;
        };
        self.on_reserved(kind, end);
        true
    }

    fn count_until_in(&mut self) {
        self.place.until_in = self.place.until_in.and_then(|count| count.checked_sub(1));
    }

    fn on_reserved(&mut self, kind: TokenKind, end: usize) {
        match kind {
            TokenKind::ConditionOpen => self.open(Open::Condition, kind, 2, Place { command: false, ..Place::START }),
            TokenKind::Case => {
                self.open(Open::Case(CasePart::BeforeIn), kind, end - self.position, Place::START);
                self.place = Place { command: false, until_in: Some(1), ..Place::START };
            }
            TokenKind::Esac => self.end_case(end),
            TokenKind::For | TokenKind::Select => {
                self.push(kind, end);
                self.place = Place { command: false, until_in: Some(1), ..Place::START };
            }
            TokenKind::FunctionWord => {
                self.push(kind, end);
                self.place = Place { command: false, function: FunctionPart::Word, ..Place::START };
            }
            _ => {
                self.push(kind, end);
                self.place = Place::START;
                match kind {
                    TokenKind::Time => self.option_of_time(),
                    TokenKind::Coproc => self.name_of_coprocess(),
                    _ => {}
                }
            }
        }
    }

    /// `time -p`: the command begins after the option.
    fn option_of_time(&mut self) {
        let start = self.past_blanks(self.position);
        if start > self.position && self.bare_word(start) == b"-p" {
            self.push(TokenKind::Blank, start);
            self.push(TokenKind::ShellText, start + 2);
        }
    }

    /// `coproc NAME compound`: the command begins after the name, if it is a compound one.
    fn name_of_coprocess(&mut self) {
        let start = self.past_blanks(self.position);
        let name = self.bare_word(start);
        let behind = self.past_blanks(start + name.len());
        let is_compound = self.byte(behind) == b'(' || reserved(self.bare_word(behind)).is_some();
        if !name.is_empty() && reserved(name).is_none() && behind > start + name.len() && is_compound {
            self.push(TokenKind::Blank, start);
            self.push(TokenKind::ShellText, start + name.len());
        }
    }

    fn past_blanks(&self, start: usize) -> usize {
        (start..).find(|at| !matches!(self.byte(*at), b' ' | b'\t')).unwrap_or(start)
    }

    fn end_case(&mut self, end: usize) {
        if matches!(self.top(), Some(Open::Case(_))) {
            self.frames.pop();
        }
        self.push(TokenKind::Esac, end);
        self.place = Place::START;
    }
}
