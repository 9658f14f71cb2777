//! The modules that folders are: what their files declare together.

use std::collections::HashMap;
use std::ffi::OsString;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

use sieve_meaning::folder_module::{FileDeclarations, FolderForm, FolderModule};

use super::read;
use crate::files::EntryKind;
use crate::project::{Project, absolute};
use crate::workspace::once::OncePerFile;

/// What is known of the files of such folders, and of the folders.
#[derive(Debug, Default)]
pub(super) struct FolderIndex {
    /// By the sort of module.
    folders: [OncePerFile<Arc<FolderModule>>; FolderForm::COUNT],
    /// What files declare, from their visits.
    declarations: Mutex<HashMap<PathBuf, FileDeclarations>>,
}

impl FolderIndex {
    /// Notes what a file declares.
    pub(super) fn know(&self, path: &Path, declarations: FileDeclarations) {
        self.declarations.lock().unwrap_or_else(PoisonError::into_inner).insert(path.to_path_buf(), declarations);
    }

    /// Drops what is known of a file, and of its folder.
    pub(super) fn forget(&self, path: &Path) {
        self.declarations.lock().unwrap_or_else(PoisonError::into_inner).remove(path);
        if let Some(folder) = path.parent() {
            self.folders.iter().for_each(|of_form| of_form.forget(folder));
        }
    }

    /// The module that a folder is; nothing where not all of it can be known.
    pub(super) fn of(&self, project: &Project, folder: &Path, form: FolderForm) -> Option<Arc<FolderModule>> {
        self.folders[form as usize].of(folder, || {
            let names = files_of(project, folder, form)?;
            let files = names.iter().map(|name| self.declarations_of(project, &folder.join(name)));
            FolderModule::of(&files.collect::<Option<Vec<_>>>()?).map(Arc::new)
        })
    }

    /// What a file declares: from its visit, or else from its text.
    fn declarations_of(&self, project: &Project, path: &Path) -> Option<FileDeclarations> {
        let known = self.declarations.lock().unwrap_or_else(PoisonError::into_inner).get(path).cloned();
        known.or_else(|| declarations_in(project, path))
    }
}

/// The files of the module that a folder is; nothing where others may belong to it.
fn files_of(project: &Project, folder: &Path, form: FolderForm) -> Option<Vec<OsString>> {
    let mut names = Vec::new();
    for entry in project.files.list(folder).ok()? {
        let (entry, kind) = entry.ok()?;
        let name = entry.to_str().unwrap_or_default();
        match kind {
            EntryKind::Folder => {}
            EntryKind::File if form.has_part(name) => names.push(entry),
            // What a link leads to is not known.
            _ if form.has_part(name) || form.may_have(name) => return None,
            _ => {}
        }
    }
    names.sort();
    Some(names)
}

/// What a file declares, from its text.
fn declarations_in(project: &Project, path: &Path) -> Option<FileDeclarations> {
    let (language, text, tree) = read(project, path, |_| true)?;
    FileDeclarations::of(language, path.to_str()?, (&text, &tree), None)
}

/// The folder that a file names from its own.
pub(super) fn place(root: &Path, from: &str, folder: &str) -> Option<PathBuf> {
    let own = absolute(root, Path::new(from));
    let place = absolute(own.parent()?, Path::new(folder));
    place.starts_with(root).then_some(place)
}
