//! Moves settings to the names and defaults of the current release.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

use sieve_rules::catalogue::history::{CURRENT, Release};
use sieve_rules::{Edit, RuleSet};

use super::reader::split_mark;
use super::{EditError, Effective, SettingsTree, edit};
use crate::edits::apply_edits;
use crate::files;

impl SettingsTree {
    /// The settings files needed so far that name an earlier release, with the release.
    pub fn behind(&self) -> Vec<(PathBuf, Release)> {
        let files = self.files();
        let older = |release: &Release| *release < CURRENT;
        files
            .iter()
            .filter_map(|file| {
                let release = file.defaults.as_ref().map(|placed| placed.value).filter(older)?;
                Some((file.path.clone(), release))
            })
            .collect()
    }
}

/// A settings file's bytes with the current release as its `defaults`.
///
/// # Errors
/// When the file is wrong.
pub fn with_current_defaults(path: &Path, bytes: &[u8], rules: &RuleSet) -> Result<Vec<u8>, EditError> {
    let source = String::from_utf8_lossy(bytes);
    edit::set(path, &source, "defaults", &format!("\"{CURRENT}\""), rules).map(String::into_bytes)
}

/// The bytes of a settings file, for editing; empty where there is none yet.
///
/// # Errors
/// When it cannot be read.
pub fn source_of(path: &Path) -> Result<String, files::FileError> {
    match std::fs::exists(path) {
        Ok(false) => Ok(String::new()),
        _ => Ok(String::from_utf8_lossy(&files::read(path)?).into_owned()),
    }
}

/// Lowers the budgets of the baseline to what is used of each, in the order in which the settings have them. Says how many were
/// lowered.
///
/// # Errors
/// When a settings file cannot be read or written.
pub fn lower_budgets(settings: &Effective, used: &[u64]) -> Result<usize, files::FileError> {
    let mut edits: BTreeMap<&Path, Vec<Edit>> = BTreeMap::new();
    for (budget, used) in settings.budgets.iter().zip(used).filter(|(budget, used)| **used < budget.most) {
        edits.entry(&budget.source.path).or_default().push(Edit::replace(budget.most_span, used.to_string()));
    }
    let mut lowered = 0;
    for (path, edits) in edits {
        let source = source_of(path)?;
        let (mark, body) = split_mark(&source);
        let after = apply_edits(body, &edits.iter().collect::<Vec<_>>());
        files::write(path, format!("{mark}{after}").as_bytes())?;
        lowered += edits.len();
    }
    Ok(lowered)
}
