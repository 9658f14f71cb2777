//! Hooks before a commit and before a push, beside those that are there already.
//!
//! A hook that is a shell script gets a marked stretch at its head; any other program is kept under another name and called by
//! ours. Removing takes back exactly what was put in.

use std::fmt;
use std::path::{Path, PathBuf};

use super::{Git, GitError, one_line};
use crate::files::{self, FileError};

/// When a hook runs.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Hook {
    /// Before a commit is made.
    Commit,
    /// Before commits are sent to another repository.
    Push,
}

impl Hook {
    /// Every hook.
    pub const ALL: &'static [Hook] = &[Hook::Commit, Hook::Push];

    /// The word for it on the command line.
    pub fn word(self) -> &'static str {
        match self {
            Hook::Commit => "commit",
            Hook::Push => "push",
        }
    }

    /// The file that git runs.
    fn file_name(self) -> &'static str {
        match self {
            Hook::Commit => "pre-commit",
            Hook::Push => "pre-push",
        }
    }
}

/// What became of a hook.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum HookState {
    /// A file was made for it.
    Made,
    /// It was put at the head of a script that was there.
    Joined,
    /// A program that was there was set aside, and is called by ours.
    Wrapped,
    /// It was there already; it was made anew.
    Renewed,
    /// It was taken out.
    Removed,
    /// It was not there.
    NotThere,
}

/// Why a hook cannot be put in or taken out.
#[derive(Debug)]
pub enum HookError {
    /// git did not answer.
    Git(GitError),
    /// A file cannot be read or written.
    File(FileError),
    /// What would be set aside is in the way of something that was set aside before.
    InTheWay(PathBuf),
}

impl fmt::Display for HookError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            HookError::Git(error) => error.fmt(out),
            HookError::File(error) => error.fmt(out),
            HookError::InTheWay(path) => {
                write!(out, "{}: a hook was set aside under this name before; move it away first", path.display())
            }
        }
    }
}

impl std::error::Error for HookError {}

impl From<GitError> for HookError {
    fn from(error: GitError) -> HookError {
        HookError::Git(error)
    }
}

impl From<FileError> for HookError {
    fn from(error: FileError) -> HookError {
        HookError::File(error)
    }
}

const BEGIN: &str = "# Honest Sieve begins here; `hsieve hook remove` takes this part out.";
const END: &str = "# Honest Sieve ends here.";

/// What a program that is no shell script is called while ours stands in its place.
const ASIDE: &str = ".before-sieve";

/// The hooks of a repository.
#[derive(Debug)]
pub struct Hooks {
    /// The folder that git looks in.
    pub folder: PathBuf,
}

impl Hooks {
    /// The folder of a repository's hooks, as its settings have it.
    ///
    /// # Errors
    /// When git does not answer.
    pub fn of(git: &Git) -> Result<Hooks, GitError> {
        let printed = git.run("find the hooks", &["rev-parse", "--git-path", "hooks"])?;
        Ok(Hooks { folder: git.root.join(one_line(&printed)) })
    }

    fn path(&self, hook: Hook) -> PathBuf {
        self.folder.join(hook.file_name())
    }

    /// Puts a hook in. It calls `program`, or, where that is not there any more, `hsieve` on the path.
    ///
    /// # Errors
    /// When a file cannot be read or written, or is in the way.
    pub fn install(&self, hook: Hook, program: &Path) -> Result<HookState, HookError> {
        let path = self.path(hook);
        std::fs::create_dir_all(&self.folder).map_err(|cause| FileError {
            path: self.folder.clone(),
            doing: "make",
            cause,
        })?;
        if !path.exists() {
            write(&path, &format!("#!/bin/sh\n{}", part(hook, program, false)))?;
            return Ok(HookState::Made);
        }
        let bytes = files::read(&path)?;
        match String::from_utf8(bytes).ok().filter(|text| is_shell(text)) {
            Some(text) => {
                let bare = without_part(&text);
                let aside = bare.as_ref().is_some_and(|_| self.aside(hook).exists());
                let state = if bare.is_some() { HookState::Renewed } else { HookState::Joined };
                let bare = bare.unwrap_or(text);
                let (first, rest) = bare.split_once('\n').unwrap_or((&bare, ""));
                write(&path, &format!("{first}\n{}{rest}", part(hook, program, aside)))?;
                Ok(state)
            }
            None => {
                let aside = self.aside(hook);
                if aside.exists() {
                    return Err(HookError::InTheWay(aside));
                }
                rename(&path, &aside)?;
                write(&path, &format!("#!/bin/sh\n{}", part(hook, program, true)))?;
                Ok(HookState::Wrapped)
            }
        }
    }

    fn aside(&self, hook: Hook) -> PathBuf {
        self.folder.join(format!("{}{ASIDE}", hook.file_name()))
    }

    /// Takes a hook out, and puts back what was there before.
    ///
    /// # Errors
    /// When a file cannot be read or written.
    pub fn remove(&self, hook: Hook) -> Result<HookState, HookError> {
        let path = self.path(hook);
        let Ok(bytes) = files::read(&path) else { return Ok(HookState::NotThere) };
        let Some(bare) = String::from_utf8(bytes).ok().and_then(|text| without_part(&text)) else {
            return Ok(HookState::NotThere);
        };
        let aside = self.aside(hook);
        if bare.trim() == "#!/bin/sh" {
            if aside.exists() {
                rename(&aside, &path)?;
            } else {
                std::fs::remove_file(&path).map_err(|cause| FileError { path, doing: "remove", cause })?;
            }
        } else {
            write(&path, &bare)?;
        }
        Ok(HookState::Removed)
    }
}

/// Whether a script is one that a POSIX shell runs, or one like it.
fn is_shell(text: &str) -> bool {
    let Some(first) = text.lines().next().and_then(|line| line.strip_prefix("#!")) else { return false };
    let words: Vec<&str> = first.split_whitespace().collect();
    let program = match words.as_slice() {
        [env, program, ..] if env.ends_with("/env") => program,
        [program, ..] => program,
        [] => return false,
    };
    let name = program.rsplit('/').next().unwrap_or(program);
    matches!(name, "sh" | "bash" | "dash" | "ash" | "ksh" | "zsh")
}

/// Our part of a script.
fn part(hook: Hook, program: &Path, calls_aside: bool) -> String {
    let program = program.display().to_string().replace('\'', "'\\''");
    let word = hook.word();
    let mut text = format!(
        "{BEGIN}\n\
         sieve='{program}'\n\
         [ -x \"$sieve\" ] || sieve=$(command -v hsieve)\n\
         if [ -n \"$sieve\" ]; then\n  \"$sieve\" hook run {word} </dev/null || exit 1\n\
         else\n  echo 'hsieve is not here any more: this {word} was not sifted' >&2\nfi\n"
    );
    if calls_aside {
        text += &format!("\"$0{ASIDE}\" \"$@\" || exit $?\n");
    }
    text + END + "\n"
}

/// A script without our part; nothing if it has none.
fn without_part(text: &str) -> Option<String> {
    let start = text.find(BEGIN)?;
    let end = start + text[start..].find(END)? + END.len();
    let rest = text[end..].strip_prefix('\n').unwrap_or(&text[end..]);
    Some(format!("{}{rest}", &text[..start]))
}

fn rename(from: &Path, to: &Path) -> Result<(), FileError> {
    std::fs::rename(from, to).map_err(|cause| FileError { path: from.to_path_buf(), doing: "set aside", cause })
}

/// Writes a script that can be run.
fn write(path: &Path, text: &str) -> Result<(), FileError> {
    files::write(path, text.as_bytes())?;
    files::make_executable(path)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn hooks() -> (tempfile::TempDir, Hooks) {
        let folder = tempfile::tempdir().unwrap();
        let hooks = Hooks { folder: folder.path().join("hooks") };
        (folder, hooks)
    }

    #[test]
    fn what_was_there_stays_and_comes_back() {
        let (_folder, hooks) = hooks();
        std::fs::create_dir_all(&hooks.folder).unwrap();
        let path = hooks.path(Hook::Commit);
        for (script, state) in [
            ("#!/bin/bash\necho tide\nexit 0\n", HookState::Joined),
            ("#!/usr/bin/env python3\nprint('tide')\n", HookState::Wrapped),
        ] {
            std::fs::write(&path, script).unwrap();
            assert_eq!(hooks.install(Hook::Commit, Path::new("/x/hsieve")).unwrap(), state);
            let once = std::fs::read_to_string(&path).unwrap();
            assert_eq!(hooks.install(Hook::Commit, Path::new("/x/hsieve")).unwrap(), HookState::Renewed);
            assert_eq!(std::fs::read_to_string(&path).unwrap(), once);
            assert_eq!(hooks.remove(Hook::Commit).unwrap(), HookState::Removed);
            assert_eq!(std::fs::read_to_string(&path).unwrap(), script);
        }
        assert_eq!(hooks.remove(Hook::Commit).unwrap(), HookState::NotThere);
    }

    #[test]
    fn a_hook_of_our_own_goes_without_a_trace() {
        let (_folder, hooks) = hooks();
        assert_eq!(hooks.install(Hook::Push, Path::new("/x/hsieve")).unwrap(), HookState::Made);
        assert_eq!(hooks.remove(Hook::Push).unwrap(), HookState::Removed);
        assert_eq!(std::fs::read_dir(&hooks.folder).unwrap().count(), 0);
    }
}
