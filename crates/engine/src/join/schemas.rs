//! The schemas that files of data name for themselves, by `$schema`, among the files of the project.

use std::path::Path;

use crate::project::{Project, absolute};
use crate::settings::LoadedSchema;
use crate::settings::schemas;
use crate::workspace::once::OncePerFile;

/// The schemas that were asked for, each read once; nothing for what is no schema, or not there.
#[derive(Debug, Default)]
pub(crate) struct SchemaIndex(OncePerFile<LoadedSchema>);

impl SchemaIndex {
    /// Drops what is known of a file.
    pub(super) fn forget(&self, path: &Path) {
        self.0.forget(path);
    }

    /// The schema in a file of the project, named from the root.
    pub(crate) fn named(&self, project: &Project, path: &str) -> Option<LoadedSchema> {
        let path = absolute(&project.root, Path::new(path));
        let is_inside = path.starts_with(&project.root);
        let read = || if is_inside { schemas::read(&*project.files, &project.root, &path).ok() } else { None };
        self.0.of(&path, read)
    }
}
