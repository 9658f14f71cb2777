//! What the benchmarks have in common.

use std::time::Duration;

/// Rounds of each measurement; the median counts.
pub const ROUNDS: usize = 5;

/// The time in the middle.
pub fn median(mut times: Vec<Duration>) -> Duration {
    times.sort();
    times[times.len() / 2]
}
