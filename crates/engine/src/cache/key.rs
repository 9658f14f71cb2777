//! What a kept result depends on.

use std::path::{Path, PathBuf};
use std::time::{Duration, SystemTime};

use serde::{Deserialize, Serialize};
use xxhash_rust::xxh3::xxh3_128;

use crate::discover::Candidate;
use crate::settings::Effective;
use crate::sift::Request;

/// A file that was written less than this before the run began may be written again without its times telling.
const FRESH: Duration = Duration::from_secs(2);

/// What the file system says of a file without reading it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct FileStat {
    size: u64,
    modified: Duration,
    /// When the file system last changed anything about it, in nanoseconds, and its number; zero where that is not known.
    changed: i128,
    number: u64,
}

impl FileStat {
    pub(crate) fn of(path: &Path) -> Option<FileStat> {
        let data = std::fs::metadata(path).ok()?;
        let modified = data.modified().ok()?.duration_since(SystemTime::UNIX_EPOCH).ok()?;
        #[cfg(unix)]
        let (changed, number) = {
            use std::os::unix::fs::MetadataExt;
            (i128::from(data.ctime()) * 1_000_000_000 + i128::from(data.ctime_nsec()), data.ino())
        };
        #[cfg(not(unix))]
        let (changed, number) = (0, 0);
        Some(FileStat { size: data.len(), modified, changed, number })
    }

    /// All of it, to be hashed.
    pub(crate) fn as_bytes(&self) -> [u8; 48] {
        let mut bytes = [0; 48];
        bytes[..8].copy_from_slice(&self.size.to_le_bytes());
        bytes[8..24].copy_from_slice(&self.modified.as_nanos().to_le_bytes());
        bytes[24..40].copy_from_slice(&self.changed.to_le_bytes());
        bytes[40..].copy_from_slice(&self.number.to_le_bytes());
        bytes
    }

    /// Whether it was written so shortly before `now` that it may have changed once more since.
    pub(crate) fn is_fresh(&self, now: SystemTime) -> bool {
        let limit = now.duration_since(SystemTime::UNIX_EPOCH).unwrap_or_default().saturating_sub(FRESH);
        self.modified >= limit || self.changed >= limit.as_nanos() as i128
    }
}

/// Which build of this program runs: its version, and the size and time of its file.
fn build() -> Option<String> {
    let program: PathBuf = std::env::current_exe().ok()?;
    let stat = FileStat::of(&program)?;
    Some(format!("{} {stat:?}", env!("CARGO_PKG_VERSION")))
}

/// What tells the cache of a run from those of other code bases, options and builds.
pub(super) fn run_key(request: &Request<'_>) -> Option<u128> {
    let options = request.settings.options();
    let text = format!("{}\0{:?}\0{options}\0{}", build()?, request.project.root, request.needs_identities());
    Some(xxh3_128(text.as_bytes()))
}

/// What the settings decide over a file's findings.
pub(super) fn settings_key(settings: &Effective, request: &Request<'_>) -> u128 {
    xxh3_128(settings.fingerprint(&request.project.folder, request.today).as_bytes())
}

/// What tells a file and its settings from others.
pub(super) fn file_key(candidate: &Candidate, settings: u128) -> u128 {
    let mut bytes = candidate.path.as_os_str().as_encoded_bytes().to_vec();
    bytes.push(0);
    bytes.extend_from_slice(candidate.language.name().as_bytes());
    bytes.push(u8::from(candidate.named));
    bytes.extend_from_slice(&settings.to_le_bytes());
    xxh3_128(&bytes)
}
