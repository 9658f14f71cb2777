//! The tokens of a tree by their places: who asks for the token at an offset looks at the few that begin close to it.

use std::ops::Range;

use super::Token;

/// For each stretch of bytes how many tokens begin up to its first byte.
#[derive(Debug, Clone)]
pub(super) struct Near {
    begun: Vec<u32>,
}

/// Bytes of a stretch.
const STRETCH: u32 = 64;

impl Near {
    /// Takes one pass over the tokens of a text of some length in bytes.
    pub(super) fn of(tokens: &[Token], length: u32) -> Near {
        let mut count = 0;
        let stretches = (0..=length / STRETCH).map(|stretch| stretch * STRETCH);
        let begun = stretches.map(|first| {
            count += tokens[count..].iter().take_while(|token| token.start <= first).count();
            count as u32
        });
        Near { begun: begun.collect() }
    }

    /// How many tokens begin before an offset is no less than the first of these and no more than the second, whether or not those that
    /// begin at the offset are counted.
    pub(super) fn bounds(&self, offset: u32, tokens: usize) -> Range<usize> {
        let stretch = (offset / STRETCH) as usize;
        let at = |stretch: usize| self.begun.get(stretch).map_or(tokens, |count| *count as usize);
        stretch.checked_sub(1).map_or(0, at)..at(stretch + 1)
    }
}
