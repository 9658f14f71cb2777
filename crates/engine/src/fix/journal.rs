//! The last fixing run, kept so that it can be undone.
//!
//! It is written before the first file is changed, so that a run that is broken off can be undone, too.

use std::fmt;
use std::path::{Path, PathBuf};

use serde::{Deserialize, Serialize};
use xxhash_rust::xxh3::xxh3_128;

use super::FixedFile;
use crate::files::{self, FileError};
use crate::places;
use crate::project::Project;
use crate::sealed;

const HEAD: &[u8] = b"sieve-undo 2\n";

/// One file of a fixing run.
#[derive(Debug, Serialize, Deserialize)]
struct Record {
    path: PathBuf,
    before: Vec<u8>,
    /// The hash of its bytes with the fixes.
    after: u128,
    /// Where it went, if it got another name.
    moved_to: Option<PathBuf>,
}

/// What became of a file since a run.
enum Since {
    /// It is as it was before: the run was broken off, or undone in part.
    Untouched,
    /// It is as the run left it, at this path.
    Fixed(PathBuf),
    /// It is something else.
    Changed,
}

impl Record {
    fn of(file: &FixedFile) -> Record {
        Record {
            path: file.path.clone(),
            before: file.before.clone(),
            after: xxh3_128(&file.after),
            moved_to: file.moved_to.clone(),
        }
    }

    fn since(&self) -> Since {
        let content_at = |path: &Path| std::fs::read(path).ok();
        match (content_at(&self.path), self.moved_to.as_deref().and_then(|to| Some((to, content_at(to)?)))) {
            (Some(now), None) if now == self.before => Since::Untouched,
            (Some(now), None) if xxh3_128(&now) == self.after => Since::Fixed(self.path.clone()),
            (None, Some((to, now))) if xxh3_128(&now) == self.after || now == self.before => {
                Since::Fixed(to.to_path_buf())
            }
            _ => Since::Changed,
        }
    }

    /// Gives the file its old content and its old name.
    fn put_back(&self, at: &Path) -> Result<(), FileError> {
        files::write(at, &self.before)?;
        if at == self.path { Ok(()) } else { files::rename(at, &self.path) }
    }
}

/// Why the last run cannot be undone.
#[derive(Debug)]
pub enum UndoError {
    /// There is no run to undo.
    NothingKept,
    /// These files changed since.
    Changed(Vec<PathBuf>),
    /// A file cannot be read or written.
    File(FileError),
}

impl fmt::Display for UndoError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            UndoError::NothingKept => write!(out, "there is no fixing run here to undo"),
            UndoError::Changed(paths) => {
                let names: Vec<String> = paths.iter().map(|path| path.display().to_string()).collect();
                write!(out, "nothing was undone, because this changed since the fixing run: {}", names.join(", "))
            }
            UndoError::File(error) => error.fmt(out),
        }
    }
}

impl std::error::Error for UndoError {}

/// Where the last run of a code base is kept; nothing if there is no place for it.
fn path_for(project: &Project) -> Option<PathBuf> {
    let root = xxh3_128(project.root.as_os_str().as_encoded_bytes());
    Some(places::state_folder()?.join(format!("{root:032x}.undo")))
}

/// Keeps what these files were, in place of the run before.
///
/// # Errors
/// When there is no place for it, or it cannot be written.
pub(super) fn keep<'f>(project: &Project, files: impl Iterator<Item = &'f FixedFile>) -> Result<(), FileError> {
    let failed = |path: &Path, cause| FileError { path: path.to_path_buf(), doing: "keep the old content in", cause };
    let Some(path) = path_for(project) else {
        let cause = std::io::Error::other("neither HOME nor XDG_STATE_HOME is set");
        return Err(failed(Path::new("the state folder"), cause));
    };
    let records: Vec<Record> = files.map(Record::of).collect();
    let body = postcard::to_stdvec(&records).map_err(|error| failed(&path, std::io::Error::other(error)))?;
    sealed::write(&path, HEAD, &body).map_err(|cause| failed(&path, cause))
}

/// The record of the last run as it stands, to be put back.
pub(super) fn content(project: &Project) -> Option<Vec<u8>> {
    std::fs::read(path_for(project)?).ok()
}

/// Puts a record back in place of the current one, or takes that away. That it fails costs nothing but a step back.
pub(super) fn put_back(project: &Project, content: Option<Vec<u8>>) {
    let Some(path) = path_for(project) else { return };
    let _ = match content {
        Some(content) => files::write(&path, &content),
        None => std::fs::remove_file(&path).map_err(|cause| FileError { path, doing: "remove", cause }),
    };
}

/// Puts back every file of the last fixing run, if none of them changed since. Gives their paths.
///
/// # Errors
/// When there is no such run, a file changed since, or one cannot be written; then calling it again goes on.
pub fn undo(project: &Project) -> Result<Vec<PathBuf>, UndoError> {
    let path = path_for(project).ok_or(UndoError::NothingKept)?;
    let bytes = std::fs::read(&path).map_err(|_| UndoError::NothingKept)?;
    let body = sealed::open(&bytes, HEAD).ok_or(UndoError::NothingKept)?;
    let records: Vec<Record> = postcard::from_bytes(body).map_err(|_| UndoError::NothingKept)?;
    let mut fixed = Vec::new();
    let mut changed = Vec::new();
    for record in &records {
        match record.since() {
            Since::Untouched => {}
            Since::Fixed(at) => fixed.push((record, at)),
            Since::Changed => changed.push(PathBuf::from(project.shown(&record.path))),
        }
    }
    if !changed.is_empty() {
        return Err(UndoError::Changed(changed));
    }
    for (record, at) in &fixed {
        record.put_back(at).map_err(UndoError::File)?;
    }
    std::fs::remove_file(&path)
        .map_err(|cause| UndoError::File(FileError { path: path.clone(), doing: "remove", cause }))?;
    Ok(fixed.iter().map(|(record, _)| record.path.clone()).collect())
}
