//! The grammar of JavaScript and TypeScript, one function a rule, named after the rules of ECMAScript 2025.

mod arguments;
mod arrow;
mod chain;
mod class;
mod control;
mod declaration;
mod expression;
mod function;
mod markup;
mod module;
mod name;
mod object;
mod operator;
mod pattern;
mod primary;
mod statement;
mod target;
mod template;
mod types;

use std::collections::HashSet;

use super::Dialect;
use super::lexer::{Goal, Lexer, OldForms};
use crate::parse::{Checkpoint, Lex, Parsed, Parser};
use crate::text::Span;
use crate::tree::{Fault, Problem, Role, Token, TokenId, TokenKind, Tree};

/// The parser with what only this language keeps.
type Front<'t> = Parser<'t, Own<'t>>;

/// What only this language's parser keeps.
#[derive(Debug)]
struct Own<'t> {
    lexer: Lexer<'t>,
    dialect: Dialect,
    context: Context,
    /// An import or an export was met.
    is_module: bool,
    /// Brackets that were tried as the parameters of an arrow function or as type arguments, and are neither.
    tried_in_vain: HashSet<TokenId>,
    /// The labels of the statements around the current place.
    labels: Vec<&'t str>,
    /// How many tokens were read in vain.
    tried: u64,
    /// Shorthand entries with a default, which only the targets of an assignment may hold, that no target has taken yet.
    covers: Vec<Span>,
}

/// What the code around the current place allows.
#[derive(Debug, Clone, Copy, Default)]
struct Context {
    /// `await` is an operator.
    in_async: bool,
    /// `yield` is an operator.
    in_generator: bool,
    in_function: bool,
    /// `super.x` has an object to look in.
    in_method: bool,
    /// `super()` has a constructor to call.
    in_constructor: bool,
    /// Private names may be there.
    in_class: bool,
    /// The class extends another one.
    in_derived_class: bool,
    /// `break` has something to leave.
    in_breakable: bool,
    /// `continue` has something to go on with.
    in_loop: bool,
    /// `in` belongs to the head of a loop.
    no_in: bool,
    /// `extends` does not begin a choice between types.
    no_conditional_type: bool,
    /// A colon after the parameters of an arrow function may belong to a choice around it.
    in_choice: bool,
    /// How many arrow functions within each other are being looked into to find that colon.
    looked_into: u8,
}

impl Own<'_> {
    /// An import or export shows that the file is a module.
    fn found_module(&mut self) {
        self.is_module = true;
        self.lexer.state.html_comments = false;
    }
}

impl Lex for Own<'_> {
    type Goal = Goal;

    #[inline]
    fn lex(&mut self, tokens: &mut Vec<Token>, goal: Goal) {
        self.lexer.lex(tokens, goal);
    }

    fn end(&self) -> u32 {
        self.lexer.end()
    }

    fn restart(&mut self, offset: u32) {
        self.lexer.restart(offset);
    }

    fn faults(&self) -> &[Fault] {
        self.lexer.faults()
    }
}

fn start(source: &str, dialect: Dialect) -> Front<'_> {
    // Both are left to scripts; types came later.
    let lexer = Lexer::new(source, OldForms { html_comments: !dialect.types, leading_zeros: !dialect.types });
    let context = Context::default();
    let own = Own {
        lexer,
        dialect,
        context,
        is_module: false,
        tried_in_vain: HashSet::new(),
        labels: Vec::new(),
        tried: 0,
        covers: Vec::new(),
    };
    Parser::on_demand(source, own)
}

/// `Script : ScriptBody?`, `Module : ModuleBody?`
pub(super) fn file(source: &str, dialect: Dialect) -> Tree {
    let mut parser = start(source, dialect);
    let mark = parser.open_file();
    while !parser.at(TokenKind::EndOfFile) {
        statement::statement_list_item(&mut parser);
    }
    parser.finish(mark).into_tree()
}

/// `Expression`, and nothing after it.
pub(super) fn lone_expression(source: &str, dialect: Dialect) -> Tree {
    let mut parser = start(source, dialect);
    let mark = parser.open_file();
    let _ = expression::expression(&mut parser);
    parser.role(Role::Value);
    parser.skip_to_end();
    parser.finish(mark).into_tree()
}

impl<'t> Front<'t> {
    fn has_types(&self) -> bool {
        self.own.dialect.types
    }

    fn context(&self) -> Context {
        self.own.context
    }

    /// Runs a grammar rule where something else is allowed than around it.
    fn within(&mut self, change: impl FnOnce(&mut Context), rule: impl FnOnce(&mut Self) -> Parsed) -> Parsed {
        let around = self.own.context;
        change(&mut self.own.context);
        let outcome = rule(self);
        self.own.context = around;
        outcome
    }

    /// Runs a grammar rule between brackets: of what is allowed around them, only what the function says still counts.
    fn within_brackets(&mut self, rule: impl FnOnce(&mut Self) -> Parsed) -> Parsed {
        let enter = |context: &mut Context| {
            context.no_in = false;
            context.in_choice = false;
        };
        self.within(enter, rule)
    }

    /// Items with commas between them, up to the bracket that closes around them; a comma may be after the last.
    fn list(&mut self, close: TokenKind, mut item: impl FnMut(&mut Self) -> Parsed) -> Parsed {
        while !self.at(close) {
            item(self)?;
            if !self.at(close) {
                self.expect(TokenKind::Comma)?;
            }
        }
        self.bump();
        Ok(())
    }

    /// Whether a line ends between the last token taken and the current one.
    fn at_new_line(&self) -> bool {
        self.trivia_before().any(|token| self.breaks_line(token))
    }

    /// Whether a line ends between the current token and the one after it.
    fn next_is_on_new_line(&mut self) -> bool {
        let next = self.next_token().0;
        (self.position() + 1..next).any(|token| self.breaks_line(token))
    }

    fn breaks_line(&self, token: TokenId) -> bool {
        match self.kind_of(token) {
            TokenKind::LineEnd => true,
            TokenKind::Comment => {
                let text = self.token_text(token);
                text.starts_with("/*") && text.contains(['\n', '\r', '\u{2028}', '\u{2029}'])
            }
            _ => false,
        }
    }

    /// Whether the current token is a name with this text: a word that is reserved only in places.
    #[inline]
    fn at_word(&self, word: &str) -> bool {
        self.at(TokenKind::Name) && self.text() == word
    }

    fn eat_word(&mut self, word: &str) -> bool {
        let there = self.at_word(word);
        if there {
            self.bump();
        }
        there
    }

    /// The kind and text of the token after the current one.
    fn next_word(&mut self) -> (TokenKind, &'t str) {
        let (token, kind) = self.next_token();
        (kind, if kind == TokenKind::EndOfFile { "" } else { self.token_text(token) })
    }

    /// Runs a grammar rule; if it stops or finds a fault, comes back as if it had not been tried. Whether it fits.
    fn attempt(&mut self, rule: impl FnOnce(&mut Self) -> Parsed) -> bool {
        if self.own.tried > self.most_tried() {
            return false;
        }
        let start = self.checkpoint();
        let (context, covers) = (self.own.context, self.own.covers.len());
        let fits = rule(self).is_ok() && !self.faulty_since(&start);
        if !fits {
            self.come_back(&start, context, covers);
        }
        fits
    }

    /// How many tokens may be read in vain. Code that people write stays far below; code that wants to take long is read as if what is
    /// tried did not fit.
    fn most_tried(&self) -> u64 {
        4 * self.source_length() as u64 + 10_000
    }

    /// Looks ahead with a grammar rule and comes back.
    fn looks_like(&mut self, rule: impl FnOnce(&mut Self) -> bool) -> bool {
        if self.own.tried > self.most_tried() {
            return false;
        }
        let start = self.checkpoint();
        let (context, covers) = (self.own.context, self.own.covers.len());
        let answer = rule(self);
        self.come_back(&start, context, covers);
        answer
    }

    fn come_back(&mut self, start: &Checkpoint, context: Context, covers: usize) {
        let from = start.position();
        self.own.tried += u64::from(self.position() - from);
        self.rewind(start);
        self.own.context = context;
        self.own.covers.truncate(covers);
    }

    /// Tells of what the language refuses although its grammar allows it. The types' own compiler tells these later, beside its types.
    fn early_fault(&mut self, span: Span, problem: Problem) {
        if !self.has_types() {
            self.fault(span, problem);
        }
    }

    /// "Automatic Semicolon Insertion": a semicolon, the end of a line, of a block, or of the file.
    fn semicolon(&mut self) -> Parsed {
        if self.eat(TokenKind::Semicolon)
            || matches!(self.kind(), TokenKind::BraceClose | TokenKind::EndOfFile)
            || self.at_new_line()
        {
            return Ok(());
        }
        self.stop_expecting("';' or a new line")
    }

    fn at_semicolon(&self) -> bool {
        matches!(self.kind(), TokenKind::Semicolon | TokenKind::BraceClose | TokenKind::EndOfFile) || self.at_new_line()
    }
}
