//! The last fixing run, kept so that it can be undone.
//!
//! It is written before the first file is changed, so that a run that is broken off can be undone, too.

use std::fmt;
use std::fs::{File, TryLockError};
use std::path::{Path, PathBuf};

use serde::{Deserialize, Serialize};
use xxhash_rust::xxh3::xxh3_128;

use super::FixedFile;
use crate::files::places;
use crate::files::sealed;
use crate::files::{self, FileError, path_from_bytes};
use crate::project::Project;

const HEAD: &[u8] = b"sieve-undo 3\n";

/// One file of a fixing run.
#[derive(Debug, Serialize, Deserialize)]
struct Record {
    /// The bytes of its path, which need not be UTF-8.
    path: Vec<u8>,
    before: Vec<u8>,
    /// The hash of its bytes with the fixes.
    after: u128,
    /// The bytes of the path where it went, if it got another name.
    moved_to: Option<Vec<u8>>,
}

/// What became of a file since a run.
enum Since {
    /// It is as it was before: the run was broken off, or undone in part.
    Untouched,
    /// It is as the run left it: where, and its content.
    Fixed { at: PathBuf, now: Vec<u8> },
    /// It is something else.
    Changed,
}

impl Record {
    fn of(file: &FixedFile) -> Record {
        let bytes = |path: &PathBuf| path.as_os_str().as_encoded_bytes().to_vec();
        Record {
            path: bytes(&file.path),
            before: file.before.clone(),
            after: xxh3_128(&file.after),
            moved_to: file.moved_to.as_ref().map(bytes),
        }
    }

    fn path(&self) -> PathBuf {
        path_from_bytes(&self.path)
    }

    fn since(&self) -> Since {
        let content_at = |path: &Path| files::read(path).ok();
        let moved_to = self.moved_to.as_deref().map(path_from_bytes);
        match (content_at(&self.path()), moved_to.and_then(|to| Some((content_at(&to)?, to)))) {
            (Some(now), None) if now == self.before => Since::Untouched,
            (Some(now), None) if xxh3_128(&now) == self.after => Since::Fixed { at: self.path(), now },
            (None, Some((now, at))) if xxh3_128(&now) == self.after || now == self.before => Since::Fixed { at, now },
            _ => Since::Changed,
        }
    }

    /// Gives the file its old content and its old name.
    fn put_back(&self, at: &Path, now: &[u8]) -> Result<(), FileError> {
        files::replace(at, now, &self.before)?;
        let path = self.path();
        if at == path { Ok(()) } else { files::rename(at, &path) }
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
    kept_as(project, "undo")
}

fn kept_as(project: &Project, ending: &str) -> Option<PathBuf> {
    let root = xxh3_128(project.root.as_os_str().as_encoded_bytes());
    Some(places::state_folder()?.join(format!("{root:032x}.{ending}")))
}

/// Nobody else changes files of a code base by fixes while this is there.
#[derive(Debug)]
pub(super) struct Lock {
    _file: Option<File>,
}

impl Lock {
    /// Takes the lock of a code base. Where there is no place for a lock, none is needed: nothing is kept either.
    ///
    /// # Errors
    /// When another run holds it, or it cannot be made.
    pub(super) fn take(project: &Project) -> Result<Lock, FileError> {
        let Some(path) = kept_as(project, "lock") else { return Ok(Lock { _file: None }) };
        let failed = |cause| FileError { path: path.clone(), doing: "lock", cause };
        std::fs::create_dir_all(path.parent().unwrap_or(Path::new("."))).map_err(failed)?;
        let file = File::options().create(true).truncate(false).write(true).open(&path).map_err(failed)?;
        match file.try_lock() {
            Ok(()) => Ok(Lock { _file: Some(file) }),
            Err(TryLockError::WouldBlock) => Err(FileError {
                path: project.root.clone(),
                doing: "change",
                cause: std::io::Error::other("another run is fixing files here; try again when it is done"),
            }),
            Err(TryLockError::Error(cause)) => Err(failed(cause)),
        }
    }
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

/// The record of the last run as it is, to be put back.
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
    let _lock = Lock::take(project).map_err(UndoError::File)?;
    let bytes = std::fs::read(&path).map_err(|_| UndoError::NothingKept)?;
    let body = sealed::open(&bytes, HEAD).ok_or(UndoError::NothingKept)?;
    let records: Vec<Record> = postcard::from_bytes(body).map_err(|_| UndoError::NothingKept)?;
    let mut fixed = Vec::new();
    let mut changed = Vec::new();
    for record in &records {
        match record.since() {
            Since::Untouched => {}
            Since::Fixed { at, now } => fixed.push((record, at, now)),
            Since::Changed => changed.push(PathBuf::from(project.shown(&record.path()))),
        }
    }
    if !changed.is_empty() {
        return Err(UndoError::Changed(changed));
    }
    for (record, at, now) in &fixed {
        record.put_back(at, now).map_err(UndoError::File)?;
    }
    std::fs::remove_file(&path)
        .map_err(|cause| UndoError::File(FileError { path: path.clone(), doing: "remove", cause }))?;
    Ok(fixed.iter().map(|(record, ..)| record.path()).collect())
}
