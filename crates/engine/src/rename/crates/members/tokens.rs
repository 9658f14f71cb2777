//! What rows of words with dots are that macros are given.

use sieve_syntax::text::Span;
use sieve_syntax::tree::TokenKind;

use super::library;
use super::lookup::World;
use super::types::Type;

impl World<'_, '_> {
    /// What a row of words with dots in a macro is: `self.tide.low()`, up to a dot.
    pub(super) fn of_tokens(&self, file: usize, tokens: &[(TokenKind, Span)], end: usize) -> Type {
        let Some((start, steps)) = chain(tokens, end) else { return Type::Unknown };
        let view = &self.views()[file];
        let slice = |place: usize| view.file.text.slice(tokens[place].1);
        let node = view.file.tree.covering(tokens[start].1);
        let mut of = match slice(start) {
            "self" => self.of_self(file, node),
            _ => match view.binding_of(node, tokens[start].1) {
                Some(id) if !view.is_import(id) && !self.is_item(file, id) => self.variable(file, id),
                _ => return Type::Unknown,
            },
        };
        for step in steps {
            of = match step {
                Step::Field(place) => self.field_of(&of, slice(place)),
                Step::Call(place) => self.called(&of, slice(place), Vec::new()),
                Step::Element => library::indexed(&of),
                Step::Propagation => library::propagated(of),
            };
        }
        of
    }
}

/// What is behind the first word of a row of words with dots.
enum Step {
    /// A field, by the place of its name.
    Field(usize),
    /// A method that is called.
    Call(usize),
    /// `[3]`
    Element,
    /// `?`
    Propagation,
}

/// The first word of a row of words with dots, and what is behind it; the row ends before a dot.
fn chain(tokens: &[(TokenKind, Span)], end: usize) -> Option<(usize, Vec<Step>)> {
    let mut steps = Vec::new();
    let mut place = end.checked_sub(1)?;
    loop {
        loop {
            match tokens[place].0 {
                TokenKind::Question => steps.push(Step::Propagation),
                TokenKind::BracketClose => {
                    place = opening(tokens, place)?;
                    steps.push(Step::Element);
                }
                _ => break,
            }
            place = place.checked_sub(1)?;
        }
        let is_call = tokens[place].0 == TokenKind::ParenClose;
        if is_call {
            place = opening(tokens, place)?.checked_sub(1)?;
        }
        if !matches!(tokens[place].0, TokenKind::Name | TokenKind::Number | TokenKind::SelfWord) {
            return None;
        }
        match place.checked_sub(1).map(|before| tokens[before].0) {
            Some(TokenKind::Dot) => {
                steps.push(if is_call { Step::Call(place) } else { Step::Field(place) });
                place = place.checked_sub(2)?;
            }
            Some(TokenKind::ColonColon | TokenKind::Dollar) => return None,
            _ if is_call => return None,
            _ => break,
        }
    }
    steps.reverse();
    Some((place, steps))
}

/// The place of the bracket that one at a place closes.
fn opening(tokens: &[(TokenKind, Span)], close: usize) -> Option<usize> {
    let mut depth = 0;
    (0..=close).rev().find(|place| {
        depth += i32::from(tokens[*place].0.closes()) - i32::from(tokens[*place].0.opens());
        depth == 0
    })
}
