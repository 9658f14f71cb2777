//! Which lines of a text are not those of an earlier one.

use std::collections::HashMap;
use std::ops::RangeInclusive;

use similar::{Algorithm, DiffTag, capture_diff_slices};

/// Lines of a file, from 1.
#[derive(Debug, Default, Clone, PartialEq, Eq)]
pub enum ChangedLines {
    /// The whole file.
    #[default]
    All,
    /// These, in order.
    Some(Vec<RangeInclusive<u32>>),
}

/// The most pairs of lines for which the shortest list of changes is worked out: its time may grow with their number.
const MOST_PAIRS: usize = 16_000_000;

impl ChangedLines {
    /// Compares two versions of a file. Line feeds with and without a carriage return are the same, as version control may turn
    /// one into the other.
    pub fn between(before: &[u8], after: &[u8]) -> ChangedLines {
        let (old, new) = (lines(before), lines(after));
        let head = old.iter().zip(&new).take_while(|(one, other)| one == other).count();
        let tail =
            old[head..].iter().rev().zip(new[head..].iter().rev()).take_while(|(one, other)| one == other).count();
        let (old, new) = (&old[head..old.len() - tail], &new[head..new.len() - tail]);
        let changed =
            if old.len().saturating_mul(new.len()) <= MOST_PAIRS { shortest(old, new) } else { not_among(old, new) };
        let shift = |range: std::ops::Range<usize>| (head + range.start) as u32 + 1..=(head + range.end) as u32;
        ChangedLines::Some(changed.into_iter().map(shift).collect())
    }

    /// Whether no line changed.
    pub fn is_empty(&self) -> bool {
        matches!(self, ChangedLines::Some(ranges) if ranges.is_empty())
    }

    /// Whether a stretch of lines holds a changed one.
    pub fn touch(&self, lines: RangeInclusive<u32>) -> bool {
        match self {
            ChangedLines::All => true,
            ChangedLines::Some(ranges) => {
                let next = ranges.partition_point(|range| range.end() < lines.start());
                ranges.get(next).is_some_and(|range| range.start() <= lines.end())
            }
        }
    }

    /// The lines that both have.
    pub fn and(self, other: ChangedLines) -> ChangedLines {
        let (mine, others) = match (self, other) {
            (ChangedLines::All, lines) | (lines, ChangedLines::All) => return lines,
            (ChangedLines::Some(mine), ChangedLines::Some(others)) => (mine, others),
        };
        let mut both = Vec::new();
        let mut rest = others.as_slice();
        for range in &mine {
            while let Some(first) = rest.first() {
                let (start, end) = (*range.start().max(first.start()), *range.end().min(first.end()));
                if start <= end {
                    both.push(start..=end);
                }
                if first.end() > range.end() {
                    break;
                }
                rest = &rest[1..];
            }
        }
        ChangedLines::Some(both)
    }
}

fn lines(text: &[u8]) -> Vec<&[u8]> {
    let line = |line| text_of_line(line);
    text.split_inclusive(|byte| *byte == b'\n').map(line).collect()
}

/// A line with its line feed, but without the carriage return before that.
fn text_of_line(line: &[u8]) -> &[u8] {
    match line {
        [text @ .., b'\r', b'\n'] | [text @ .., b'\n'] => text,
        text => text,
    }
}

fn shortest(old: &[&[u8]], new: &[&[u8]]) -> Vec<std::ops::Range<usize>> {
    let ops = capture_diff_slices(Algorithm::Myers, old, new);
    let new = ops.iter().filter(|op| op.tag() != DiffTag::Equal).map(|op| op.new_range());
    new.filter(|range| !range.is_empty()).collect()
}

/// The new lines of which the old version has none, or not as many.
fn not_among(old: &[&[u8]], new: &[&[u8]]) -> Vec<std::ops::Range<usize>> {
    let mut left: HashMap<&[u8], usize> = HashMap::new();
    for line in old {
        *left.entry(line).or_insert(0) += 1;
    }
    let mut changed: Vec<std::ops::Range<usize>> = Vec::new();
    for (index, line) in new.iter().enumerate() {
        match left.get_mut(line).filter(|count| **count > 0) {
            Some(count) => *count -= 1,
            None => match changed.last_mut().filter(|range| range.end == index) {
                Some(range) => range.end += 1,
                None => changed.push(index..index + 1),
            },
        }
    }
    changed
}

#[cfg(test)]
mod tests {
    use super::*;

    fn some(ranges: &[(u32, u32)]) -> ChangedLines {
        ChangedLines::Some(ranges.iter().map(|(start, end)| *start..=*end).collect())
    }

    #[test]
    fn a_stretch_touches_lines_that_it_shares() {
        let lines = some(&[(3, 4), (9, 9)]);
        assert!(lines.touch(4..=5) && lines.touch(1..=20) && lines.touch(9..=9));
        assert!(!lines.touch(5..=8) && !lines.touch(10..=11) && !lines.touch(1..=2));
    }

    #[test]
    fn changed_lines_are_those_of_the_new_text() {
        assert_eq!(ChangedLines::between(b"a\nb\nc\n", b"a\nx\nb\nc\ny\n"), some(&[(2, 2), (5, 5)]));
        assert_eq!(ChangedLines::between(b"a\nb\n", b"a\n"), some(&[]));
        assert_eq!(ChangedLines::between(b"a\r\nb\r\n", b"a\nb\n"), some(&[]));
        assert_eq!(ChangedLines::between(b"", b"a\n"), some(&[(1, 1)]));
    }

    #[test]
    fn what_is_new_for_both_is_what_both_have() {
        assert_eq!(some(&[(1, 5), (8, 9)]).and(some(&[(2, 3), (5, 8)])), some(&[(2, 3), (5, 5), (8, 8)]));
        assert_eq!(ChangedLines::All.and(some(&[(1, 1)])), some(&[(1, 1)]));
    }

    #[test]
    fn large_changes_are_compared_in_linear_time() {
        let text = |from: u32| (from..from + 30_000).map(|number| format!("{number}\n")).collect::<String>();
        let (before, after) = (text(0), text(20_000));
        let reversed: String = after.lines().rev().map(|line| format!("{line}\n")).collect();
        let ChangedLines::Some(changed) = ChangedLines::between(before.as_bytes(), reversed.as_bytes()) else {
            panic!("some lines are the same")
        };
        assert_eq!(changed, [1..=20_000]);
    }
}
