//! The code base as it was before the changes that count.

use std::sync::Arc;

use crate::files::Overlay;
use crate::git::Changes;
use crate::join::Index;
use crate::project::Project;

/// The files before some changes, and what they say of each other.
pub(crate) struct Before {
    pub(crate) project: Project,
    pub(crate) index: Index,
}

impl Before {
    /// The files of a project without the changes. Of several versions that a file had, the first counts.
    pub(crate) fn of(project: &Project, changes: &Changes) -> Before {
        let mut files = Overlay::over(Arc::clone(&project.files));
        for (path, file) in &changes.files {
            match file.before.first() {
                Some(content) => files.set(path.clone(), content.as_slice()),
                None => files.remove(path.clone()),
            }
        }
        Before { project: project.clone().with_files(Arc::new(files)), index: Index::default() }
    }
}
