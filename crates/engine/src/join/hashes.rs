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
    fn a_set_is_what_was_put_in_and_survives_being_written() {
        let hashes = Hashes::of(vec![7, 3, 7, u32::MAX]);
        assert_eq!(hashes.iter().collect::<Vec<_>>(), [3, 7, u32::MAX]);
        let written = postcard::to_stdvec(&hashes).unwrap();
        assert_eq!(postcard::from_bytes::<Hashes>(&written).unwrap(), hashes);
        assert_ne!(hash_of("quay"), hash_of("boat"));
    }
}
