//! Runs git so that a repository cannot make it run programs, reach for another place, or read files outside.
//!
//! A repository's own configuration may name programs for many occasions: filters of contents (also when git only compares),
//! converters for differences and blame, checks of signatures, transports that fetch missing objects, watchers of the file
//! system, pagers, hooks. Each is switched off here by configuration that comes from outside of the repository, which wins. The
//! environment is cleared of git's own variables, but for the index that a hook is to check and the user's own configuration.

use std::collections::BTreeSet;
use std::ffi::OsString;
use std::process::Command;

use super::{Git, GitError, succeeded};

/// Configuration for every call.
const SETTINGS: &[(&str, &str)] = &[
    ("core.fsmonitor", "false"),
    ("core.pager", "cat"),
    ("core.askPass", ""),
    ("core.sshCommand", "false"),
    ("core.alternateRefsCommand", ""),
    ("diff.external", ""),
    ("log.showSignature", "false"),
    ("log.mailmap", "false"),
    ("blame.ignoreRevsFile", ""),
    ("gpg.program", "false"),
    ("protocol.allow", "never"),
    ("safe.bareRepository", "explicit"),
    ("credential.helper", ""),
    ("trace2.normalTarget", "0"),
    ("trace2.perfTarget", "0"),
    ("trace2.eventTarget", "0"),
];

/// What a caller may set for git and is left: a hook before a commit of single files has an index of its own, and where the
/// configuration of user and system is theirs to say.
const KEPT: &[&str] = &["GIT_INDEX_FILE", "GIT_CONFIG_GLOBAL", "GIT_CONFIG_SYSTEM", "GIT_CONFIG_NOSYSTEM"];

/// Configuration beyond [`SETTINGS`] that one repository makes necessary.
#[derive(Debug, Clone, Default)]
pub(super) struct Quiet {
    extra: Vec<(OsString, OsString)>,
}

impl Quiet {
    /// Asks git which programs and files the configuration of a repository names, to switch them off.
    pub(super) fn of(git: &Git) -> Result<Quiet, GitError> {
        const DOING: &str = "read its configuration";
        let listed = succeeded(DOING, git.output(&["config", "--list", "--show-scope", "-z"], None)?)?;
        let mut drivers = BTreeSet::new();
        let mut is_foreign_ignore_list = false;
        // Scope, key and value: the scope ends with a zero byte, the key with a line feed.
        let mut words = listed.split(|byte| *byte == 0);
        while let (Some(scope), Some(entry)) = (words.next(), words.next()) {
            let entry = String::from_utf8_lossy(entry);
            let key = entry.split('\n').next().unwrap_or_default();
            if let Some((name, _)) = key.strip_prefix("filter.").and_then(|rest| rest.rsplit_once('.')) {
                drivers.insert(name.to_string());
            }
            is_foreign_ignore_list |= key == "core.excludesfile" && matches!(scope, b"local" | b"worktree");
        }
        let mut extra: Vec<(OsString, OsString)> = Vec::new();
        for name in drivers {
            for (variable, value) in [("clean", ""), ("smudge", ""), ("process", ""), ("required", "false")] {
                extra.push((format!("filter.{name}.{variable}").into(), value.into()));
            }
        }
        if is_foreign_ignore_list {
            extra.push(("core.excludesFile".into(), own_ignore_list(git)));
        }
        Ok(Quiet { extra })
    }

    /// git, ready for its arguments.
    pub(super) fn command(&self) -> Command {
        let mut command = Command::new("git");
        let variables = std::env::vars_os().map(|(name, _)| name);
        for name in variables.filter(|name| name.as_encoded_bytes().starts_with(b"GIT_")) {
            if !KEPT.iter().any(|kept| name == *kept) {
                command.env_remove(name);
            }
        }
        let fixed = SETTINGS.iter().map(|(key, value)| (OsString::from(key), OsString::from(value)));
        let mut count = 0_usize;
        for (key, value) in fixed.chain(self.extra.iter().cloned()) {
            command.env(format!("GIT_CONFIG_KEY_{count}"), key).env(format!("GIT_CONFIG_VALUE_{count}"), value);
            count += 1;
        }
        command.env("GIT_CONFIG_COUNT", count.to_string());
        // An empty list of protocols allows none, whatever a repository says.
        command.env("GIT_ALLOW_PROTOCOL", "").env("GIT_NO_LAZY_FETCH", "1").env("GIT_TERMINAL_PROMPT", "0");
        command.env("LC_ALL", "C");
        command
    }
}

/// The ignore list of the user, which the repository's own choice must not replace.
fn own_ignore_list(git: &Git) -> OsString {
    let configured = git.output(&["config", "--global", "--type=path", "--get", "core.excludesFile"], None);
    let configured = configured.ok().filter(|output| output.status.success());
    if let Some(output) = configured {
        let path = output.stdout.strip_suffix(b"\n").unwrap_or(&output.stdout);
        return crate::files::path_from_bytes(path).into_os_string();
    }
    let set = |name: &str| std::env::var_os(name).filter(|value| !value.is_empty()).map(std::path::PathBuf::from);
    let base = set("XDG_CONFIG_HOME").or_else(|| Some(set("HOME")?.join(".config")));
    base.map_or_else(|| "/dev/null".into(), |base| base.join("git/ignore").into_os_string())
}
