//! A stretch of text.

use std::ops::Range;

/// A stretch of text in bytes, end exclusive.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
pub struct Span {
    /// First byte.
    pub start: u32,
    /// The byte after the last.
    pub end: u32,
}

impl Span {
    /// The stretch from `start` up to `end`.
    #[inline]
    pub fn new(start: u32, end: u32) -> Span {
        Span { start, end: end.max(start) }
    }

    /// The empty stretch at `offset`.
    #[inline]
    pub fn at(offset: u32) -> Span {
        Span { start: offset, end: offset }
    }

    /// The same as a range of `usize`, for slicing.
    #[inline]
    pub fn range(self) -> Range<usize> {
        self.start as usize..self.end as usize
    }

    /// Length in bytes.
    #[inline]
    pub fn len(self) -> u32 {
        self.end - self.start
    }

    /// Whether it holds no byte.
    #[inline]
    pub fn is_empty(self) -> bool {
        self.start == self.end
    }

    /// Whether `other` lies within this stretch, borders included.
    #[inline]
    pub fn contains(self, other: Span) -> bool {
        self.start <= other.start && other.end <= self.end
    }

    /// The smallest stretch that holds both.
    pub fn join(self, other: Span) -> Span {
        Span { start: self.start.min(other.start), end: self.end.max(other.end) }
    }
}
