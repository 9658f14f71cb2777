//! Writes fixed files, each whole or not at all, so that the run can be undone.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

use super::FixedFile;
use super::journal::{self, Lock};
use crate::files::{self, FileError};
use crate::project::Project;

/// A run that changes files of a code base: no other such run goes on meanwhile.
#[derive(Debug)]
pub struct FixingRun<'p> {
    project: &'p Project,
    /// Whether the old contents are kept.
    keeps: bool,
    _lock: Lock,
}

/// What writing fixed files came to.
#[derive(Debug, Default)]
pub struct Written<'f> {
    /// The files that have their fixes now.
    pub files: Vec<&'f FixedFile>,
    /// What could not be written.
    pub errors: Vec<FileError>,
    /// Why the run cannot be undone, if it cannot.
    pub not_undoable: Option<FileError>,
}

impl<'p> FixingRun<'p> {
    /// Begins a run. With `keeps`, it can be taken back by [`super::undo`].
    ///
    /// # Errors
    /// When another run goes on.
    pub fn begin(project: &'p Project, keeps: bool) -> Result<FixingRun<'p>, FileError> {
        Ok(FixingRun { project, keeps, _lock: Lock::take(project)? })
    }

    /// Writes the files, unless they changed since they were read.
    ///
    /// # Errors
    /// When the old contents cannot be kept; then nothing is written.
    pub fn write_all<'f>(&self, fixed: &'f [FixedFile]) -> Result<Written<'f>, FileError> {
        let mut written = Written::default();
        if fixed.is_empty() {
            return Ok(written);
        }
        let previous = journal::content(self.project);
        if self.keeps {
            journal::keep(self.project, fixed.iter())?;
        }
        for file in fixed {
            match write(file) {
                Ok(()) => written.files.push(file),
                Err(error) => written.errors.push(error),
            }
        }
        if self.keeps && written.files.is_empty() {
            // Nothing came of this run: the one before can still be taken back.
            journal::put_back(self.project, previous);
        } else if self.keeps && written.files.len() < fixed.len() {
            // Files that were left alone are none of this run's affair.
            written.not_undoable = journal::keep(self.project, written.files.iter().copied()).err();
        }
        let folders: BTreeSet<&Path> = fixed.iter().filter_map(|file| file.path.parent()).collect();
        folders.into_iter().for_each(files::sweep);
        Ok(written)
    }
}

/// Writes one fixed file, unless it has changed since it was read.
///
/// # Errors
/// When it cannot be read again or written, or has changed meanwhile; it is then as it was.
fn write(file: &FixedFile) -> Result<(), FileError> {
    let shown = |mut error: FileError| {
        error.path = PathBuf::from(&*file.shown);
        error
    };
    let Some(to) = &file.moved_to else {
        return files::replace(&file.path, &file.before, &file.after).map_err(shown);
    };
    files::ensure_free(&file.path, to).map_err(shown)?;
    files::replace(&file.path, &file.before, &file.after).map_err(shown)?;
    files::rename(&file.path, to).map_err(|error| {
        // Under its old name it must have its old content. That this fails, too, is what the error says.
        let _ = files::replace(&file.path, &file.after, &file.before);
        shown(error)
    })
}
