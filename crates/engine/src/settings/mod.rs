//! Settings: files named `sieve.toml`, found upwards from each file that is sifted.

mod components;
mod edit;
mod effective;
mod error;
pub mod fetch;
mod file;
mod listed;
mod names;
mod naming;
mod pack;
mod placed;
mod read;
mod reader;
mod schema;
pub(crate) mod schemas;
mod tree;
mod upgrade;
mod value;

pub use edit::{EditError, add_pack, pattern_of, set, set_for};
pub use effective::{
    Aside, Budget, Effective, Overrides, RuleSetting, SettingsWaiver, Source, Sourced, level_by_default,
};
pub use error::{SettingsError, nearest};
pub use file::{BanEntry, Patterns};
pub(crate) use file::{LoadedSchema, SettingsFile, WaiveEntry};
pub use names::{is_known, rules_named, unknown};
pub use pack::{BUILT_IN as BUILT_IN_PACKS, Pack, PackSource, Packs, pack_schema};
pub use placed::{PlacedPatterns, PlacedSchema};
pub(crate) use reader::split_mark;
pub use schema::schema;
pub use tree::SettingsTree;
pub use upgrade::{lower_budgets, source_of, with_current_defaults};

use std::path::Path;

use crate::files::FileError;

/// The name of a settings file.
pub const FILE_NAME: &str = "sieve.toml";

/// A larger settings file is refused.
const LARGEST: u64 = 8 << 20;

/// The text of a settings file or a pack.
fn text_of(path: &Path, bytes: Result<Vec<u8>, FileError>) -> Result<String, SettingsError> {
    let whole = |message| SettingsError { path: path.to_path_buf(), place: None, message };
    let bytes = bytes.map_err(|error| whole(error.without_path()))?;
    String::from_utf8(bytes).map_err(|_| whole("this is not UTF-8".to_string()))
}

/// Whether a reason says anything at all.
pub(crate) fn says_something(reason: &str) -> bool {
    reason.chars().any(char::is_alphanumeric)
}
