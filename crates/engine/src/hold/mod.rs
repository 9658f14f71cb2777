//! What holds findings back: waivers in comments and settings, and the baseline.

pub mod baseline;
pub(crate) mod waiver;
