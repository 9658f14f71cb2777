//! The results of a part of the files, in a file that is carried to where all parts are joined.
//!
//! They are known by content, settings and build, as in the cache, so that a part can only ever save work: what it does not have, or
//! has of another content, is sifted where the parts are joined.

use std::path::{Path, PathBuf};

use serde::{Deserialize, Serialize};

use super::program::program;
use super::store::body_of;
use super::{Cache, Store};
use crate::files::{FileError, read_bounded, sealed};

/// The first bytes of the file, its form included.
const HEAD: &[u8] = b"sieve-part 1\n";

/// A larger file is not read, in bytes.
const LARGEST: u64 = 1 << 30;

/// Which of how many equal parts of the files is meant.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub struct Shard {
    /// Its number, from 1.
    pub number: u32,
    /// How many there are.
    pub of: u32,
}

impl Shard {
    /// A shard by its number, from 1, and how many there are; nothing where there is none with that number.
    pub fn new(number: u32, of: u32) -> Option<Shard> {
        (1..=of).contains(&number).then_some(Shard { number, of })
    }
}

impl std::fmt::Display for Shard {
    fn fmt(&self, out: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(out, "shard {} of {}", self.number, self.of)
    }
}

/// What tells a part from others.
#[derive(Debug, Clone, Serialize, Deserialize)]
struct About {
    /// A hash of the program that made it, and its version.
    program: u128,
    version: String,
    shard: Shard,
    /// What it was asked to sift, as whoever asked wrote it.
    asked: String,
}

/// The results of a part of the files.
#[derive(Debug)]
pub struct Part {
    about: About,
    store: Store,
}

/// Why a file does not hold results that can be joined.
#[derive(Debug, thiserror::Error)]
pub enum PartError {
    /// It cannot be read.
    #[error("{0}")]
    File(FileError),
    /// It is something else, or not whole.
    #[error("{}: it is not what `hsieve sift --shard` writes, or not whole", .0.display())]
    NoPart(PathBuf),
    /// Another program made it.
    #[error("{}: another build of this program made it (version {made_by}); use the same one for all shards and here", .path.display())]
    OtherBuild {
        /// The file.
        path: PathBuf,
        /// The version of the program.
        made_by: String,
    },
}

impl Part {
    /// Reads a part.
    ///
    /// # Errors
    /// When the file cannot be read, or holds nothing that this program made.
    pub fn read(path: &Path) -> Result<Part, PartError> {
        let bytes = read_bounded(path, LARGEST).map_err(PartError::File)?;
        let (about, body) = open(&bytes).ok_or_else(|| PartError::NoPart(path.to_path_buf()))?;
        if Some(about.program) != program() {
            return Err(PartError::OtherBuild { path: path.to_path_buf(), made_by: about.version });
        }
        let store = Store::from_elsewhere(body).ok_or_else(|| PartError::NoPart(path.to_path_buf()))?;
        Ok(Part { about, store })
    }

    /// Which part of the files it is.
    pub fn shard(&self) -> Shard {
        self.about.shard
    }

    /// What it was asked to sift, as whoever asked wrote it.
    pub fn asked(&self) -> &str {
        &self.about.asked
    }

    /// The results of several parts together.
    pub(crate) fn join(parts: Vec<Part>) -> Store {
        let mut all = Store::default();
        parts.into_iter().for_each(|part| all.append(part.store));
        all
    }
}

fn open(bytes: &[u8]) -> Option<(About, &[u8])> {
    postcard::take_from_bytes(sealed::open(bytes, HEAD)?).ok()
}

impl Cache {
    /// The results that a run used or made, as the bytes of a part.
    ///
    /// # Errors
    /// When the program cannot read its own file, so that nobody could tell what made the part.
    pub(crate) fn to_part(&self, shard: Shard, asked: &str) -> std::io::Result<Vec<u8>> {
        let program = program().ok_or_else(|| std::io::Error::other("the file of this program cannot be read"))?;
        let about = About { program, version: env!("CARGO_PKG_VERSION").into(), shard, asked: asked.into() };
        let mut body = postcard::to_stdvec(&about).map_err(std::io::Error::other)?;
        body.append(&mut body_of(&self.met())?);
        Ok(sealed::sealed(HEAD, &body))
    }
}

#[cfg(test)]
mod tests {
    use std::fs;

    use super::*;

    fn part() -> Vec<u8> {
        let cache = Cache::of_nothing();
        cache.to_part(Shard { number: 2, of: 3 }, "booking").unwrap()
    }

    #[test]
    fn every_damage_is_seen() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("two.part");
        let whole = part();
        fs::write(&path, &whole).unwrap();
        let read = Part::read(&path).unwrap();
        assert_eq!((read.shard(), read.asked()), (Shard { number: 2, of: 3 }, "booking"));
        for at in 0..whole.len() {
            let mut damaged = whole.clone();
            damaged[at] ^= 0x41;
            for bytes in [&damaged, &whole[..at]] {
                fs::write(&path, bytes).unwrap();
                assert!(matches!(Part::read(&path), Err(PartError::NoPart(_))), "byte {at}");
            }
        }
    }

    #[test]
    fn what_another_program_made_is_refused_by_its_version() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("two.part");
        let shard = Shard { number: 1, of: 1 };
        let about = About { program: 7, version: "0.0.9".into(), shard, asked: String::new() };
        fs::write(&path, sealed::sealed(HEAD, &postcard::to_stdvec(&about).unwrap())).unwrap();
        let error = Part::read(&path).unwrap_err().to_string();
        assert!(error.contains("another build of this program made it (version 0.0.9)"), "{error}");
    }
}
