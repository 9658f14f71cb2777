//! Temporary files beside the files that they replace, and what a run that was killed left of them.
//!
//! Their names hold a random number and a hash of it with a key of this user: so nobody's own file is ever taken for one.

use std::fs::{self, File};
use std::io::{self, Write};
use std::path::{Path, PathBuf};
use std::sync::OnceLock;
use std::time::Duration;

use xxhash_rust::xxh3::xxh3_64_with_seed;

use crate::files::places;

/// What the names begin with.
const PREFIX: &str = ".hsieve-";

/// How old a temporary file must be before it counts as left behind.
const ABANDONED: Duration = Duration::from_secs(600);

/// How many versions of one file are kept beside it under names of their own.
const MOST_KEPT: u32 = 99;

/// The file of the state folder that holds the key.
const KEY_FILE: &str = "temporary-key";

/// A temporary file that goes when it is dropped, unless it took another's place.
#[derive(Debug)]
pub(super) struct Temporary {
    pub(super) path: PathBuf,
    pub(super) file: File,
    taken: bool,
}

impl Temporary {
    /// Makes one with this content, readable for its owner alone.
    pub(super) fn with_content(folder: &Path, bytes: &[u8]) -> io::Result<Temporary> {
        let mut options = File::options();
        options.write(true).create_new(true);
        #[cfg(unix)]
        {
            use std::os::unix::fs::OpenOptionsExt;
            options.mode(0o600);
        }
        let path = folder.join(name(nonce()));
        let file = options.open(&path)?;
        let mut temporary = Temporary { path, file, taken: false };
        temporary.file.write_all(bytes)?;
        temporary.file.sync_all()?;
        Ok(temporary)
    }

    /// Puts it in the place of a file.
    pub(super) fn take_place_of(mut self, target: &Path) -> io::Result<()> {
        fs::rename(&self.path, target)?;
        self.taken = true;
        Ok(())
    }

    /// Keeps it for the user, under a free name after the file's that no later run removes.
    pub(super) fn keep_beside(mut self, target: &Path) -> io::Result<PathBuf> {
        self.taken = true;
        let stem = target.file_name().unwrap_or_default().to_os_string();
        for number in 1..=MOST_KEPT {
            let mut name = stem.clone();
            name.push(if number == 1 { ".saved".to_string() } else { format!(".saved-{number}") });
            let kept = target.with_file_name(name);
            // A second name fails where the first would replace somebody's file.
            if fs::hard_link(&self.path, &kept).is_ok() {
                fs::remove_file(&self.path)?;
                return Ok(kept);
            }
        }
        Ok(self.path.clone())
    }
}

impl Drop for Temporary {
    fn drop(&mut self) {
        if !self.taken {
            // What cannot be removed is swept later.
            let _ = fs::remove_file(&self.path);
        }
    }
}

/// Removes from a folder the temporary files of runs that were killed while they wrote.
pub fn sweep(folder: &Path) {
    for entry in fs::read_dir(folder).into_iter().flatten().flatten() {
        let is_ours =
            entry.file_name().to_str().is_some_and(is_ours) && entry.file_type().is_ok_and(|kind| kind.is_file());
        if !is_ours {
            continue;
        }
        let age = entry.metadata().ok().and_then(|data| data.modified().ok()).and_then(|time| time.elapsed().ok());
        if age.is_some_and(|age| age > ABANDONED) {
            // That it cannot be removed harms nobody.
            let _ = fs::remove_file(entry.path());
        }
    }
}

fn name(nonce: u64) -> String {
    let check = key().map_or(0, |key| xxh3_64_with_seed(&nonce.to_le_bytes(), key));
    format!("{PREFIX}{nonce:016x}{check:016x}")
}

/// Whether this program gave a file its name.
fn is_ours(file_name: &str) -> bool {
    let nonce = file_name.strip_prefix(PREFIX).and_then(|rest| u64::from_str_radix(rest.get(..16)?, 16).ok());
    key().is_some() && nonce.is_some_and(|nonce| name(nonce) == file_name)
}

/// A number that no other temporary file has.
fn nonce() -> u64 {
    use std::hash::{BuildHasher, Hasher};
    // Each such state begins with keys of its own, from the system's source of randomness.
    std::hash::RandomState::new().build_hasher().finish()
}

/// The key of this user, made on first use; nothing where there is no place to keep it.
fn key() -> Option<u64> {
    static KEY: OnceLock<Option<u64>> = OnceLock::new();
    *KEY.get_or_init(|| {
        let path = places::state_folder()?.join(KEY_FILE);
        read_key(&path).or_else(|| {
            fs::create_dir_all(path.parent()?).ok()?;
            // Another run may make it at the same moment: the key that was written first holds for both.
            let _ = File::options()
                .write(true)
                .create_new(true)
                .open(&path)
                .and_then(|mut file| file.write_all(&nonce().to_le_bytes()));
            read_key(&path)
        })
    })
}

fn read_key(path: &Path) -> Option<u64> {
    Some(u64::from_le_bytes(super::read_bounded(path, 8).ok()?.try_into().ok()?))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_abandoned_files_of_our_own_are_swept() {
        let folder = tempfile::tempdir().unwrap();
        let ours = name(nonce());
        let names = [ours.as_str(), ".hsieve-notes", ".hsieve-0123456789abcdef0123456789abcdef"];
        let old = std::time::SystemTime::now() - ABANDONED * 2;
        for name in names {
            fs::write(folder.path().join(name), "x").unwrap();
            File::options().append(true).open(folder.path().join(name)).unwrap().set_modified(old).unwrap();
        }
        let fresh = Temporary::with_content(folder.path(), b"x").unwrap();
        sweep(folder.path());
        let there = |name: &str| folder.path().join(name).exists();
        // Without a state folder nothing can be known to be ours.
        assert_eq!(there(names[0]), key().is_none());
        assert!(there(names[1]) && there(names[2]) && fresh.path.exists());
    }
}
