//! Files of which some have another content than below, such as texts that are not saved yet, or versions of another day.

use std::collections::BTreeMap;
use std::ffi::OsString;
use std::io;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use super::{EntryKind, FileError, FileStat, Files, failed};

/// Files with other contents on top of those below.
#[derive(Debug)]
pub struct Overlay {
    below: Arc<dyn Files>,
    /// Contents by absolute path; nothing for a file that is not there.
    contents: BTreeMap<PathBuf, Option<Arc<[u8]>>>,
}

impl Overlay {
    /// Files that are all as below.
    pub fn over(below: Arc<dyn Files>) -> Overlay {
        Overlay { below, contents: BTreeMap::new() }
    }

    /// Gives a file another content.
    pub fn set(&mut self, path: PathBuf, content: impl Into<Arc<[u8]>>) {
        self.contents.insert(path, Some(content.into()));
    }

    /// Takes a file away.
    pub fn remove(&mut self, path: PathBuf) {
        self.contents.insert(path, None);
    }

    /// Shows a file as it is below again.
    pub fn forget(&mut self, path: &Path) {
        self.contents.remove(path);
    }

    /// The content of a file if it has one here; an error if it is not there.
    fn own(&self, path: &Path) -> Option<io::Result<&Arc<[u8]>>> {
        let content = self.contents.get(path)?;
        Some(content.as_ref().ok_or_else(|| io::ErrorKind::NotFound.into()))
    }

    /// Whether a file with a content of its own is somewhere below a folder.
    fn makes_folder(&self, folder: &Path) -> bool {
        let mut inside = self.contents.range(folder.to_path_buf()..).take_while(|(path, _)| path.starts_with(folder));
        inside.any(|(path, content)| path != folder && content.is_some())
    }
}

impl Files for Overlay {
    fn read(&self, path: &Path, limit: u64) -> Result<Vec<u8>, FileError> {
        match self.own(path) {
            None => self.below.read(path, limit),
            Some(content) => bounded(content, limit).map_err(failed(path, "read")),
        }
    }

    fn read_start(&self, path: &Path, limit: usize) -> Result<Vec<u8>, FileError> {
        match self.own(path) {
            None => self.below.read_start(path, limit),
            Some(content) => {
                let content = content.map_err(failed(path, "read"))?;
                Ok(content[..content.len().min(limit)].to_vec())
            }
        }
    }

    fn kind(&self, path: &Path) -> io::Result<EntryKind> {
        match self.own(path) {
            Some(content) => content.map(|_| EntryKind::File),
            None => self.below.kind(path).or_else(|error| self.folder_or(path, error)),
        }
    }

    fn target_kind(&self, path: &Path) -> io::Result<EntryKind> {
        match self.own(path) {
            Some(content) => content.map(|_| EntryKind::File),
            None => self.below.target_kind(path).or_else(|error| self.folder_or(path, error)),
        }
    }

    fn size(&self, path: &Path) -> u64 {
        match self.own(path) {
            Some(content) => content.map_or(0, |content| content.len() as u64),
            None => self.below.size(path),
        }
    }

    fn list(&self, folder: &Path) -> io::Result<Vec<io::Result<(OsString, EntryKind)>>> {
        let mut entries: BTreeMap<OsString, EntryKind> = BTreeMap::new();
        let mut errors = Vec::new();
        match self.below.list(folder) {
            Err(error) => {
                self.folder_or(folder, error)?;
            }
            Ok(below) => {
                for entry in below {
                    match entry {
                        Ok((name, kind)) => drop(entries.insert(name, kind)),
                        Err(error) => errors.push(Err(error)),
                    }
                }
            }
        }
        for (path, content) in self.contents.range(folder.to_path_buf()..) {
            let Ok(inner) = path.strip_prefix(folder) else { break };
            let mut names = inner.iter();
            let Some(name) = names.next() else { continue };
            match (names.next(), content) {
                (None, Some(_)) => drop(entries.insert(name.to_os_string(), EntryKind::File)),
                (None, None) => drop(entries.remove(name)),
                (Some(_), Some(_)) => drop(entries.entry(name.to_os_string()).or_insert(EntryKind::Folder)),
                (Some(_), None) => {}
            }
        }
        Ok(entries.into_iter().map(Ok).chain(errors).collect())
    }

    fn stat(&self, path: &Path) -> Option<FileStat> {
        if self.contents.contains_key(path) { None } else { self.below.stat(path) }
    }

    fn real(&self, path: &Path) -> io::Result<PathBuf> {
        match self.own(path) {
            Some(content) => content.map(|_| path.to_path_buf()),
            None => self.below.real(path).or_else(|error| self.folder_or(path, error).map(|_| path.to_path_buf())),
        }
    }

    fn obeys_ignore_lists(&self) -> bool {
        self.below.obeys_ignore_lists()
    }
}

impl Overlay {
    /// A folder that only contents given here make; else the error.
    fn folder_or(&self, path: &Path, error: io::Error) -> io::Result<EntryKind> {
        if self.makes_folder(path) { Ok(EntryKind::Folder) } else { Err(error) }
    }
}

/// A copy of a content that is not larger than a bound.
pub(crate) fn bounded(content: io::Result<&Arc<[u8]>>, limit: u64) -> io::Result<Vec<u8>> {
    let content = content?;
    if content.len() as u64 > limit {
        return Err(io::Error::other(format!("it is larger than {limit} bytes")));
    }
    Ok(content.to_vec())
}

#[cfg(test)]
mod tests {
    use super::super::Disk;
    use super::*;

    /// A folder with two files, and an overlay that changes one, removes the other and adds a third in a folder of its own.
    fn overlaid() -> (tempfile::TempDir, Overlay) {
        let folder = tempfile::tempdir().unwrap();
        std::fs::write(folder.path().join("tides.py"), "low = 1\n").unwrap();
        std::fs::write(folder.path().join("quays.py"), "north = 1\n").unwrap();
        let mut overlay = Overlay::over(Arc::new(Disk));
        overlay.set(folder.path().join("tides.py"), b"low = 22\n".as_slice());
        overlay.remove(folder.path().join("quays.py"));
        overlay.set(folder.path().join("booking/fares.py"), b"child = 1\n".as_slice());
        (folder, overlay)
    }

    #[test]
    fn contents_on_top_stand_for_those_below() {
        let (folder, overlay) = overlaid();
        let path = |name: &str| folder.path().join(name);
        assert_eq!(overlay.read(&path("tides.py"), 100).unwrap(), b"low = 22\n");
        assert_eq!(overlay.read_start(&path("tides.py"), 3).unwrap(), b"low");
        assert_eq!(overlay.size(&path("tides.py")), 9);
        assert_eq!(overlay.stat(&path("tides.py")), None);
        let refused = overlay.read(&path("tides.py"), 3).unwrap_err();
        assert_eq!(refused.cause.to_string(), "it is larger than 3 bytes");
        assert_eq!(overlay.read(&path("quays.py"), 100).unwrap_err().cause.kind(), io::ErrorKind::NotFound);
        assert!(!overlay.is_file(&path("quays.py")) && overlay.kind(&path("quays.py")).is_err());
    }

    #[test]
    fn folders_list_what_is_on_top_and_below() {
        let (folder, overlay) = overlaid();
        let names = |inner: &str| {
            let mut names: Vec<(String, EntryKind)> = overlay
                .list(&folder.path().join(inner))
                .unwrap()
                .into_iter()
                .map(|entry| entry.unwrap())
                .map(|(name, kind)| (name.to_string_lossy().into_owned(), kind))
                .collect();
            names.sort_by(|one, other| one.0.cmp(&other.0));
            names
        };
        assert_eq!(names(""), [("booking".into(), EntryKind::Folder), ("tides.py".into(), EntryKind::File)]);
        assert_eq!(names("booking"), [("fares.py".into(), EntryKind::File)]);
        assert!(overlay.is_folder(&folder.path().join("booking")));
        assert!(overlay.list(&folder.path().join("nowhere")).is_err());
    }

    #[test]
    fn what_is_forgotten_is_as_below() {
        let (folder, mut overlay) = overlaid();
        for name in ["tides.py", "quays.py", "booking/fares.py"] {
            overlay.forget(&folder.path().join(name));
        }
        assert_eq!(overlay.read(&folder.path().join("quays.py"), 100).unwrap(), b"north = 1\n");
        assert!(overlay.stat(&folder.path().join("tides.py")).is_some());
        assert!(!overlay.is_folder(&folder.path().join("booking")));
    }
}
