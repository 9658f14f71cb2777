//! Which build of this program runs: results of one are nothing to another.

use std::fs;
use std::path::Path;
use std::sync::OnceLock;

use xxhash_rust::xxh3::xxh3_128;

use crate::files::{FileStat, places, sealed};

/// The first bytes of the file that keeps the hash, its form included.
const HEAD: &[u8] = b"sieve-program 1\n";

/// A hash of the file of this program: the same on all machines that have the same one.
pub(super) fn program() -> Option<u128> {
    static PROGRAM: OnceLock<Option<u128>> = OnceLock::new();
    *PROGRAM.get_or_init(|| hash_of(&std::env::current_exe().ok()?, places::cache_folder().as_deref()))
}

/// The beginning of that hash, as people compare it.
pub fn build() -> Option<String> {
    Some(format!("{:032x}", program()?)[..12].to_string())
}

/// The hash of a file. It is kept with what tells that the file is the same: reading it takes longer than a small run.
fn hash_of(file: &Path, kept: Option<&Path>) -> Option<u128> {
    let stat = FileStat::of(file)?;
    let place = kept.map(|folder| folder.join("program"));
    if let Some(known) = place.as_deref().and_then(|place| known(place, &stat)) {
        return Some(known);
    }
    let hash = xxh3_128(&fs::read(file).ok()?);
    if let (Some(place), Ok(body)) = (place, postcard::to_stdvec(&(&stat, hash))) {
        let _ = sealed::write(&place, HEAD, &body);
    }
    Some(hash)
}

fn known(place: &Path, stat: &FileStat) -> Option<u128> {
    let bytes = super::store::read_own(place);
    let (of, hash): (FileStat, u128) = postcard::from_bytes(sealed::open(&bytes, HEAD)?).ok()?;
    (of == *stat).then_some(hash)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_hash_is_that_of_the_file_whatever_was_kept() {
        let folder = tempfile::tempdir().unwrap();
        let (file, kept) = (folder.path().join("hsieve"), folder.path().join("kept"));
        fs::write(&file, "one").unwrap();
        let one = hash_of(&file, Some(&kept));
        assert_eq!(one, Some(xxh3_128(b"one")));
        assert_eq!(hash_of(&file, Some(&kept)), one, "what was kept");
        fs::write(&file, "another").unwrap();
        assert_eq!(hash_of(&file, Some(&kept)), Some(xxh3_128(b"another")));
        fs::write(kept.join("program"), "damaged").unwrap();
        assert_eq!(hash_of(&file, Some(&kept)), Some(xxh3_128(b"another")));
        assert_eq!(hash_of(&file, None), Some(xxh3_128(b"another")));
        assert_eq!(hash_of(&folder.path().join("none"), Some(&kept)), None);
    }
}
