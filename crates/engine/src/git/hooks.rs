//! Hooks before a commit and before a push, beside those that are there already.
//!
//! A shell script that is a hook gets a marked part at its head; any other program is set aside under another name and called by
//! ours. A hook that is switched off is set aside and stays off. Removing gives back the bytes and the mode that were there. A
//! folder of hooks that the configuration names belongs to somebody else and is left alone.

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
    /// A hook that is switched off, not executable or empty, was set aside; it stays off.
    SetAside,
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
    /// The configuration names another folder for hooks, which somebody else looks after.
    Managed(PathBuf),
}

impl fmt::Display for HookError {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            HookError::Git(error) => error.fmt(out),
            HookError::File(error) => error.fmt(out),
            HookError::InTheWay(path) => {
                write!(out, "{}: a hook was set aside under this name before; move it away first", path.display())
            }
            HookError::Managed(folder) => write!(
                out,
                "git is set to look for hooks in {} (core.hooksPath), which something else looks after; nothing was changed. \
                 Let its hook before a commit call `hsieve hook run commit`, and the one before a push \
                 `hsieve hook run push \"$@\"` with its standard input",
                folder.display()
            ),
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

/// What a program that is no shell script is called while ours is in its place.
const ASIDE: &str = ".before-sieve";

/// What a hook of our own begins with.
const OWN_START: &str = "#!/bin/sh\n";

/// The hooks of a repository.
#[derive(Debug)]
pub struct Hooks {
    /// The folder that git looks in.
    pub folder: PathBuf,
}

impl Hooks {
    /// The folder of a repository's own hooks.
    ///
    /// # Errors
    /// When git does not answer, or its configuration names another folder.
    pub fn of(git: &Git) -> Result<Hooks, HookError> {
        let configured = git.output(&["config", "--type=path", "--get", "core.hooksPath"], None)?;
        if configured.status.success() {
            return Err(HookError::Managed(git.root.join(one_line(&configured.stdout))));
        }
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
        if path.symlink_metadata().is_err() {
            make(&path, &format!("{OWN_START}{}", part(hook, program, false)))?;
            return Ok(HookState::Made);
        }
        let is_ours = files::read(&path).is_ok_and(|bytes| memchr::memmem::find(&bytes, BEGIN.as_bytes()).is_some());
        if is_off(&path) && !is_ours {
            return self.set_aside(hook, program, false);
        }
        let is_link = path.symlink_metadata().is_ok_and(|data| data.is_symlink());
        // A script that is nothing but its first line would be taken for one of our own.
        let can_join = |text: &String| is_shell(text) && text != OWN_START;
        let text = if is_link { None } else { String::from_utf8(files::read(&path)?).ok().filter(can_join) };
        match text {
            Some(text) => {
                let bare = without_part(&text);
                let calls_aside = bare.is_some() && self.aside(hook).exists() && !is_off(&self.aside(hook));
                let state = if bare.is_some() { HookState::Renewed } else { HookState::Joined };
                let bare = bare.unwrap_or(text);
                let (first, rest) = bare.split_once('\n').unwrap_or((&bare, ""));
                files::write(&path, format!("{first}\n{}{rest}", part(hook, program, calls_aside)).as_bytes())?;
                Ok(state)
            }
            None => self.set_aside(hook, program, true),
        }
    }

    /// Keeps what is there under another name, with its bytes and its mode, and puts ours in its place.
    fn set_aside(&self, hook: Hook, program: &Path, calls_it: bool) -> Result<HookState, HookError> {
        let (path, aside) = (self.path(hook), self.aside(hook));
        if aside.symlink_metadata().is_ok() {
            return Err(HookError::InTheWay(aside));
        }
        rename(&path, &aside)?;
        make(&path, &format!("{OWN_START}{}", part(hook, program, calls_it)))?;
        Ok(if calls_it { HookState::Wrapped } else { HookState::SetAside })
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
        if bare == OWN_START {
            if aside.symlink_metadata().is_ok() {
                rename(&aside, &path)?;
            } else {
                std::fs::remove_file(&path).map_err(|cause| FileError { path, doing: "remove", cause })?;
            }
        } else {
            files::write(&path, bare.as_bytes())?;
        }
        Ok(HookState::Removed)
    }
}

/// Whether git would not run a hook: it is empty, or not executable.
fn is_off(path: &Path) -> bool {
    let Ok(data) = std::fs::metadata(path) else { return true };
    #[cfg(unix)]
    let executable = {
        use std::os::unix::fs::PermissionsExt;
        data.permissions().mode() & 0o111 != 0
    };
    #[cfg(not(unix))]
    let executable = true;
    data.len() == 0 || !executable
}

/// Whether a script is one that a POSIX shell runs, or one like it.
fn is_shell(text: &str) -> bool {
    // Without a line end after the first line our part could not be taken out again without a trace.
    let Some(first) = text.split_once('\n').and_then(|(line, _)| line.strip_prefix("#!")) else { return false };
    let words: Vec<&str> = first.split_whitespace().collect();
    let program = match words.as_slice() {
        [env, program, ..] if env.ends_with("/env") => program,
        [program, ..] => program,
        [] => return false,
    };
    let name = program.rsplit('/').next().unwrap_or(program);
    matches!(name, "sh" | "bash" | "dash" | "ash" | "ksh" | "zsh")
}

/// Our part of a script. What git tells a hook before a push on its standard input is left for the rest of the script, too.
fn part(hook: Hook, program: &Path, calls_aside: bool) -> String {
    let program = program.display().to_string().replace('\'', "'\\''");
    let word = hook.word();
    let (before, call, behind) = match hook {
        Hook::Commit => ("", "\"$sieve\" hook run commit </dev/null", ""),
        Hook::Push => (
            "sieve_input=$(cat)\n",
            "printf '%s\\n' \"$sieve_input\" | \"$sieve\" hook run push \"$@\"",
            "exec <<SIEVE_INPUT\n$sieve_input\nSIEVE_INPUT\n",
        ),
    };
    let mut text = format!(
        "{BEGIN}\n\
         {before}sieve='{program}'\n\
         [ -x \"$sieve\" ] || sieve=$(command -v hsieve)\n\
         if [ -n \"$sieve\" ]; then\n  {call} || exit 1\n\
         else\n  echo 'hsieve is not here any more: this {word} was not sifted' >&2\nfi\n\
         {behind}"
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

/// Makes a script that can be run.
fn make(path: &Path, text: &str) -> Result<(), FileError> {
    files::write(path, text.as_bytes())?;
    files::make_executable(path)
}

#[cfg(test)]
mod tests {
    use super::*;

    const PROGRAM: &str = "/x/hsieve";

    fn hooks() -> (tempfile::TempDir, Hooks) {
        let folder = tempfile::tempdir().unwrap();
        let hooks = Hooks { folder: folder.path().join("hooks") };
        std::fs::create_dir_all(&hooks.folder).unwrap();
        (folder, hooks)
    }

    #[cfg(unix)]
    fn set_mode(path: &Path, mode: u32) {
        use std::os::unix::fs::PermissionsExt;
        std::fs::set_permissions(path, std::fs::Permissions::from_mode(mode)).unwrap();
    }

    #[cfg(unix)]
    fn mode(path: &Path) -> u32 {
        use std::os::unix::fs::PermissionsExt;
        std::fs::metadata(path).unwrap().permissions().mode() & 0o7777
    }

    #[cfg(unix)]
    #[test]
    fn bytes_and_mode_of_what_was_there_come_back() {
        let (_folder, hooks) = hooks();
        let path = hooks.path(Hook::Commit);
        for (script, old_mode, state) in [
            ("#!/bin/bash\necho tide\nexit 0\n", 0o750, HookState::Joined),
            ("#!/bin/sh\n", 0o711, HookState::Wrapped),
            ("#!/bin/sh", 0o755, HookState::Wrapped),
            ("#!/usr/bin/env python3\nprint('tide')\n", 0o755, HookState::Wrapped),
            ("#!/bin/sh\necho off\n", 0o644, HookState::SetAside),
            ("", 0o755, HookState::SetAside),
        ] {
            std::fs::write(&path, script).unwrap();
            set_mode(&path, old_mode);
            assert_eq!(hooks.install(Hook::Commit, Path::new(PROGRAM)).unwrap(), state, "{script:?}");
            let once = std::fs::read_to_string(&path).unwrap();
            assert_eq!(once.contains(".before-sieve\" \"$@\""), state == HookState::Wrapped, "{script:?}");
            assert_eq!(hooks.install(Hook::Commit, Path::new(PROGRAM)).unwrap(), HookState::Renewed);
            assert_eq!(std::fs::read_to_string(&path).unwrap(), once);
            assert_eq!(hooks.remove(Hook::Commit).unwrap(), HookState::Removed);
            assert_eq!(std::fs::read_to_string(&path).unwrap(), script);
            assert_eq!(mode(&path), old_mode, "{script:?}");
        }
        assert_eq!(hooks.remove(Hook::Commit).unwrap(), HookState::NotThere);
    }

    #[test]
    fn a_hook_of_our_own_goes_without_a_trace() {
        let (_folder, hooks) = hooks();
        assert_eq!(hooks.install(Hook::Push, Path::new(PROGRAM)).unwrap(), HookState::Made);
        assert_eq!(hooks.remove(Hook::Push).unwrap(), HookState::Removed);
        assert_eq!(std::fs::read_dir(&hooks.folder).unwrap().count(), 0);
    }
}
