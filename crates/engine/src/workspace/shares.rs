//! How threads share work on many files.

use rayon::iter::MaxLen;
use rayon::prelude::*;
use rayon::slice::Iter;

/// A thread that has nothing to do takes over files of another one, but none of a share that this has begun.
const SHARE: usize = 4;

/// Files, or what belongs to each, for several threads at once. Some files take a thousand times as long as others.
pub(crate) fn in_shares<T: Sync>(files: &[T]) -> MaxLen<Iter<'_, T>> {
    files.par_iter().with_max_len(SHARE)
}
