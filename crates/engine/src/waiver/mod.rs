//! Waivers: written exemptions in comments.

mod apply;
mod directive;
mod region;
mod upkeep;

pub(crate) use apply::{Waivers, hold_back};
pub(crate) use upkeep::upkeep_findings;
