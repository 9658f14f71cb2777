//! Where imports lead, kept from one look at a code base to the next: it changes only when files come and go, and with settings.

use std::path::PathBuf;

use rustc_hash::{FxHashMap, FxHashSet};

use super::ModulesOf;
use crate::workspace::discover::is_code;

/// What is known of the modules that files name, in a code base that is looked at again and again.
#[derive(Debug, Default)]
pub(super) struct KnownModules {
    /// By the file that asked, from the root, and the name that it used.
    found: FxHashMap<String, FxHashMap<String, Known>>,
    /// Whether files were there when they last changed; nothing before a change, so that a single run keeps nothing.
    there: FxHashMap<PathBuf, bool>,
    /// Files that have changed since somebody asked.
    changed: FxHashSet<PathBuf>,
}

/// What is known of one module.
#[derive(Debug, Clone, Default)]
pub(super) struct Known {
    /// The file, once somebody has asked.
    pub(super) path: Option<Option<PathBuf>>,
    /// Whether there is certainly none, once somebody has asked.
    pub(super) is_missing: Option<bool>,
}

impl KnownModules {
    /// Notes that a file may have changed.
    pub(super) fn forget(&mut self, path: PathBuf) {
        self.changed.insert(path);
    }

    /// What is known of a module. The content of code has no say in where imports lead.
    pub(super) fn get(&mut self, modules: &ModulesOf<'_>, from: &str, module: &str) -> Known {
        for path in std::mem::take(&mut self.changed) {
            let is_there = modules.is_file(&path);
            let is_code = is_code(&path);
            if self.there.insert(path, is_there) != Some(is_there) || !is_code {
                self.found.clear();
            }
        }
        self.found.get(from).and_then(|found| found.get(module)).cloned().unwrap_or_default()
    }

    /// Keeps what was found out of a module.
    pub(super) fn note(&mut self, from: &str, module: &str, change: impl FnOnce(&mut Known)) {
        if !self.there.is_empty() {
            change(self.found.entry(from.to_string()).or_default().entry(module.to_string()).or_default());
        }
    }
}
