//! The schemas that files of data name for themselves, by `$schema`, among the files of the project.

use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, OnceLock, PoisonError};

use rustc_hash::FxHashMap;

use crate::project::{Project, absolute};
use crate::settings::LoadedSchema;
use crate::settings::schemas;

/// Nothing for what is no schema, or not there.
type Known = Arc<OnceLock<Option<LoadedSchema>>>;

/// The schemas that were asked for, each read once.
#[derive(Debug, Default)]
pub(crate) struct SchemaIndex {
    known: Mutex<FxHashMap<PathBuf, Known>>,
}

impl SchemaIndex {
    /// Drops what is known of a file.
    pub(super) fn forget(&self, path: &Path) {
        self.known.lock().unwrap_or_else(PoisonError::into_inner).remove(path);
    }

    /// The schema in a file of the project, named from the root.
    pub(crate) fn named(&self, project: &Project, path: &str) -> Option<LoadedSchema> {
        let path = absolute(&project.root, Path::new(path));
        let known = {
            let mut known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
            Arc::clone(known.entry(path.clone()).or_default())
        };
        let is_inside = path.starts_with(&project.root);
        known
            .get_or_init(|| if is_inside { schemas::read(&*project.files, &project.root, &path).ok() } else { None })
            .clone()
    }
}
