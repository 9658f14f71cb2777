//! What all parsers share: the token cursor, the tree builder, faults, recovery and the depth guard.
//!
//! Names say what is consumed, here and in every language's parser:
//!
//! | name | meaning |
//! |---|---|
//! | `at(kind)` | looks, takes nothing |
//! | `eat(kind)` | takes the token if it is there, tells whether it was |
//! | `expect(kind)` | takes the token, or stops with a fault |
//! | `on_x` | the caller has seen that x begins here |
//! | `opt_x` | x may be absent |
//! | `skip_to_x` | leaves out tokens up to x |
//!
//! A function for a grammar rule returns [`Parsed`]: `Err(Stop)` means that a fault was noted and that the nearest caller
//! that knows how to go on should do so.

mod cut;
mod lex;
mod recovery;
mod scan;
mod sign;

pub(crate) use cut::Cut;
pub use lex::{Lex, Lexed};
pub(crate) use scan::{Scan, Scanning};
pub(crate) use sign::sign;

use crate::text::Span;
use crate::tree::{Builder, Fault, Kind, Mark, Problem, Role, Token, TokenId, TokenKind, Tree, Unfinished};

/// The deepest nesting of expressions and blocks that is looked into, in every language.
///
/// A level costs up to about 3 kB of stack; threads have 2 MB or more.
pub const DEPTH_LIMIT: u32 = 256;

/// A fault was noted; the caller should stop too, or recover.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Stop;

/// The outcome of a grammar rule.
pub type Parsed = Result<(), Stop>;

/// A parser's state, the same for every language.
#[derive(Debug)]
pub struct Parser<'t, L: Lex = Lexed> {
    source: &'t str,
    tokens: Vec<Token>,
    position: TokenId,
    kind: TokenKind,
    /// Just past the last token that was taken and is no mark of layout: where a node closed now ends.
    solid_end: TokenId,
    builder: Builder,
    faults: Vec<Fault>,
    depth: u32,
    told_too_deep: bool,
    /// How many pairs of backquotes are open around the current token, with no other substitution in between.
    backquotes: u32,
    /// Where tokens come from, with what else only this language's parser keeps.
    pub own: L,
}

impl<'t> Parser<'t> {
    /// Starts at the first token that is no trivia. `tokens` end with [`TokenKind::EndOfFile`]; `faults` are those that the lexer found.
    pub fn new(source: &'t str, tokens: Vec<Token>, faults: Vec<Fault>) -> Parser<'t> {
        Parser::starting(source, tokens, Lexed::new(source.len() as u32, faults))
    }

    /// The tokens after the current one, without trivia.
    pub fn ahead(&self) -> impl Iterator<Item = (TokenId, TokenKind)> + '_ {
        (self.position + 1..)
            .zip(&self.tokens[self.position as usize + 1..])
            .map(|(id, token)| (id, token.kind))
            .filter(|(_, kind)| !kind.is_trivia())
    }

    /// The kind of any token, trivia included; the end of the file past the last.
    #[inline]
    pub fn kind_or_end(&self, token: TokenId) -> TokenKind {
        self.tokens.get(token as usize).map_or(TokenKind::EndOfFile, |token| token.kind)
    }

    /// The kind of the token after the current one.
    pub fn following(&self) -> TokenKind {
        self.ahead().next().map_or(TokenKind::EndOfFile, |(_, kind)| kind)
    }
}

/// A place to come back to when what was tried does not fit.
#[derive(Debug, Clone, Copy)]
pub struct Checkpoint {
    position: TokenId,
    token: Token,
    token_end: u32,
    solid_end: TokenId,
    mark: Mark,
    faults: usize,
    depth: u32,
    told_too_deep: bool,
}

impl Checkpoint {
    /// The token that was current there.
    pub fn position(&self) -> TokenId {
        self.position
    }
}

impl<'t, L: Lex> Parser<'t, L> {
    /// Starts at the beginning of a text whose tokens are cut while it is parsed.
    pub fn on_demand(source: &'t str, lexer: L) -> Parser<'t, L> {
        let mut own = lexer;
        let mut tokens = Vec::with_capacity(source.len() / 3 + 8);
        own.lex(&mut tokens, L::Goal::default());
        Parser::starting(source, tokens, own)
    }

    fn starting(source: &'t str, tokens: Vec<Token>, own: L) -> Parser<'t, L> {
        let mut parser = Parser {
            source,
            position: 0,
            kind: tokens[0].kind,
            solid_end: 0,
            builder: Builder::new(source.len() / 6),
            faults: Vec::new(),
            depth: 0,
            told_too_deep: false,
            backquotes: 0,
            tokens,
            own,
        };
        if parser.kind.is_trivia() {
            parser.advance(L::Goal::default());
        }
        parser
    }

    /// Finishes the root around everything and gives tokens, nodes and faults.
    pub fn finish(mut self, mark: Mark) -> Parsing<'t> {
        self.builder.close(mark, Kind::File, self.tokens.len() as TokenId);
        let mut faults = self.own.faults().to_vec();
        faults.append(&mut self.faults);
        Parsing { source: self.source, tokens: self.tokens, builder: self.builder, faults }
    }

    /// A mark at the very first token, trivia included.
    pub fn open_file(&self) -> Mark {
        self.builder.open(0)
    }

    /// How many bytes the source has.
    pub fn source_length(&self) -> usize {
        self.source.len()
    }

    // Looking.

    /// The kind of the current token.
    #[inline]
    pub fn kind(&self) -> TokenKind {
        self.kind
    }

    /// Whether the current token is of this kind.
    #[inline]
    pub fn at(&self, kind: TokenKind) -> bool {
        self.kind == kind
    }

    /// The current token.
    pub fn position(&self) -> TokenId {
        self.position
    }

    /// The text of the current token.
    pub fn text(&self) -> &'t str {
        self.token_text(self.position)
    }

    /// The text of a token.
    pub fn token_text(&self, token: TokenId) -> &'t str {
        &self.source[self.token_span(token).range()]
    }

    /// The stretch of a token.
    pub fn token_span(&self, token: TokenId) -> Span {
        let end = self.tokens.get(token as usize + 1).map_or_else(|| self.own.end(), |next| next.start);
        Span::new(self.tokens[token as usize].start, end)
    }

    /// The current token and its kind.
    pub fn current(&self) -> (TokenId, TokenKind) {
        (self.position, self.kind)
    }

    /// The kind of the last token taken; the end of the file where none is.
    pub fn taken_kind(&self) -> TokenKind {
        self.solid_end.checked_sub(1).map_or(TokenKind::EndOfFile, |token| self.kind_of(token))
    }

    /// The kind of the token after the current one.
    pub fn next_kind(&mut self) -> TokenKind {
        self.next_token().1
    }

    /// The token after the current one that is no trivia.
    pub fn next_token(&mut self) -> (TokenId, TokenKind) {
        self.token_after(self.position)
    }

    /// The token after another one that is no trivia.
    pub fn token_after(&mut self, token: TokenId) -> (TokenId, TokenKind) {
        let mut next = token as usize + 1;
        loop {
            match self.tokens.get(next) {
                Some(token) if token.kind.is_trivia() => next += 1,
                Some(token) => return (next as TokenId, token.kind),
                None if self.tokens.last().is_none_or(|last| last.kind == TokenKind::EndOfFile) => {
                    return (self.tokens.len() as TokenId - 1, TokenKind::EndOfFile);
                }
                None => self.own.lex(&mut self.tokens, L::Goal::default()),
            }
        }
    }

    /// The kind of a token that was seen already, trivia included.
    pub fn kind_of(&self, token: TokenId) -> TokenKind {
        self.tokens[token as usize].kind
    }

    /// The bytes of the source that follow a token.
    pub fn bytes_behind(&self, token: TokenId) -> &'t [u8] {
        &self.source.as_bytes()[self.token_span(token).end as usize..]
    }

    /// The tokens without meaning between the last one taken and the current one.
    pub fn trivia_before(&self) -> std::ops::Range<TokenId> {
        self.solid_end..self.position
    }

    /// Just past the last token taken.
    pub fn taken_end(&self) -> TokenId {
        self.solid_end
    }

    /// Whether the current token directly follows the last one taken, without a space in between.
    pub fn is_adjacent(&self) -> bool {
        self.position == self.solid_end
    }

    /// Whether nothing but one token without meaning is between the last one taken and the current one.
    pub fn is_behind(&self, trivia: TokenKind) -> bool {
        self.position == self.solid_end + 1 && self.kind_of(self.solid_end) == trivia
    }

    /// Whether a backquote here would close a pair that is open.
    pub fn in_backquotes(&self) -> bool {
        self.backquotes > 0
    }

    /// Runs a grammar rule between backquotes.
    pub fn entering_backquotes(&mut self, rule: impl FnOnce(&mut Self) -> Parsed) -> Parsed {
        self.backquotes += 1;
        let outcome = rule(self);
        self.backquotes -= 1;
        outcome
    }

    // Taking.

    #[inline]
    fn advance(&mut self, goal: L::Goal) {
        loop {
            self.position += 1;
            if self.position as usize >= self.tokens.len() {
                self.own.lex(&mut self.tokens, goal);
            }
            let kind = self.tokens[self.position as usize].kind;
            if !kind.is_trivia() {
                self.kind = kind;
                return;
            }
        }
    }

    /// Takes the current token, whatever it is. The end of the file is never taken.
    #[inline]
    pub fn bump(&mut self) {
        if !self.kind.is_layout() {
            self.solid_end = self.position + 1;
        }
        if self.kind != TokenKind::EndOfFile {
            self.advance(L::Goal::default());
        }
    }

    /// Takes the current token; what follows it is read for this goal.
    pub fn bump_for(&mut self, goal: L::Goal) {
        self.forget_ahead(self.token_span(self.position).end);
        if self.kind != TokenKind::EndOfFile {
            self.solid_end = self.position + 1;
            self.advance(goal);
        }
    }

    /// Reads the current token again, for this goal.
    pub fn read_again(&mut self, goal: L::Goal) {
        let start = self.tokens[self.position as usize].start;
        self.tokens.truncate(self.position as usize);
        self.own.restart(start);
        self.own.lex(&mut self.tokens, goal);
        self.kind = self.tokens[self.position as usize].kind;
    }

    /// Reads an operator that begins with `>` whole, by the goal for that, where each `>` is cut alone.
    #[inline]
    pub fn join_greater(&mut self, goal: L::Goal) {
        if self.at(TokenKind::Greater) && matches!(self.bytes_behind(self.position), [b'>' | b'=', ..]) {
            self.read_again(goal);
        }
    }

    fn forget_ahead(&mut self, end: u32) {
        if self.position as usize + 1 < self.tokens.len() {
            self.tokens.truncate(self.position as usize + 1);
            self.own.restart(end);
        }
    }

    // Trying.

    /// Remembers this place.
    pub fn checkpoint(&self) -> Checkpoint {
        Checkpoint {
            position: self.position,
            token: self.tokens[self.position as usize],
            token_end: self.token_span(self.position).end,
            solid_end: self.solid_end,
            mark: self.open(),
            faults: self.faults.len(),
            depth: self.depth,
            told_too_deep: self.told_too_deep,
        }
    }

    /// Whether a fault was noted since.
    pub fn faulty_since(&self, checkpoint: &Checkpoint) -> bool {
        self.faults.len() > checkpoint.faults
            || self.own.faults().last().is_some_and(|fault| fault.span.start >= checkpoint.token.start)
    }

    /// Comes back to a place as if nothing had been read since.
    pub fn rewind(&mut self, checkpoint: &Checkpoint) {
        self.position = checkpoint.position;
        self.tokens.truncate(self.position as usize);
        self.tokens.push(checkpoint.token);
        self.own.restart(checkpoint.token_end);
        self.kind = checkpoint.token.kind;
        self.solid_end = checkpoint.solid_end;
        self.builder.forget_since(checkpoint.mark);
        self.faults.truncate(checkpoint.faults);
        self.depth = checkpoint.depth;
        self.told_too_deep = checkpoint.told_too_deep;
    }

    /// Takes the current token if it is of this kind.
    #[inline]
    pub fn eat(&mut self, kind: TokenKind) -> bool {
        let there = self.kind == kind;
        if there {
            self.bump();
        }
        there
    }

    /// Takes a token of this kind, or stops.
    #[inline]
    pub fn expect(&mut self, kind: TokenKind) -> Parsed {
        if self.eat(kind) { Ok(()) } else { self.stop_expecting(kind.describe()) }
    }

    // Building.

    /// Remembers that a node may begin at the current token.
    #[inline]
    pub fn open(&self) -> Mark {
        self.builder.open(self.position)
    }

    /// Finishes a node that ends with the last token taken.
    #[inline]
    pub fn close(&mut self, mark: Mark, kind: Kind) {
        self.builder.close(mark, kind, self.solid_end);
    }

    /// Finishes a node in a role.
    #[inline]
    pub fn close_as(&mut self, mark: Mark, kind: Kind, role: Role) {
        self.close(mark, kind);
        self.role(role);
    }

    /// Says what the node finished last is to its parent.
    #[inline]
    pub fn role(&mut self, role: Role) {
        self.builder.role(role);
    }

    /// Says what the last node finished before `mark` is to its parent.
    pub fn role_before(&mut self, mark: Mark, role: Role) {
        self.builder.role_before(mark, role);
    }

    /// Says what the node finished last is to its parent, if it began at `mark` or after it.
    pub fn role_since(&mut self, mark: Mark, role: Role) {
        if self.last_since(mark).is_some() {
            self.role(role);
        }
    }

    /// Takes the current token as a node of its own.
    #[inline]
    pub fn leaf(&mut self, kind: Kind, role: Role) {
        let mark = self.open();
        self.bump();
        self.close_as(mark, kind, role);
    }

    /// The node finished last, if it began at `mark` or after it.
    pub fn last_since(&self, mark: Mark) -> Option<Unfinished<'_>> {
        self.builder.last_since(mark)
    }

    // Faults.

    /// Notes a fault and goes on.
    pub fn fault(&mut self, span: Span, problem: Problem) {
        self.faults.push(Fault { span, problem });
    }

    /// Notes a fault over the tokens from `mark` to the last one taken, and goes on.
    pub fn fault_since(&mut self, mark: Mark, problem: Problem) {
        let start = self.token_span(mark.token()).start;
        let end = if self.solid_end > mark.token() { self.token_span(self.solid_end - 1).end } else { start };
        self.fault(Span::new(start, end), problem);
    }

    /// Notes a fault at the current token and stops.
    pub fn stop(&mut self, problem: Problem) -> Parsed {
        let span = self.token_span(self.position);
        self.fault(span, problem);
        Err(Stop)
    }

    /// Notes that something else was expected at the current token and stops.
    #[cold]
    pub fn stop_expecting(&mut self, what: &'static str) -> Parsed {
        let found = self.kind;
        self.stop(Problem::Expected { what, found })
    }

    /// Runs a grammar rule one level deeper; past the limit, leaves the nested code out as an opaque node.
    #[inline]
    pub fn nested(&mut self, rule: impl FnOnce(&mut Self) -> Parsed) -> Parsed {
        if self.depth >= DEPTH_LIMIT {
            return self.leave_out_nested();
        }
        self.depth += 1;
        let outcome = rule(self);
        self.depth -= 1;
        outcome
    }
}

/// What a parser made of a text.
#[derive(Debug)]
pub struct Parsing<'t> {
    source: &'t str,
    /// The tokens, which join to the text.
    pub tokens: Vec<Token>,
    builder: Builder,
    /// What is wrong, the lexer's faults first.
    pub faults: Vec<Fault>,
}

impl Parsing<'_> {
    /// Joins it to a tree.
    pub fn into_tree(self) -> Tree {
        self.builder.finish(self.tokens, self.source, self.faults)
    }
}
