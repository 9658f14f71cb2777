//! Lines and columns. LF, CRLF and a lone CR end a line.

use crate::text::{Begun, Span};

/// The byte-order mark, U+FEFF in UTF-8.
pub(crate) const BYTE_ORDER_MARK: &str = "\u{feff}";

/// A line and a column, both counted from 1; the column counts Unicode scalar values.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Place {
    /// Line, from 1.
    pub line: u32,
    /// Column in Unicode scalar values, from 1.
    pub column: u32,
}

/// The way a file ends its lines.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum LineEnding {
    /// Line feed.
    Lf,
    /// Carriage return and line feed.
    CrLf,
    /// A carriage return alone.
    Cr,
}

impl LineEnding {
    /// The characters themselves.
    pub fn as_str(self) -> &'static str {
        match self {
            LineEnding::Lf => "\n",
            LineEnding::CrLf => "\r\n",
            LineEnding::Cr => "\r",
        }
    }
}

/// The byte offsets at which lines begin.
///
/// Built in one pass; finding the line of an offset looks at the few lines that begin close to it.
#[derive(Debug, Clone)]
pub struct LineIndex {
    starts: Vec<u32>,
    begun: Begun,
    length: u32,
    bom: bool,
    /// For each block of the text, how many bytes before it only go on with a character; nothing where all are ASCII. With it the column
    /// of a place in a line of megabytes costs no more than that of any other.
    continued: Vec<u32>,
}

/// Bytes of a block.
const BLOCK: usize = 4096;

impl LineIndex {
    /// Finds the lines of a text.
    pub fn new(source: &str) -> LineIndex {
        let bytes = source.as_bytes();
        let mut starts = Vec::with_capacity(bytes.len() / 32 + 1);
        starts.push(0);
        if memchr::memchr(b'\r', bytes).is_none() {
            push_after_line_feeds(bytes, &mut starts);
        } else {
            for at in memchr::memchr2_iter(b'\n', b'\r', bytes) {
                let first_of_pair = bytes[at] == b'\r' && bytes.get(at + 1) == Some(&b'\n');
                if !first_of_pair {
                    starts.push(at as u32 + 1);
                }
            }
        }
        let continued = if source.is_ascii() { Vec::new() } else { continued_before_blocks(bytes) };
        let begun = Begun::of(starts.iter().copied(), bytes.len());
        LineIndex { starts, begun, length: bytes.len() as u32, bom: source.starts_with(BYTE_ORDER_MARK), continued }
    }

    /// The number of lines; text after the last line end counts as one, nothing after it does not.
    #[inline]
    pub fn count(&self) -> u32 {
        let all = self.starts.len() as u32;
        if self.starts.last() == Some(&self.length) { all - 1 } else { all }
    }

    /// The line, from 1, that holds the byte at `offset`; the last for offsets past the end.
    #[inline]
    pub fn line_of(&self, offset: u32) -> u32 {
        let mut line = self.begun.before(offset) as u32;
        while self.starts.get(line as usize).is_some_and(|start| *start <= offset) {
            line += 1;
        }
        line
    }

    /// The offset at which the line after this one begins; the length of the text for the last line.
    #[inline]
    pub fn start_of_next(&self, line: u32) -> u32 {
        self.starts.get(line as usize).copied().unwrap_or(self.length)
    }

    /// The stretch of a line with its line end; lines past the last are empty at the end of the text.
    #[inline]
    pub fn full_line(&self, line: u32) -> Span {
        let index = line.saturating_sub(1) as usize;
        let start = self.starts.get(index).copied().unwrap_or(self.length);
        let end = self.starts.get(index + 1).copied().unwrap_or(self.length);
        Span::new(start, end)
    }

    /// The stretch of a line without its line end, and without the byte-order mark.
    #[inline]
    pub fn line(&self, source: &str, line: u32) -> Span {
        let mut span = self.full_line(line);
        let bytes = source.as_bytes();
        if span.end > span.start && bytes[span.end as usize - 1] == b'\n' {
            span.end -= 1;
        }
        if span.end > span.start && bytes[span.end as usize - 1] == b'\r' {
            span.end -= 1;
        }
        if line == 1 && self.bom {
            span.start = BYTE_ORDER_MARK.len() as u32;
        }
        span
    }

    /// Line and column of an offset.
    pub fn place(&self, source: &str, offset: u32) -> Place {
        let offset = offset.min(self.length);
        let line = self.line_of(offset);
        let mut start = self.starts[line as usize - 1];
        if line == 1 && self.bom {
            start = (BYTE_ORDER_MARK.len() as u32).min(offset);
        }
        Place { line, column: offset - start - self.continued_between(source, start, offset) + 1 }
    }

    /// How many bytes of a stretch only go on with a character.
    fn continued_between(&self, source: &str, start: u32, end: u32) -> u32 {
        if self.continued.is_empty() {
            0
        } else if (end - start) as usize <= BLOCK {
            count_continued(&source.as_bytes()[start as usize..end as usize])
        } else {
            self.continued_before(source, end) - self.continued_before(source, start)
        }
    }

    /// How many bytes before an offset only go on with a character.
    fn continued_before(&self, source: &str, offset: u32) -> u32 {
        let block = offset as usize / BLOCK;
        let Some(before) = self.continued.get(block) else { return 0 };
        before + count_continued(&source.as_bytes()[block * BLOCK..offset as usize])
    }

    /// The offset of a line and column, if the text has that place.
    pub fn offset(&self, source: &str, place: Place) -> Option<u32> {
        if place.line == 0 || place.column == 0 || place.line > self.starts.len() as u32 {
            return None;
        }
        let span = self.line(source, place.line);
        let text = &source[span.range()];
        let past_end = (text.len(), ' ');
        let (at, _) = text.char_indices().chain([past_end]).nth(place.column as usize - 1)?;
        Some(span.start + at as u32)
    }

    /// The ending of the first line that has one; LF for a text of one line.
    pub fn ending(&self, source: &str) -> LineEnding {
        let Some(second) = self.starts.get(1) else { return LineEnding::Lf };
        match source[..*second as usize].as_bytes() {
            [.., b'\r', b'\n'] => LineEnding::CrLf,
            [.., b'\r'] => LineEnding::Cr,
            _ => LineEnding::Lf,
        }
    }
}

/// Looks at eight bytes at once: lines are too short for searches that must be set up for each.
fn push_after_line_feeds(bytes: &[u8], starts: &mut Vec<u32>) {
    const FEEDS: u64 = u64::from_le_bytes([b'\n'; 8]);
    const LOW: u64 = u64::from_le_bytes([0x7f; 8]);
    let (words, rest) = bytes.as_chunks::<8>();
    for (number, word) in words.iter().enumerate() {
        // A byte of `differs` is 0 where the text has a line feed; the high bit of `hits` is set for those.
        let differs = u64::from_le_bytes(*word) ^ FEEDS;
        let mut hits = !(((differs & LOW) + LOW) | differs | LOW);
        while hits != 0 {
            starts.push(number as u32 * 8 + hits.trailing_zeros() / 8 + 1);
            hits &= hits - 1;
        }
    }
    let before = words.len() as u32 * 8;
    starts.extend((before..).zip(rest).filter(|(_, byte)| **byte == b'\n').map(|(at, _)| at + 1));
}

fn continued_before_blocks(bytes: &[u8]) -> Vec<u32> {
    let mut sum = 0;
    let mut before = Vec::with_capacity(bytes.len() / BLOCK + 1);
    before.push(0);
    for block in bytes.chunks(BLOCK) {
        sum += count_continued(block);
        before.push(sum);
    }
    before
}

fn count_continued(bytes: &[u8]) -> u32 {
    // Sums of single bytes are many in one register.
    let count = |piece: &[u8]| piece.iter().map(|byte| u8::from(*byte & 0b1100_0000 == 0b1000_0000)).sum::<u8>();
    bytes.chunks(u8::MAX.into()).map(|piece| u32::from(count(piece))).sum()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_line_end_counts_once() {
        let source = "a\r\nb\rc\nd";
        let index = LineIndex::new(source);
        assert_eq!(index.count(), 4);
        assert_eq!(&source[index.line(source, 2).range()], "b");
        assert_eq!(index.place(source, 5), Place { line: 3, column: 1 });
        assert_eq!(index.ending(source), LineEnding::CrLf);
    }

    #[test]
    fn the_line_of_an_offset_is_that_of_the_last_line_start_before_it() {
        let source = format!("{}x\n\n\n{}\nlast", "\n".repeat(200), "tide ".repeat(60));
        let index = LineIndex::new(&source);
        for offset in 0..=source.len() + 100 {
            let before = &source.as_bytes()[..offset.min(source.len())];
            let line = before.iter().filter(|byte| **byte == b'\n').count() as u32 + 1;
            assert_eq!(index.line_of(offset as u32), line, "{offset}");
        }
        assert_eq!(index.start_of_next(1), 1);
        assert_eq!(index.start_of_next(index.count()), source.len() as u32);
    }

    #[test]
    fn columns_count_characters_and_not_the_byte_order_mark() {
        let source = "\u{feff}tïde = 1\n";
        let index = LineIndex::new(source);
        let equals = source.find('=').unwrap() as u32;
        assert_eq!(index.place(source, equals), Place { line: 1, column: 6 });
        assert_eq!(index.offset(source, Place { line: 1, column: 6 }), Some(equals));
        assert_eq!(index.offset(source, Place { line: 9, column: 1 }), None);
    }

    #[test]
    fn columns_of_long_lines_are_counted_by_blocks() {
        let source = format!("a\n{}x\ny", "ï".repeat(5_000));
        let index = LineIndex::new(&source);
        let at = source.find('x').unwrap() as u32;
        assert_eq!(index.place(&source, at), Place { line: 2, column: 5_001 });
        assert_eq!(index.place(&source, at + 2), Place { line: 3, column: 1 });
    }

    #[test]
    fn a_text_that_ends_in_a_line_end_has_no_further_line() {
        assert_eq!(LineIndex::new("a\n").count(), 1);
        assert_eq!(LineIndex::new("").count(), 0);
        assert_eq!(LineIndex::new("a").count(), 1);
    }
}
