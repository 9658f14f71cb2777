//! The file of a cache: a head, an index, the results, and a hash of all that.

use std::collections::{HashMap, HashSet};
use std::fs;
use std::io;
use std::path::Path;

use serde::{Deserialize, Serialize};

use crate::files;
use crate::files::FileStat;
use crate::files::sealed;

/// The first bytes of the file, its form included.
const HEAD: &[u8] = b"sieve-cache 1\n";

/// A larger file is not read.
const LARGEST_FILE: u64 = 256 << 20;

/// All caches together take no more than this; the oldest go first.
const LARGEST_FOLDER: u64 = 512 << 20;

/// What is known of one file, and where its result is.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub(crate) struct Head {
    /// Its metadata, where they prove that its content is the same.
    pub(crate) stat: Option<FileStat>,
    /// The hash of its content.
    pub(crate) content: u128,
    pub(crate) start: u64,
    pub(crate) length: u64,
}

/// The results of earlier runs.
#[derive(Debug, Default)]
pub(crate) struct Store {
    index: HashMap<u128, Head>,
    /// The results, behind the head and the index of the file that they were read from.
    data: Vec<u8>,
    /// What came later and is on no disk; it counts before the rest.
    added: HashMap<u128, (Head, Vec<u8>)>,
}

impl Store {
    /// Reads a cache; an empty one where there is none that can be trusted.
    pub(crate) fn read(path: &Path) -> Store {
        Store::decode(read_own(path)).unwrap_or_default()
    }

    fn decode(bytes: Vec<u8>) -> Option<Store> {
        let (mut index, data) = parts_of(sealed::open(&bytes, HEAD)?)?;
        let before = (bytes.len() - sealed::HASH - data.len()) as u64;
        index.values_mut().for_each(|head| head.start = head.start.saturating_add(before));
        Some(Store { index, data: bytes, added: HashMap::new() })
    }

    /// The store that [`body_of`] made bytes of.
    pub(super) fn from_body(body: &[u8]) -> Option<Store> {
        let (index, data) = parts_of(body)?;
        Some(Store { index, data: data.to_vec(), added: HashMap::new() })
    }

    /// The same of bytes that another machine may have made: metadata of its files prove nothing of those here.
    pub(super) fn from_elsewhere(body: &[u8]) -> Option<Store> {
        let mut store = Store::from_body(body)?;
        store.index.values_mut().for_each(|head| head.stat = None);
        Some(store)
    }

    /// Takes in all that another one has on its disk.
    pub(super) fn append(&mut self, other: Store) {
        let before = self.data.len() as u64;
        self.data.extend_from_slice(&other.data);
        let moved = |(key, head): (u128, Head)| (key, Head { start: head.start.saturating_add(before), ..head });
        self.index.extend(other.index.into_iter().map(moved));
    }

    /// An entry: what is known of its file, and its result, which is empty where it lies outside.
    pub(crate) fn get(&self, key: u128) -> Option<(&Head, &[u8])> {
        if let Some((head, data)) = self.added.get(&key) {
            return Some((head, data));
        }
        let head = self.index.get(&key)?;
        let start = head.start as usize;
        Some((head, self.data.get(start..start.saturating_add(head.length as usize)).unwrap_or_default()))
    }

    /// Some of the entries.
    pub(super) fn entries_of(&self, keys: &[u128]) -> HashMap<u128, (Head, Vec<u8>)> {
        let entry = |key: &u128| self.get(*key).map(|(head, data)| (*key, (head.clone(), data.to_vec())));
        keys.iter().filter_map(entry).collect()
    }

    pub(crate) fn keys(&self) -> impl Iterator<Item = u128> + '_ {
        self.index.keys().copied()
    }

    /// Takes new results in, without a disk.
    pub(crate) fn add(&mut self, new: HashMap<u128, (Head, Vec<u8>)>) {
        self.added.extend(new);
    }

    /// Leaves only some of the results that came later.
    pub(crate) fn keep_only(&mut self, keys: &HashSet<u128>) {
        self.added.retain(|key, _| keys.contains(key));
    }

    /// Writes new results together with some of the old ones.
    pub(crate) fn write(&self, path: &Path, new: &HashMap<u128, (Head, Vec<u8>)>, kept: &[u128]) -> io::Result<()> {
        let old = kept.iter().filter_map(|key| self.get(*key).map(|(head, data)| (*key, head, data)));
        let new = new.iter().map(|(key, (head, data))| (*key, head, data.as_slice()));
        let entries = in_order(old.chain(new).collect());
        let index = index_of(&entries)?;
        let length = entries.iter().map(|(.., data)| data.len()).sum::<usize>() + index.len();
        if length as u64 > LARGEST_FILE {
            return Ok(());
        }
        let parts = [index.as_slice()].into_iter().chain(entries.iter().map(|(.., data)| *data));
        sealed::write_parts(path, HEAD, parts)?;
        make_room(path, LARGEST_FOLDER)
    }
}

/// An entry to be written.
type Entry<'e> = (u128, &'e Head, &'e [u8]);

/// The index of a store, and the results.
fn parts_of(body: &[u8]) -> Option<(HashMap<u128, Head>, &[u8])> {
    let (index, data): (Vec<(u128, Head)>, &[u8]) = postcard::take_from_bytes(body).ok()?;
    Some((index.into_iter().collect(), data))
}

/// Entries as bytes: their index, and then their results.
pub(super) fn body_of(entries: &[(u128, Head, Vec<u8>)]) -> io::Result<Vec<u8>> {
    let entries = in_order(entries.iter().map(|(key, head, data)| (*key, head, data.as_slice())).collect());
    let mut body = index_of(&entries)?;
    entries.iter().for_each(|(.., data)| body.extend_from_slice(data));
    Ok(body)
}

fn in_order(mut entries: Vec<Entry<'_>>) -> Vec<Entry<'_>> {
    entries.sort_by_key(|(key, ..)| *key);
    entries.dedup_by_key(|(key, ..)| *key);
    entries
}

/// Where the results of entries will be, one after the other.
fn index_of(entries: &[Entry<'_>]) -> io::Result<Vec<u8>> {
    let mut start = 0;
    let place = |(key, head, data): &Entry<'_>| {
        let length = data.len() as u64;
        start += length;
        (*key, Head { start: start - length, length, ..(*head).clone() })
    };
    let index: Vec<(u128, Head)> = entries.iter().map(place).collect();
    postcard::to_stdvec(&index).map_err(io::Error::other)
}

/// The content of a file that nobody else can write, so that it says what this user's runs said; nothing of any other.
pub(super) fn read_own(path: &Path) -> Vec<u8> {
    if is_own(path) { files::read_bounded(path, LARGEST_FILE).unwrap_or_default() } else { Vec::new() }
}

/// Whether a file belongs to the user of this run and is no link.
fn is_own(path: &Path) -> bool {
    let Ok(data) = fs::symlink_metadata(path) else { return false };
    #[cfg(unix)]
    let same_user = {
        use std::os::unix::fs::MetadataExt;
        data.uid() == rustix::process::geteuid().as_raw() && data.mode() & 0o022 == 0
    };
    #[cfg(not(unix))]
    let same_user = true;
    data.is_file() && same_user
}

/// Removes the oldest caches, never the one just written, until all are small enough together.
fn make_room(written: &Path, limit: u64) -> io::Result<()> {
    let folder = written.parent().unwrap_or(Path::new("."));
    let mut files = Vec::new();
    for entry in fs::read_dir(folder)?.flatten() {
        let Ok(data) = entry.metadata() else { continue };
        if data.is_file() && entry.path() != written {
            files.push((data.modified().unwrap_or(std::time::SystemTime::UNIX_EPOCH), data.len(), entry.path()));
        }
    }
    files.sort();
    let mut total: u64 = files.iter().map(|(_, size, _)| size).sum::<u64>() + fs::metadata(written)?.len();
    for (_, size, path) in files {
        if total <= limit {
            break;
        }
        fs::remove_file(path)?;
        total -= size;
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    fn head() -> Head {
        Head { stat: None, content: 7, start: 0, length: 0 }
    }

    fn written(folder: &Path) -> Vec<u8> {
        let path = folder.join("a.sifted");
        let new = HashMap::from([(1, (head(), b"tide".to_vec())), (2, (head(), b"quay".to_vec()))]);
        Store::default().write(&path, &new, &[]).unwrap();
        fs::read(path).unwrap()
    }

    #[test]
    fn what_is_written_is_read_again_and_kept_entries_stay() {
        let folder = tempfile::tempdir().unwrap();
        written(folder.path());
        let path = folder.path().join("a.sifted");
        let store = Store::read(&path);
        assert_eq!(store.get(2).unwrap().1, b"quay");
        store.write(&path, &HashMap::from([(3, (head(), b"boat".to_vec()))]), &[2]).unwrap();
        let store = Store::read(&path);
        let mut keys: Vec<u128> = store.keys().collect();
        keys.sort_unstable();
        assert_eq!((keys, store.get(2).unwrap().1), (vec![2, 3], &b"quay"[..]));
    }

    #[test]
    fn the_oldest_caches_make_room() {
        let folder = tempfile::tempdir().unwrap();
        let path = |name: &str| folder.path().join(name);
        for (name, age) in [("old", 30), ("older", 60), ("new", 10), ("written", 90)] {
            fs::write(path(name), [0; 100]).unwrap();
            let time = std::time::SystemTime::now() - std::time::Duration::from_secs(age);
            fs::File::options().append(true).open(path(name)).unwrap().set_modified(time).unwrap();
        }
        make_room(&path("written"), 250).unwrap();
        let left: Vec<bool> = ["older", "old", "new", "written"].iter().map(|name| path(name).exists()).collect();
        assert_eq!(left, [false, false, true, true]);
    }

    #[test]
    fn every_damage_makes_it_empty() {
        let folder = tempfile::tempdir().unwrap();
        let bytes = written(folder.path());
        assert!(Store::decode(bytes.clone()).is_some());
        for at in 0..bytes.len() {
            let mut damaged = bytes.clone();
            damaged[at] ^= 0x41;
            assert!(Store::decode(damaged).is_none(), "byte {at}");
            assert!(Store::decode(bytes[..at].to_vec()).is_none(), "cut at {at}");
        }
    }
}
