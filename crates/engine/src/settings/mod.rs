//! Settings: files named `sieve.toml`, found upwards from each file that is sifted.

mod edit;
mod effective;
mod error;
mod file;
mod names;
mod naming;
mod read;
mod reader;
mod schema;
mod tree;
mod upgrade;
mod value;

pub(crate) use edit::split_mark;
pub use edit::{EditError, set};
pub use effective::{
    Aside, Budget, Effective, Overrides, PlacedPatterns, RuleSetting, SettingsWaiver, Source, Sourced, level_by_default,
};
pub use error::{SettingsError, nearest};
pub use file::{BanEntry, Patterns};
pub(crate) use file::{SettingsFile, WaiveEntry};
pub use names::{is_known, rules_named, unknown};
pub use schema::schema;
pub use tree::SettingsTree;
pub use upgrade::{lower_budgets, source_of, with_current_defaults};

/// The name of a settings file.
pub const FILE_NAME: &str = "sieve.toml";

/// Whether a reason says anything at all.
pub(crate) fn says_something(reason: &str) -> bool {
    reason.chars().any(char::is_alphanumeric)
}
