//! Numbers that look random and are the same in every run.

/// A small generator (SplitMix64, by S. Vigna).
pub struct Random(u64);

impl Random {
    /// Starts at a seed.
    pub fn new(seed: u64) -> Random {
        Random(seed)
    }

    /// The next number below `bound`.
    pub fn below(&mut self, bound: usize) -> usize {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut mixed = self.0;
        mixed = (mixed ^ (mixed >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        mixed = (mixed ^ (mixed >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        ((mixed ^ (mixed >> 31)) % bound.max(1) as u64) as usize
    }
}
