//! What is made of a file when it is first asked for, and then kept.

use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, OnceLock, PoisonError};

use rustc_hash::FxHashMap;

/// What is made of files, once of each; nothing of some.
#[derive(Debug)]
pub(crate) struct OncePerFile<T>(Mutex<FxHashMap<PathBuf, Made<T>>>);

type Made<T> = Arc<OnceLock<Option<T>>>;

impl<T> Default for OncePerFile<T> {
    fn default() -> OncePerFile<T> {
        OncePerFile(Mutex::default())
    }
}

impl<T: Clone> OncePerFile<T> {
    /// What is made of a file. Only those who ask for the same file wait for each other.
    pub(crate) fn of(&self, path: &Path, make: impl FnOnce() -> Option<T>) -> Option<T> {
        let made = {
            let mut files = self.0.lock().unwrap_or_else(PoisonError::into_inner);
            Arc::clone(files.entry(path.to_path_buf()).or_default())
        };
        made.get_or_init(make).clone()
    }

    /// Drops what was made of a file.
    pub(crate) fn forget(&self, path: &Path) {
        self.0.lock().unwrap_or_else(PoisonError::into_inner).remove(path);
    }
}
