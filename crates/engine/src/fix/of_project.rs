//! Fixes in settings files and in the baseline, which are no sources.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use sieve_rules::{Edit, RuleSet};

use super::{FixedFile, FixedText, Which, apply_edits};
use crate::files::{self, FileError};
use crate::outcome::Finding;
use crate::run::Request;
use crate::run::upkeep::project_findings;
use crate::settings::{SettingsError, SettingsFile, split_mark};

/// The settings files and the baseline with some of their fixes.
pub(crate) fn plan(
    request: &Request<'_>,
    which: Which<'_>,
) -> Result<Vec<Result<FixedFile, FileError>>, SettingsError> {
    let findings = project_findings(request)?;
    let mut by_path: BTreeMap<Arc<str>, Vec<&Finding>> = BTreeMap::new();
    for finding in findings.iter().filter(|finding| which.edits(finding).is_some()) {
        by_path.entry(Arc::clone(&finding.path)).or_default().push(finding);
    }
    Ok(by_path
        .into_iter()
        .filter_map(|(shown, findings)| fixed(request, shown, which, &findings).transpose())
        .collect())
}

fn fixed(
    request: &Request<'_>,
    shown: Arc<str>,
    which: Which<'_>,
    findings: &[&Finding],
) -> Result<Option<FixedFile>, FileError> {
    let path = request.project.path_of(&shown);
    let before = files::read(&path).map_err(|error| FileError { path: PathBuf::from(&*shown), ..error })?;
    let mut fixed = FixedText::default();
    for finding in findings {
        *fixed.applied.entry(finding.rule).or_insert(0) += 1;
    }
    let after = match request.baseline.filter(|baseline| baseline.path == path) {
        // Its lines are sorted, and names are a part of the order.
        Some(baseline) => Some(baseline.bytes()),
        None => settings_with(&path, &before, which, findings, request.settings.rule_set()),
    };
    Ok(after.map(|after| FixedFile { path, shown, before, after, fixed, moved_to: None }))
}

/// A settings file with the fixes of its findings; nothing if it would not be read the same way.
fn settings_with(
    path: &Path,
    before: &[u8],
    which: Which<'_>,
    findings: &[&Finding],
    rules: &RuleSet,
) -> Option<Vec<u8>> {
    let (mark, text) = split_mark(std::str::from_utf8(before).ok()?);
    let edits: Vec<&Edit> = findings.iter().filter_map(|finding| which.edits(finding)).flatten().collect();
    let after = apply_edits(text, &edits);
    SettingsFile::read(path, &after, rules).ok()?;
    Some(format!("{mark}{after}").into_bytes())
}
