//! Where a parser's tokens come from.

use crate::tree::{Fault, Token};

/// Gives tokens to a parser, one at a time where what a character means depends on what the parser expects there.
pub trait Lex {
    /// What the parser may expect at a place.
    type Goal: Copy + Default;

    /// Appends the next token that is no trivia, and the trivia before it. The last one is the end of the file.
    fn lex(&mut self, tokens: &mut Vec<Token>, goal: Self::Goal);

    /// Offset just past the last token.
    fn end(&self) -> u32;

    /// Goes back to an offset, forgetting the faults from there on.
    fn restart(&mut self, offset: u32);

    /// What is wrong with the tokens, in the order of the places.
    fn faults(&self) -> &[Fault];
}

/// The source of tokens of a text that was cut up before it is parsed.
#[derive(Debug)]
pub struct Lexed {
    end: u32,
    faults: Vec<Fault>,
}

impl Lexed {
    pub(super) fn new(end: u32, faults: Vec<Fault>) -> Lexed {
        Lexed { end, faults }
    }
}

impl Lex for Lexed {
    type Goal = ();

    fn lex(&mut self, _tokens: &mut Vec<Token>, _goal: ()) {}

    fn end(&self) -> u32 {
        self.end
    }

    fn restart(&mut self, _offset: u32) {}

    fn faults(&self) -> &[Fault] {
        &self.faults
    }
}
