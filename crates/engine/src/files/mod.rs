//! The only place that touches files. Errors always carry the path; writes are atomic; what is read is a regular file.

mod change;
mod create;
mod overlay;
pub(crate) mod places;
mod read;
mod recorder;
pub(crate) mod sealed;
mod stat;
mod temporary;
mod view;
mod write;

pub use change::{Change, change_all};
pub use create::create_below;
pub use overlay::Overlay;
pub(crate) use overlay::bounded;
pub use read::{read, read_bounded};
pub(crate) use recorder::{Record, Recorder};
pub use stat::FileStat;
pub use temporary::sweep;
pub use view::{Disk, EntryKind, Files};
pub use write::{OverwriteError, append, ensure_free, make_executable, overwrite, rename, replace, write};

use std::fmt;
use std::io;
use std::path::{Path, PathBuf};

/// What could not be done with which file.
#[derive(Debug)]
pub struct FileError {
    /// The file or folder.
    pub path: PathBuf,
    /// What was to be done: "read", "write" and so on.
    pub doing: &'static str,
    /// Why it failed.
    pub cause: io::Error,
}

impl fmt::Display for FileError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "{}: {}", self.path.display(), self.without_path())
    }
}

impl FileError {
    /// The error with its path as seen from the working folder, where it lies below that.
    pub fn from_here(&self) -> String {
        let here = std::env::current_dir().ok();
        let inner = here.as_deref().and_then(|here| self.path.strip_prefix(here).ok());
        let path = inner.unwrap_or(&self.path).display();
        format!("{path}: {}", self.without_path())
    }

    /// What could not be done, and why.
    pub fn without_path(&self) -> String {
        format!("cannot {} it: {}", self.doing, describe(&self.cause))
    }
}

/// The cause is part of the words already.
impl std::error::Error for FileError {}

/// The cause in plain words, without the system's error number.
fn describe(cause: &io::Error) -> String {
    match cause.kind() {
        io::ErrorKind::NotFound => "there is no such file or folder".into(),
        io::ErrorKind::PermissionDenied => "permission denied".into(),
        io::ErrorKind::FileTooLarge => "the file would become larger than is allowed here".into(),
        io::ErrorKind::QuotaExceeded => "no more room is allowed here".into(),
        io::ErrorKind::StorageFull => "the disk is full".into(),
        io::ErrorKind::ReadOnlyFilesystem => "the file system is read-only".into(),
        io::ErrorKind::IsADirectory => "it is a folder".into(),
        _ => {
            let text = cause.to_string();
            match text.split_once(" (os error") {
                Some((words, _)) => lower_case_first(words),
                None => text,
            }
        }
    }
}

/// The system's own words begin with a capital letter; names in the rest keep theirs.
fn lower_case_first(words: &str) -> String {
    let mut characters = words.chars();
    characters.next().map_or(String::new(), |first| first.to_lowercase().chain(characters).collect())
}

fn failed(path: &Path, doing: &'static str) -> impl FnOnce(io::Error) -> FileError {
    move |cause| FileError { path: path.to_path_buf(), doing, cause }
}

/// A path from the bytes that a program printed or that were kept in a file.
pub(crate) fn path_from_bytes(bytes: &[u8]) -> PathBuf {
    #[cfg(unix)]
    {
        use std::os::unix::ffi::OsStrExt;
        PathBuf::from(std::ffi::OsStr::from_bytes(bytes))
    }
    #[cfg(not(unix))]
    {
        PathBuf::from(String::from_utf8_lossy(bytes).as_ref())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn errors_name_the_path_and_no_number() {
        let error = read(Path::new("no/such/file.py")).unwrap_err();
        assert_eq!(error.to_string(), "no/such/file.py: cannot read it: there is no such file or folder");
    }

    #[test]
    fn names_in_error_texts_keep_their_case() {
        let error =
            FileError { path: "a".into(), doing: "rename", cause: io::Error::other("Quays.ts is there already") };
        assert_eq!(error.to_string(), "a: cannot rename it: Quays.ts is there already");
    }
}
