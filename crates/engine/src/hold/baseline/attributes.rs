//! The attribute by which version control merges a baseline: merging keeps the entries of both sides.

use std::path::{Path, PathBuf};

use super::UNION;
use crate::files::{self, Disk, FileError, Files};
use crate::project::Project;

/// A larger file is not read.
const LARGEST: u64 = 1 << 20;

/// The attributes file of a repository that does not mention the baseline yet.
#[derive(Debug)]
pub struct Attributes {
    /// The file, `.gitattributes` beside the baseline.
    pub path: PathBuf,
    before: Vec<u8>,
}

impl Attributes {
    /// What to ask before it is written.
    pub const QUESTION: &str = "Let git keep the entries of both sides when branches meet (a line in .gitattributes)?";

    /// The file beside a baseline, where it lies in a repository and the line is not there yet.
    pub fn lacking(baseline: &Path) -> Option<Attributes> {
        let folder = baseline.parent()?;
        let root = Project::around(folder).root;
        if !root.join(".git").exists() {
            return None;
        }
        let path = folder.join(".gitattributes");
        let before =
            if path.symlink_metadata().is_ok() { Disk.read_within(&root, &path, LARGEST).ok()? } else { Vec::new() };
        let mentions_it =
            String::from_utf8_lossy(&before).lines().any(|line| line.trim().starts_with(super::FILE_NAME));
        (!mentions_it).then_some(Attributes { path, before })
    }

    /// Adds the line.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn write(&self) -> Result<(), FileError> {
        let mut after = self.before.clone();
        if !after.is_empty() && !after.ends_with(b"\n") {
            after.push(b'\n');
        }
        after.extend_from_slice(UNION.as_bytes());
        after.push(b'\n');
        files::write(&self.path, &after)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_line_is_added_once_and_the_others_stay() {
        let folder = tempfile::tempdir().unwrap();
        let baseline = folder.path().join("sieve-baseline.jsonl");
        assert!(Attributes::lacking(&baseline).is_none(), "outside of a repository nothing is lacking");
        std::fs::create_dir(folder.path().join(".git")).unwrap();
        std::fs::write(folder.path().join(".gitattributes"), "*.png binary").unwrap();
        Attributes::lacking(&baseline).unwrap().write().unwrap();
        let text = std::fs::read_to_string(folder.path().join(".gitattributes")).unwrap();
        assert_eq!(text, format!("*.png binary\n{UNION}\n"));
        assert!(Attributes::lacking(&baseline).is_none());
    }
}
