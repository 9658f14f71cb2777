//! Everything between a folder and findings: settings, discovery, running, waivers, baseline and fixes.
//!
//! The outcome of a run is a plain value, [`outcome::Outcome`]; showing it is the interface's affair.
#![forbid(unsafe_code)]

mod cache;
mod check;
mod edits;
pub mod files;
pub mod find;
pub mod fix;
pub mod git;
pub mod habits;
mod hold;
mod join;
mod live;
pub mod outcome;
pub mod project;
pub mod rename;
pub mod run;
pub mod settings;
mod style_counts;
mod subject;
pub mod trial;
mod workspace;

pub use cache::build;
pub use cache::{Access, Part, PartError, Shard, SharedCache, SharedWork, Work};
pub use hold::baseline;
pub use hold::waiver::{CannotWaive, NewWaiver, waive};
pub use jiff::civil::Date;
pub use join::Index;
pub use live::Workspace;
pub use run::last_run;
pub use workspace::{discover, owners};

/// A day in the form in which waivers and options name it, such as `2027-03-01`.
pub fn day_named(text: &str) -> Option<Date> {
    hold::waiver::parse_day(text)
}

/// The day by the system's clock and time zone.
pub fn today() -> Date {
    jiff::Zoned::now().date()
}
