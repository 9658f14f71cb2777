//! Changes of several files that are made together, and taken back together.

use std::fs;
use std::io;
use std::path::PathBuf;

use super::{FileError, read, replace, write};

/// A change of one file.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Change {
    /// The file.
    pub path: PathBuf,
    /// What it held; nothing where it was not there.
    pub before: Option<Vec<u8>>,
    /// What it holds then; nothing where it is gone.
    pub after: Option<Vec<u8>>,
}

impl Change {
    /// The change that takes this one back.
    pub fn reversed(&self) -> Change {
        Change { path: self.path.clone(), before: self.after.clone(), after: self.before.clone() }
    }

    /// Whether the file still is what the change starts from.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn fits(&self) -> Result<bool, FileError> {
        match read(&self.path) {
            Ok(bytes) => Ok(self.before.as_ref() == Some(&bytes)),
            Err(error) if error.cause.kind() == io::ErrorKind::NotFound => Ok(self.before.is_none()),
            Err(error) => Err(error),
        }
    }

    fn make(&self) -> Result<(), FileError> {
        match (&self.before, &self.after) {
            (Some(before), Some(after)) => replace(&self.path, before, after),
            (None, Some(after)) => write(&self.path, after),
            (_, None) => fs::remove_file(&self.path).map_err(super::failed(&self.path, "remove")),
        }
    }
}

/// Makes all changes, or none: where one fails, those before it are taken back.
///
/// # Errors
/// When a file is not what its change starts from, or cannot be written.
pub fn change_all(changes: &[Change]) -> Result<(), FileError> {
    for change in changes {
        if !change.fits()? {
            let cause = io::Error::other("it has changed since");
            return Err(super::failed(&change.path, "change")(cause));
        }
    }
    for (index, change) in changes.iter().enumerate() {
        if let Err(error) = change.make() {
            // That one cannot be taken back either is no more than what the error says of this one.
            changes[..index].iter().rev().for_each(|made| drop(made.reversed().make()));
            return Err(error);
        }
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    fn change(path: PathBuf, before: Option<&str>, after: Option<&str>) -> Change {
        let bytes = |text: Option<&str>| text.map(|text| text.as_bytes().to_vec());
        Change { path, before: bytes(before), after: bytes(after) }
    }

    #[test]
    fn changes_are_made_and_taken_back() {
        let folder = tempfile::tempdir().expect("a folder");
        let (old, new) = (folder.path().join("fares.py"), folder.path().join("sieve.toml"));
        fs::write(&old, "a").expect("written");
        let changes = [change(old.clone(), Some("a"), Some("b")), change(new.clone(), None, Some("c"))];
        change_all(&changes).expect("made");
        assert_eq!((fs::read(&old).expect("there"), fs::read(&new).expect("there")), (b"b".to_vec(), b"c".to_vec()));
        let back: Vec<Change> = changes.iter().map(Change::reversed).collect();
        change_all(&back).expect("taken back");
        assert_eq!(fs::read(&old).expect("there"), b"a");
        assert!(!new.exists());
    }

    #[test]
    fn nothing_is_made_where_one_cannot_be() {
        let folder = tempfile::tempdir().expect("a folder");
        let (first, second) = (folder.path().join("fares.py"), folder.path().join("gone").join("sieve.toml"));
        fs::write(&first, "a").expect("written");
        let changes = [change(first.clone(), Some("a"), Some("b")), change(second, None, Some("c"))];
        assert!(change_all(&changes).is_err());
        assert_eq!(fs::read(&first).expect("there"), b"a");
        let stale = [change(first.clone(), Some("older"), Some("b"))];
        let error = change_all(&stale).expect_err("it is something else").to_string();
        assert!(error.ends_with("cannot change it: it has changed since"), "{error}");
    }
}
