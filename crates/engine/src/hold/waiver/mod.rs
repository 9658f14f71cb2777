//! Waivers: written exemptions in comments.

mod apply;
mod directive;
mod in_settings;
mod region;
mod upkeep;
mod write;

pub(crate) use apply::{Waivers, hold_back};
pub(crate) use directive::parse_day;
pub(crate) use in_settings::{add_settings_waivers, hold_by_settings, settle_waivers};
pub(crate) use upkeep::upkeep_findings;
pub use write::{CannotWaive, NewWaiver, waive};
