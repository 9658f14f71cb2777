//! Keeps the server up where this program has a mistake.

use std::panic::{AssertUnwindSafe, catch_unwind};

/// Does some work; nothing if it fails by a mistake of this program, which must not take the editor's server along.
pub fn guarded<T>(work: impl FnOnce() -> T) -> Option<T> {
    catch_unwind(AssertUnwindSafe(work)).ok()
}
