//! How many of many things begin up to a place in a text: who looks for one at an offset looks at the few that begin close to it.

use std::ops::Range;

/// For each stretch of bytes how many things begin up to its first byte.
#[derive(Debug, Clone)]
pub(crate) struct Begun(Vec<u32>);

impl Begun {
    /// Bytes of a stretch.
    const STRETCH: usize = 64;

    /// Takes one pass over the offsets at which things begin, in their order, in a text of some length in bytes.
    pub(crate) fn of(starts: impl Iterator<Item = u32>, length: usize) -> Begun {
        let mut begun = Vec::with_capacity(length / Begun::STRETCH + 1);
        let mut count = 0;
        for start in starts {
            while begun.len() * Begun::STRETCH < start as usize {
                begun.push(count);
            }
            count += 1;
        }
        begun.resize(length / Begun::STRETCH + 1, count);
        Begun(begun)
    }

    /// How many begin up to the first byte of the stretch that an offset is in; all for offsets past the end.
    #[inline]
    pub(crate) fn before(&self, offset: u32) -> usize {
        let stretch = (offset as usize / Begun::STRETCH).min(self.0.len() - 1);
        self.0[stretch] as usize
    }

    /// How many of all begin before an offset is no less than the first of these and no more than the second, whether or not those that
    /// begin at the offset are counted.
    pub(crate) fn bounds(&self, offset: u32, all: usize) -> Range<usize> {
        let stretch = offset as usize / Begun::STRETCH;
        let at = |stretch: usize| self.0.get(stretch).map_or(all, |count| *count as usize);
        stretch.checked_sub(1).map_or(0, at)..at(stretch + 1)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn bounds_are_around_what_counting_gives() {
        let starts = [0, 0, 3, 63, 64, 64, 65, 200, 200, 256];
        let begun = Begun::of(starts.into_iter(), 256);
        for offset in 0..400 {
            let counted =
                |is_before: fn(u32, u32) -> bool| starts.iter().filter(|start| is_before(**start, offset)).count();
            let bounds = begun.bounds(offset, starts.len());
            for count in [counted(|start, offset| start < offset), counted(|start, offset| start <= offset)] {
                assert!((bounds.start..=bounds.end).contains(&count), "{offset}: {count} in {bounds:?}");
            }
            assert!(begun.before(offset) <= counted(|start, offset| start <= offset), "{offset}");
        }
        assert_eq!(Begun::of([0].into_iter(), 0).before(9), 1);
    }
}
