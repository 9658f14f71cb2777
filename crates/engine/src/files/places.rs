//! Folders outside the code base, for what is kept between runs: by the XDG Base Directory Specification 0.8 where its variables
//! are set, else in the usual places.

use std::path::PathBuf;

/// What both folders are called.
const NAME: &str = "honest-sieve";

/// Where results of runs are kept; nothing if there is no such place.
pub(crate) fn cache_folder() -> Option<PathBuf> {
    folder("XDG_CACHE_HOME", ".cache")
}

/// Where the last fixing run and the last counts are kept; nothing if there is no such place.
pub(crate) fn state_folder() -> Option<PathBuf> {
    folder("XDG_STATE_HOME", ".local/state")
}

fn folder(variable: &str, below_home: &str) -> Option<PathBuf> {
    let set = |name: &str| std::env::var_os(name).map(PathBuf::from).filter(|path| path.is_absolute());
    let base = set(variable).or_else(|| set("LOCALAPPDATA")).or_else(|| Some(set("HOME")?.join(below_home)))?;
    Some(base.join(NAME))
}
