//! Version control through the real `git`: what changed, where hooks belong, how the baseline came to be.
//!
//! Nothing that stands in a repository is run: helpers for showing differences are switched off, and so are programs that watch
//! the file system.

mod blame;
mod changes;
mod hooks;
mod trend;

pub use blame::{LineOrigin, line_origins};
pub use changes::{ChangedFile, ChangedLines, Changes, Since};
pub use hooks::{Hook, HookError, HookState, Hooks};
pub use trend::{TrendPoint, line_counts};

use std::fmt;
use std::fs::File;
use std::io::{self, Seek, Write};
use std::path::{Path, PathBuf};
use std::process::{Command, Output, Stdio};

/// A repository with a working tree.
#[derive(Debug, Clone)]
pub struct Git {
    /// The top folder of the working tree.
    pub root: PathBuf,
}

/// Why git could not answer.
#[derive(Debug)]
pub enum GitError {
    /// The program is not there, or does not start.
    NotThere(io::Error),
    /// The folder is in no repository.
    Outside(PathBuf),
    /// There is no such revision.
    NoRevision(String),
    /// A revision and the current one have no commit in common.
    Unrelated(String),
    /// It ended with an error: what was to be done, and its first words.
    Failed(&'static str, String),
}

impl fmt::Display for GitError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            GitError::NotThere(cause) => write!(out, "git is needed for this, and it does not start: {cause}"),
            GitError::Outside(folder) => {
                write!(out, "this needs a git repository, and {} is in none", folder.display())
            }
            GitError::NoRevision(name) => write!(
                out,
                "there is no revision \"{name}\" in this repository (to name a path, put it before the option)"
            ),
            GitError::Unrelated(name) => write!(out, "\"{name}\" and the current commit have no history in common"),
            GitError::Failed(doing, message) => write!(out, "git could not {doing}: {message}"),
        }
    }
}

impl std::error::Error for GitError {}

impl Git {
    /// The repository around a folder.
    ///
    /// # Errors
    /// When there is none, or no git.
    pub fn around(folder: &Path) -> Result<Git, GitError> {
        let git = Git { root: folder.to_path_buf() };
        let output = git.output(&["rev-parse", "--show-toplevel"], None)?;
        let root = one_line(&output.stdout);
        if !output.status.success() || root.is_empty() {
            return Err(GitError::Outside(folder.to_path_buf()));
        }
        Ok(Git { root: PathBuf::from(root) })
    }

    /// Runs git to its end, whatever its status.
    fn output(&self, arguments: &[&str], input: Option<File>) -> Result<Output, GitError> {
        let mut command = Command::new("git");
        command.arg("-C").arg(&self.root).args(["-c", "core.fsmonitor=false", "--no-optional-locks"]).args(arguments);
        command.stdin(input.map_or(Stdio::null(), Stdio::from));
        command.output().map_err(GitError::NotThere)
    }

    /// What git prints, if it ends well.
    fn run(&self, doing: &'static str, arguments: &[&str]) -> Result<Vec<u8>, GitError> {
        let output = self.output(arguments, None)?;
        succeeded(doing, output)
    }

    /// Runs git with text on its standard input, which it reads from a file, so that neither waits for the other.
    fn run_with(&self, doing: &'static str, arguments: &[&str], input: &[u8]) -> Result<Output, GitError> {
        let file = || -> io::Result<File> {
            let mut file = tempfile::tempfile()?;
            file.write_all(input)?;
            file.rewind()?;
            Ok(file)
        };
        let file = file().map_err(|cause| GitError::Failed(doing, cause.to_string()))?;
        self.output(arguments, Some(file))
    }

    /// The commit that a name stands for; nothing if there is none.
    fn commit(&self, name: &str) -> Result<Option<String>, GitError> {
        let wanted = format!("{name}^{{commit}}");
        let output = self.output(&["rev-parse", "--verify", "--quiet", "--end-of-options", &wanted], None)?;
        Ok(output.status.success().then(|| one_line(&output.stdout)))
    }

    /// The revision that what is pushed from here will be compared with: what the branch follows, or the main line of its
    /// remote; nothing where neither is known.
    ///
    /// # Errors
    /// When git does not run.
    pub fn pushed_to(&self) -> Result<Option<String>, GitError> {
        for name in ["@{push}", "@{upstream}", "origin/HEAD"] {
            if let Some(commit) = self.commit(name)? {
                return Ok(Some(commit));
            }
        }
        Ok(None)
    }
}

fn succeeded(doing: &'static str, output: Output) -> Result<Vec<u8>, GitError> {
    if output.status.success() {
        return Ok(output.stdout);
    }
    let message = one_line(&output.stderr);
    Err(GitError::Failed(doing, message.trim_start_matches("fatal: ").to_string()))
}

/// The first line of what a program printed.
fn one_line(bytes: &[u8]) -> String {
    String::from_utf8_lossy(bytes).lines().next().unwrap_or_default().trim().to_string()
}

/// A path as git prints it, below the top folder.
fn path_of(root: &Path, bytes: &[u8]) -> PathBuf {
    #[cfg(unix)]
    {
        use std::os::unix::ffi::OsStrExt;
        root.join(std::ffi::OsStr::from_bytes(bytes))
    }
    #[cfg(not(unix))]
    {
        root.join(String::from_utf8_lossy(bytes).as_ref())
    }
}
