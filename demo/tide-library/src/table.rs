//! The times of high water, day by day.

use std::collections::BTreeMap;

use crate::height::Height;

/// High water for each day: the minute of the day, and the height.
#[derive(Debug, Default)]
pub struct TideTable {
    days: BTreeMap<u32, (u16, Height)>,
}

impl TideTable {
    /// Notes the high water of a day.
    pub fn note(&mut self, day: u32, minute: u16, height: Height) {
        self.days.insert(day, (minute, height));
    }

    /// The minute of high water on a day.
    pub fn minute(&self, day: u32) -> Option<u16> {
        self.days.get(&day).map(|(minute, _)| *minute)
    }

    pub fn highest(&self) -> Option<Height> {
        self.days.values().map(|(_, height)| *height).max()
    }

    /// Whether two high waters are on one day, or on neighbouring ones.
    pub fn is_spring(&self, first: u32, second: u32) -> bool {
        first.abs_diff(second) < 2 && self.days.contains_key(&first) && self.days.contains_key(&second)
    }
}
