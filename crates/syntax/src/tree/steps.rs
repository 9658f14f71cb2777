//! Counts steps over trees in builds with debug assertions: tests compare how work grows with the source, without a clock.

use std::cell::Cell;

thread_local! {
    static TAKEN: Cell<u64> = const { Cell::new(0) };
}

/// The nodes and tokens that this thread has looked up so far; always 0 without debug assertions.
pub fn taken() -> u64 {
    TAKEN.get()
}

/// Counts one.
#[inline]
pub(super) fn step() {
    if cfg!(debug_assertions) {
        TAKEN.set(TAKEN.get().wrapping_add(1));
    }
}
