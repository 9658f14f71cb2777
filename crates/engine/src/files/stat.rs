//! What the file system says of a file without reading it.

use std::path::Path;
use std::time::{Duration, SystemTime};

use serde::{Deserialize, Serialize};

/// A file that was written less than this before the run began may be written again without its times telling.
const FRESH: Duration = Duration::from_secs(2);

/// What the file system says of a file without reading it.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct FileStat {
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

    /// What is to be said of a file that lies on no disk: its size in bytes, and when it was written, since 1970.
    #[cfg(test)]
    pub(crate) fn at(size: u64, modified: Duration) -> FileStat {
        FileStat { size, modified, changed: 0, number: 0 }
    }

    /// How many bytes it has.
    pub(crate) fn size(&self) -> u64 {
        self.size
    }

    /// Whether it was written so shortly before `now` that it may have changed once more since.
    pub(crate) fn is_fresh(&self, now: SystemTime) -> bool {
        let limit = now.duration_since(SystemTime::UNIX_EPOCH).unwrap_or_default().saturating_sub(FRESH);
        self.modified >= limit || self.changed >= limit.as_nanos() as i128
    }
}
