//! What the benchmarks have in common.

use std::path::PathBuf;
use std::process::Command;
use std::time::Duration;

/// Rounds of each measurement; the median counts.
pub const ROUNDS: usize = 5;

/// The folder of the library of the Python on this machine.
pub fn library() -> Option<PathBuf> {
    let print = "import sysconfig; print(sysconfig.get_path('stdlib'))";
    let output = Command::new("python3").args(["-c", print]).output().ok()?;
    let text = String::from_utf8(output.stdout).ok()?;
    Some(PathBuf::from(text.trim())).filter(|path| path.is_dir())
}

/// The time in the middle.
pub fn median(mut times: Vec<Duration>) -> Duration {
    times.sort();
    times[times.len() / 2]
}
