//! Version control through the real `git`: what changed, where hooks belong, how the baseline came to be.
//!
//! Nothing that is named in a repository is run, and nothing outside of it is read: see `quiet.rs`.

mod blame;
mod changes;
mod hooks;
mod lines;
mod provenance;
mod push;
mod quiet;
mod snapshot;
mod trend;

pub use blame::{LineOrigin, line_origins};
pub use changes::{ChangedFile, ChangedLines, Changes, Since};
pub use hooks::{Hook, HookError, HookState, Hooks};
pub use provenance::{Provenance, provenance};
pub use push::{Pushed, pushed};
pub use snapshot::Snapshot;
pub use trend::{TrendPoint, line_counts};

use std::fmt;
use std::fs::File;
use std::io::{self, Seek, Write};
use std::path::{Path, PathBuf};
use std::process::{Command, Output, Stdio};

use crate::files::path_from_bytes;
use quiet::Quiet;

/// A repository with a working tree.
#[derive(Debug, Clone)]
pub struct Git {
    /// The top folder of the working tree.
    pub root: PathBuf,
    quiet: Quiet,
}

/// Why git could not answer.
#[derive(Debug)]
pub enum GitError {
    /// The program is not there, or does not start.
    NotThere(io::Error),
    /// The folder is in no repository.
    Outside(PathBuf),
    /// git does not trust the repository, in its own words.
    Distrusted(String),
    /// The settings of the repository name a working tree elsewhere.
    TreeElsewhere(PathBuf),
    /// There is no such revision.
    NoRevision(String),
    /// A revision and the current one have no commit in common.
    Unrelated(String),
    /// The history that would be needed was not fetched.
    Shallow(String),
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
            GitError::Distrusted(words) => write!(
                out,
                "git does not read this repository: {words}; if you trust it, `git config --global --add safe.directory FOLDER` tells git so"
            ),
            GitError::TreeElsewhere(folder) => write!(
                out,
                "this repository's settings name {} as its working tree, which is not around this folder; nothing there is read",
                folder.display()
            ),
            GitError::NoRevision(name) => write!(
                out,
                "there is no revision \"{name}\" in this repository (to name a path, put it before the option)"
            ),
            GitError::Unrelated(name) => write!(out, "\"{name}\" and the current commit have no history in common"),
            GitError::Shallow(name) => write!(
                out,
                "\"{name}\" and the current commit have no history in common here, because only a part of it was fetched; `git fetch --unshallow` gets the rest"
            ),
            GitError::Failed(doing, message) => write!(out, "git could not {doing}: {message}"),
        }
    }
}

impl std::error::Error for GitError {}

impl Git {
    /// The repository around a folder.
    ///
    /// # Errors
    /// When there is none, git does not trust it, or there is no git.
    pub fn around(folder: &Path) -> Result<Git, GitError> {
        let mut git = Git { root: folder.to_path_buf(), quiet: Quiet::default() };
        let output = git.output(&["rev-parse", "--show-toplevel"], None)?;
        let printed = output.stdout.strip_suffix(b"\n").unwrap_or(&output.stdout);
        if !output.status.success() || printed.is_empty() {
            return Err(outside(folder, &output.stderr));
        }
        let root = path_from_bytes(printed);
        let real = |path: &Path| std::fs::canonicalize(path).unwrap_or_else(|_| path.to_path_buf());
        if !real(folder).starts_with(real(&root)) {
            return Err(GitError::TreeElsewhere(root));
        }
        // Paths are relative to the folder as it was named, which may lead through links.
        let depth = real(folder).strip_prefix(real(&root)).map_or(0, |inner| inner.iter().count());
        let named = folder.ancestors().nth(depth).filter(|named| real(named) == real(&root));
        git.root = named.map_or(root, Path::to_path_buf);
        git.quiet = Quiet::of(&git)?;
        Ok(git)
    }

    /// git with arguments, in the top folder.
    fn command(&self, arguments: &[&str]) -> Command {
        let mut command = self.quiet.command();
        command.arg("-C").arg(&self.root).arg("--no-optional-locks").args(arguments);
        command
    }

    /// Runs git to its end, whatever its status.
    fn output(&self, arguments: &[&str], input: Option<File>) -> Result<Output, GitError> {
        let mut command = self.command(arguments);
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

    /// The commit that a name represents; nothing if there is none.
    fn commit(&self, name: &str) -> Result<Option<String>, GitError> {
        let wanted = format!("{name}^{{commit}}");
        let output = self.output(&["rev-parse", "--verify", "--quiet", "--end-of-options", &wanted], None)?;
        Ok(output.status.success().then(|| one_line(&output.stdout)))
    }

    /// The commit that is checked out; nothing where there is none yet.
    pub fn revision(&self) -> Option<String> {
        self.commit("HEAD").ok().flatten()
    }

    /// Whether only a part of the history was fetched.
    fn is_shallow(&self) -> bool {
        self.run("look at the history", &["rev-parse", "--is-shallow-repository"])
            .is_ok_and(|printed| one_line(&printed) == "true")
    }

    /// The files of the repository with this root that git keeps, by absolute path.
    ///
    /// # Errors
    /// When git does not run, or does not trust the repository.
    pub fn tracked(root: &Path) -> Result<Vec<PathBuf>, GitError> {
        let git = Git { root: root.to_path_buf(), quiet: Quiet::default() };
        let listed = git.run("list its files", &["ls-files", "-z", "--cached"])?;
        let paths = listed.split(|byte| *byte == 0).filter(|path| !path.is_empty());
        Ok(paths.map(|path| path_of(root, path)).collect())
    }
}

/// Why a folder has no repository to work with.
fn outside(folder: &Path, words: &[u8]) -> GitError {
    let words = String::from_utf8_lossy(words);
    let first = words.lines().next().unwrap_or_default().trim_start_matches("fatal: ").to_string();
    let is_refusal = words.contains("safe.directory") || words.contains("safe.bareRepository");
    let is_bare = words.contains("bare repository");
    if is_refusal && !is_bare { GitError::Distrusted(first) } else { GitError::Outside(folder.to_path_buf()) }
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
    root.join(path_from_bytes(bytes))
}
