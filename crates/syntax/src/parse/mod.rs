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

mod recovery;

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
pub struct Parser<'t> {
    source: &'t str,
    tokens: &'t [Token],
    position: TokenId,
    kind: TokenKind,
    /// Just past the last token that was taken and is no mark of layout: where a node closed now ends.
    solid_end: TokenId,
    builder: Builder,
    faults: Vec<Fault>,
    /// How many of the faults the lexer found; they come first.
    lexer_faults: usize,
    depth: u32,
    told_too_deep: bool,
    /// How many pairs of backquotes are open around the current token, with no other substitution in between.
    backquotes: u32,
}

impl<'t> Parser<'t> {
    /// Starts at the first token that is no trivia. `tokens` end with [`TokenKind::EndOfFile`]; `faults` are those that the lexer found.
    pub fn new(source: &'t str, tokens: &'t [Token], faults: Vec<Fault>) -> Parser<'t> {
        let mut parser = Parser {
            source,
            tokens,
            position: 0,
            kind: tokens[0].kind,
            solid_end: 0,
            builder: Builder::new(tokens.len()),
            lexer_faults: faults.len(),
            faults,
            depth: 0,
            told_too_deep: false,
            backquotes: 0,
        };
        if parser.kind.is_trivia() {
            parser.advance();
        }
        parser
    }

    /// Finishes the root around everything and gives the nodes and faults.
    pub fn finish(mut self, mark: Mark) -> (Builder, Vec<Fault>) {
        self.builder.close(mark, Kind::File, self.tokens.len() as TokenId);
        (self.builder, self.faults)
    }

    /// A mark at the very first token, trivia included.
    pub fn open_file(&self) -> Mark {
        self.builder.open(0)
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
        let end = self.tokens.get(token as usize + 1).map_or(self.source.len() as u32, |next| next.start);
        Span::new(self.tokens[token as usize].start, end)
    }

    /// The tokens after the current one, without trivia.
    pub fn ahead(&self) -> impl Iterator<Item = (TokenId, TokenKind)> + '_ {
        (self.position + 1..)
            .zip(&self.tokens[self.position as usize + 1..])
            .map(|(id, token)| (id, token.kind))
            .filter(|(_, kind)| !kind.is_trivia())
    }

    /// The kind of the token after the current one.
    pub fn next_kind(&self) -> TokenKind {
        self.ahead().next().map_or(TokenKind::EndOfFile, |(_, kind)| kind)
    }

    /// Whether the current token directly follows the last one taken, without a blank in between.
    pub fn is_adjacent(&self) -> bool {
        self.position == self.solid_end
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
    fn advance(&mut self) {
        loop {
            self.position += 1;
            match self.tokens.get(self.position as usize) {
                Some(token) if token.kind.is_trivia() => {}
                Some(token) => {
                    self.kind = token.kind;
                    return;
                }
                None => {
                    self.position = self.tokens.len() as TokenId - 1;
                    self.kind = TokenKind::EndOfFile;
                    return;
                }
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
            self.advance();
        }
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
            self.leave_out_nested();
            return Ok(());
        }
        self.depth += 1;
        let outcome = rule(self);
        self.depth -= 1;
        outcome
    }
}

/// Joins a lexer's tokens and a parser's outcome to a tree.
pub fn into_tree(source: &str, tokens: Vec<Token>, (builder, faults): (Builder, Vec<Fault>)) -> Tree {
    builder.finish(tokens, source.len() as u32, faults)
}
