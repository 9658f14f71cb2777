//! Sets of hashes of words, as facts hold them: sorted, four bytes each.

use std::hash::{Hash, Hasher};

use rustc_hash::FxHasher;
use serde::{Deserialize, Serialize};

/// The hash of a word, or of several. Two that are the same by chance make a rule silent, nothing worse.
pub(super) fn hash_of(word: impl Hash) -> u32 {
    let mut hasher = FxHasher::default();
    word.hash(&mut hasher);
    (hasher.finish() >> 32) as u32
}

/// Hashes that are being gathered.
#[derive(Debug)]
pub(super) struct Gathering {
    hashes: Vec<u32>,
    /// What came last, by its last bits: most words of a source are ones that it has just used, and need not be sorted.
    recent: Box<[u32; RECENT]>,
}

const RECENT: usize = 1024;

impl Default for Gathering {
    fn default() -> Gathering {
        Gathering { hashes: Vec::new(), recent: Box::new([0; RECENT]) }
    }
}

impl Gathering {
    /// Adds one.
    #[inline]
    pub(super) fn add(&mut self, hash: u32) {
        let before = std::mem::replace(&mut self.recent[hash as usize % RECENT], hash);
        if before != hash || hash == 0 {
            self.hashes.push(hash);
        }
    }

    /// Each once, in order.
    pub(super) fn into_hashes(self) -> Hashes {
        Hashes::of(self.hashes)
    }
}

/// A set of them, packed so that it is read and written as it is.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct Hashes(Box<[u8]>);

impl Hashes {
    /// Each once, in order.
    pub(super) fn of(mut hashes: Vec<u32>) -> Hashes {
        hashes.sort_unstable();
        hashes.dedup();
        Hashes(hashes.iter().flat_map(|hash| hash.to_le_bytes()).collect())
    }

    pub(super) fn iter(&self) -> impl Iterator<Item = u32> {
        let (hashes, _) = self.0.as_chunks::<4>();
        hashes.iter().map(|bytes| u32::from_le_bytes(*bytes))
    }

    pub(super) fn contains(&self, hash: u32) -> bool {
        let (hashes, _) = self.0.as_chunks::<4>();
        hashes.binary_search_by_key(&hash, |bytes| u32::from_le_bytes(*bytes)).is_ok()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_added_again_and_again_is_there_once() {
        let mut gathering = Gathering::default();
        [0, 5, 5, 5 + RECENT as u32, 5, 0].into_iter().for_each(|hash| gathering.add(hash));
        assert_eq!(gathering.into_hashes().iter().collect::<Vec<_>>(), [0, 5, 5 + RECENT as u32]);
    }

    #[test]
    fn a_set_is_what_was_put_in_and_survives_being_written() {
        let hashes = Hashes::of(vec![7, 3, 7, u32::MAX]);
        assert_eq!(hashes.iter().collect::<Vec<_>>(), [3, 7, u32::MAX]);
        let written = postcard::to_stdvec(&hashes).unwrap();
        assert_eq!(postcard::from_bytes::<Hashes>(&written).unwrap(), hashes);
        assert_ne!(hash_of("quay"), hash_of("boat"));
    }
}
