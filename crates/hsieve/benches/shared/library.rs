//! Where real Python is on this machine.

use std::path::PathBuf;
use std::process::Command;

/// The folder of the library of the Python on this machine.
pub fn library() -> Option<PathBuf> {
    let print = "import sysconfig; print(sysconfig.get_path('stdlib'))";
    let output = Command::new("python3").args(["-c", print]).output().ok()?;
    let text = String::from_utf8(output.stdout).ok()?;
    Some(PathBuf::from(text.trim())).filter(|path| path.is_dir())
}
