//! Everything between a folder and findings: settings, discovery, running, waivers, baseline and fixes.
//!
//! The outcome of a run is a plain value, [`outcome::Outcome`]; showing it is the interface's affair.
#![forbid(unsafe_code)]

pub mod baseline;
mod cache;
mod clash;
mod copies;
pub mod discover;
pub mod files;
pub mod fix;
pub mod git;
pub mod habits;
mod join;
pub mod last_run;
mod modules;
pub mod outcome;
pub mod owners;
mod places;
pub mod project;
pub mod rename;
mod sealed;
pub mod settings;
pub mod sift;
mod upkeep;
mod view;
mod waiver;
mod walk;

pub use jiff::civil::Date;
pub use join::Index;
pub use waiver::{CannotWaive, NewWaiver, waive};

/// A day in the form in which waivers and options name it, such as `2027-03-01`.
pub fn day_named(text: &str) -> Option<Date> {
    waiver::parse_day(text)
}

/// The day by the system's clock and time zone.
pub fn today() -> Date {
    jiff::Zoned::now().date()
}
