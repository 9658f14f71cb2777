//! What is in the folders of a project: each is listed once, and most questions whether a file is there ask for files that are not.

use std::ffi::{OsStr, OsString};
use std::path::Path;
use std::sync::{Arc, Mutex, PoisonError};

use rustc_hash::FxHashMap;

use crate::files::{EntryKind, Files};

/// The folders that somebody has asked for.
#[derive(Debug, Default)]
pub(super) struct Listings {
    /// By the path of the folder, which has neither `.` nor `..` in it.
    known: Mutex<FxHashMap<OsString, Option<Arc<Listing>>>>,
}

/// What is in one folder.
#[derive(Debug, Default)]
pub(super) struct Listing {
    entries: FxHashMap<OsString, EntryKind>,
    /// Some entries could not be read.
    has_holes: bool,
    /// No link leads here from the root.
    is_below: bool,
}

impl Listing {
    /// The names and what is at them, in no order.
    pub(super) fn entries(&self) -> impl Iterator<Item = (&OsStr, EntryKind)> {
        self.entries.iter().map(|(name, kind)| (name.as_os_str(), *kind))
    }

    /// Whether something in the folder has a name.
    pub(super) fn has(&self, name: &str) -> bool {
        self.entries.contains_key(OsStr::new(name))
    }

    /// Whether a name of the folder fits; an entry that cannot be read, or has no name in Unicode, may have any.
    pub(super) fn may_have(&self, fits: impl Fn(&str) -> bool) -> bool {
        self.has_holes || self.entries.keys().any(|name| name.to_str().is_none_or(&fits))
    }
}

impl Listings {
    /// Drops what is known of the folder of a file, and of those around it: they may have come or gone with it.
    pub(super) fn forget(&self, file: &Path) {
        let mut known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
        if !known.is_empty() {
            file.ancestors().skip(1).for_each(|folder| drop(known.remove(folder.as_os_str())));
        }
    }

    /// What is at a path below a root itself; links are not followed.
    pub(super) fn kind(&self, files: &dyn Files, root: &Path, path: &Path) -> Option<EntryKind> {
        let folder = self.of(files, root, path.parent()?)?;
        folder.entries.get(path.file_name()?).copied()
    }

    /// Whether a file lies below a root and no link is on the way to it.
    pub(super) fn lies_below(&self, files: &dyn Files, root: &Path, file: &Path) -> bool {
        let kind_in = |folder: &Listing| folder.entries.get(file.file_name()?).copied();
        let folder = file.parent().and_then(|folder| self.of(files, root, folder));
        folder.is_some_and(|folder| folder.is_below && kind_in(&folder) == Some(EntryKind::File))
    }

    /// What is in a folder that is a root or below it; nothing where there is none.
    pub(super) fn of(&self, files: &dyn Files, root: &Path, folder: &Path) -> Option<Arc<Listing>> {
        if let Some(known) = self.get(folder.as_os_str()) {
            return known;
        }
        // Of folders that are not there nothing is kept: those around them say so at once, and there are many.
        let is_below = if folder == root {
            true
        } else {
            let around = folder.starts_with(root).then(|| self.of(files, root, folder.parent()?)).flatten()?;
            match around.entries.get(folder.file_name()?)? {
                EntryKind::Folder => around.is_below,
                EntryKind::Link => false,
                EntryKind::File | EntryKind::Other => return None,
            }
        };
        let listing = list(files, folder).map(|listing| Arc::new(Listing { is_below, ..listing }));
        let mut known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
        known.entry(folder.as_os_str().to_owned()).or_insert(listing).clone()
    }

    fn get(&self, folder: &OsStr) -> Option<Option<Arc<Listing>>> {
        self.known.lock().unwrap_or_else(PoisonError::into_inner).get(folder).cloned()
    }
}

fn list(files: &dyn Files, folder: &Path) -> Option<Listing> {
    let mut listing = Listing::default();
    for entry in files.list(folder).ok()? {
        match entry {
            Ok((name, kind)) => drop(listing.entries.insert(name, kind)),
            Err(_) => listing.has_holes = true,
        }
    }
    Some(listing)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::files::Disk;

    #[test]
    fn what_is_there_is_known_from_the_listings_of_folders() {
        let folder = tempfile::tempdir().expect("a folder");
        let root = folder.path().canonicalize().expect("a path");
        std::fs::create_dir(root.join("quays")).expect("a folder");
        std::fs::write(root.join("quays/fares.py"), "").expect("a file");
        let listings = Listings::default();
        let kind = |path: &str| listings.kind(&Disk, &root, &root.join(path));
        assert_eq!(kind("quays"), Some(EntryKind::Folder));
        assert_eq!(kind("quays/fares.py"), Some(EntryKind::File));
        assert_eq!(kind("quays/tides.py"), None);
        assert_eq!(kind("quays/fares.py/deeper.py"), None);
        assert_eq!(kind("boats/deep/below.py"), None);
        assert_eq!(listings.kind(&Disk, &root, Path::new("/etc/passwd")), None);
        assert!(listings.lies_below(&Disk, &root, &root.join("quays/fares.py")));
        assert!(!listings.lies_below(&Disk, &root, &root.join("quays")), "it is no file");
    }

    #[cfg(unix)]
    #[test]
    fn what_links_lead_to_may_lie_elsewhere() {
        let folder = tempfile::tempdir().expect("a folder");
        let outside = tempfile::tempdir().expect("a folder");
        let root = folder.path().canonicalize().expect("a path");
        std::fs::create_dir(outside.path().join("boats")).expect("a folder");
        std::fs::write(outside.path().join("boats/tides.py"), "").expect("a file");
        std::os::unix::fs::symlink(outside.path(), root.join("quays")).expect("a link");
        let listings = Listings::default();
        let file = root.join("quays/boats/tides.py");
        assert_eq!(listings.kind(&Disk, &root, &file), Some(EntryKind::File));
        assert!(!listings.lies_below(&Disk, &root, &file));
    }

    #[test]
    fn a_file_that_came_is_known_once_its_folder_is_forgotten() {
        let folder = tempfile::tempdir().expect("a folder");
        let root = folder.path().canonicalize().expect("a path");
        let listings = Listings::default();
        let file = root.join("boats/deep/below.py");
        assert_eq!(listings.kind(&Disk, &root, &file), None);
        std::fs::create_dir_all(root.join("boats/deep")).expect("folders");
        std::fs::write(&file, "").expect("a file");
        assert_eq!(listings.kind(&Disk, &root, &file), None, "nothing is listed twice");
        listings.forget(&file);
        assert_eq!(listings.kind(&Disk, &root, &file), Some(EntryKind::File));
    }
}
