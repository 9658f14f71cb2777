//! The files of a code base as one run sees them: those of the disk, or what stands for some of them.

use std::ffi::OsString;
use std::fmt;
use std::io;
use std::path::{Path, PathBuf};

use super::{FileError, FileStat, failed, read};

/// What is at a path.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum EntryKind {
    /// A regular file.
    File,
    /// A folder.
    Folder,
    /// A symbolic link.
    Link,
    /// Anything else, such as a device or a FIFO.
    Other,
}

impl EntryKind {
    pub(super) fn of(kind: std::fs::FileType) -> EntryKind {
        if kind.is_symlink() {
            EntryKind::Link
        } else if kind.is_dir() {
            EntryKind::Folder
        } else if kind.is_file() {
            EntryKind::File
        } else {
            EntryKind::Other
        }
    }
}

/// The files of a code base. All paths are absolute.
pub trait Files: fmt::Debug + Send + Sync {
    /// The bytes of a regular file of at most `limit` bytes.
    ///
    /// # Errors
    /// When it cannot be read, is no regular file, or is larger.
    fn read(&self, path: &Path, limit: u64) -> Result<Vec<u8>, FileError>;

    /// The first bytes of a regular file, at most `limit`.
    ///
    /// # Errors
    /// When it cannot be read, or is no regular file.
    fn read_start(&self, path: &Path, limit: usize) -> Result<Vec<u8>, FileError>;

    /// What is at a path itself; links are not followed.
    ///
    /// # Errors
    /// When nothing is there, or nothing can be known.
    fn kind(&self, path: &Path) -> io::Result<EntryKind>;

    /// What a path leads to.
    ///
    /// # Errors
    /// When nothing is there, or nothing can be known.
    fn target_kind(&self, path: &Path) -> io::Result<EntryKind>;

    /// The size of what a path leads to, in bytes; 0 where it is not known.
    fn size(&self, path: &Path) -> u64;

    /// What is in a folder, in no order.
    ///
    /// # Errors
    /// When it cannot be read as a whole; what can is listed with an error for each other entry.
    fn list(&self, folder: &Path) -> io::Result<Vec<io::Result<(OsString, EntryKind)>>>;

    /// What tells a file from its later versions without reading it; nothing where only its content can.
    fn stat(&self, path: &Path) -> Option<FileStat>;

    /// The path that links lead to.
    ///
    /// # Errors
    /// When nothing is there.
    fn real(&self, path: &Path) -> io::Result<PathBuf>;

    /// Whether ignore lists say which files belong to the code base. Where all are known to, they do not.
    fn obeys_ignore_lists(&self) -> bool;

    /// Reads a file that a code base provides for this tool, such as settings or ignore lists. A link counts only where it leads to
    /// a file below `root`.
    ///
    /// # Errors
    /// When it cannot be read, is no regular file, is larger than `limit` bytes, or lies outside of `root`.
    fn read_within(&self, root: &Path, path: &Path, limit: u64) -> Result<Vec<u8>, FileError> {
        let leads_into = || Ok::<_, io::Error>(self.real(path)?.starts_with(self.real(root)?));
        let is_link = self.kind(path).map_err(failed(path, "read"))? == EntryKind::Link;
        if is_link && !leads_into().map_err(failed(path, "read"))? {
            return Err(failed(path, "read")(io::Error::other("it is a link to a place outside of the code base")));
        }
        self.read(path, limit)
    }

    /// Whether a regular file is there, or a link to one.
    fn is_file(&self, path: &Path) -> bool {
        self.target_kind(path).is_ok_and(|kind| kind == EntryKind::File)
    }

    /// Whether a folder is there, or a link to one.
    fn is_folder(&self, path: &Path) -> bool {
        self.target_kind(path).is_ok_and(|kind| kind == EntryKind::Folder)
    }
}

/// The files as they are on the disk.
#[derive(Debug, Clone, Copy)]
pub struct Disk;

impl Files for Disk {
    fn read(&self, path: &Path, limit: u64) -> Result<Vec<u8>, FileError> {
        read::read_bounded(path, limit)
    }

    fn read_start(&self, path: &Path, limit: usize) -> Result<Vec<u8>, FileError> {
        read::read_start(path, limit)
    }

    fn kind(&self, path: &Path) -> io::Result<EntryKind> {
        Ok(EntryKind::of(std::fs::symlink_metadata(path)?.file_type()))
    }

    fn target_kind(&self, path: &Path) -> io::Result<EntryKind> {
        Ok(EntryKind::of(std::fs::metadata(path)?.file_type()))
    }

    fn size(&self, path: &Path) -> u64 {
        std::fs::metadata(path).map_or(0, |data| data.len())
    }

    fn list(&self, folder: &Path) -> io::Result<Vec<io::Result<(OsString, EntryKind)>>> {
        let entry = |entry: io::Result<std::fs::DirEntry>| {
            let entry = entry?;
            Ok((entry.file_name(), EntryKind::of(entry.file_type()?)))
        };
        Ok(std::fs::read_dir(folder)?.map(entry).collect())
    }

    fn stat(&self, path: &Path) -> Option<FileStat> {
        FileStat::of(path)
    }

    fn real(&self, path: &Path) -> io::Result<PathBuf> {
        std::fs::canonicalize(path)
    }

    fn obeys_ignore_lists(&self) -> bool {
        true
    }
}
