//! Settings: files named `sieve.toml`, found upwards from each file that is sifted.

mod effective;
mod error;
mod file;
mod tree;

pub use effective::{Aside, SettingsWaiver};
pub use effective::{Effective, Overrides, PlacedPatterns, RuleSetting, Source, Sourced};
pub use error::{SettingsError, nearest};
pub use file::{Patterns, rules_named};
pub use tree::SettingsTree;

/// The name of a settings file.
pub const FILE_NAME: &str = "sieve.toml";

/// The release whose names and defaults this version has.
pub const RELEASE: &str = "0.1";
