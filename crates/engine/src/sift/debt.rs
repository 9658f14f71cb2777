//! What the baseline still owes: entries that are gone, and budgets that are kept or not.

use std::collections::HashMap;

use sieve_rules::{Level, catalogue};

use super::Request;
use crate::baseline::{Baseline, Entry, Matching};
use crate::discover::Candidate;
use crate::outcome::{BudgetNote, Outcome};
use crate::settings::SettingsError;

/// The entries of files that were sifted, or that are no longer there, which hold nothing any more.
pub(super) fn gone_entries(
    request: &Request<'_>,
    baseline: &Baseline,
    matching: &Matching<'_>,
    files: &[Candidate],
) -> Vec<Entry> {
    let sifted: HashMap<String, &Candidate> =
        files.iter().map(|file| (baseline.entry_path(request.project, &file.shown), file)).collect();
    let any = files.first();
    // A rule that is off for a file, or set aside there, may have what the entry is for when it is switched on again.
    let ran = |entry: &Entry| {
        let file = sifted.get(&entry.path).copied().or(any);
        let is_on = |rule| file.is_some_and(|file| file.settings.level(rule) != Level::Off);
        catalogue::named(&entry.rule).is_none_or(is_on)
    };
    // An entry whose file is neither sifted nor there may belong to a file that was renamed and not sifted.
    let gone_files = request.only_changes.is_none();
    matching.gone(|path| sifted.contains_key(path), ran, gone_files)
}

/// Counts the entries that are left against the budgets.
pub(super) fn check_budgets(
    request: &Request<'_>,
    baseline: &Baseline,
    gone: &[Entry],
    outcome: &mut Outcome,
) -> Result<(), SettingsError> {
    let settings = request.settings.for_folder(baseline.folder())?;
    outcome.strict = settings.strict.value;
    for budget in &settings.budgets {
        let used = baseline.count_for(budget, gone);
        let at = format!("{}:{}", request.project.shown(&budget.source.path), budget.source.line);
        let paths = budget.paths.as_ref().map_or(String::new(), |paths| paths.texts().join(" "));
        outcome.budgets.push(BudgetNote { at, paths, used, most: budget.most });
    }
    Ok(())
}
