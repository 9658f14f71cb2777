//! What the baseline still owes: entries that are gone, and budgets that are kept or not.

use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

use sieve_rules::{Level, RuleId};

use super::Request;
use crate::hold::baseline::{Baseline, Entry, Matching, is_missing};
use crate::outcome::{BudgetNote, Outcome};
use crate::settings::SettingsError;
use crate::workspace::discover::Candidate;

/// What tells which entries are known to be paid off.
pub(super) struct Debt<'d> {
    pub(super) request: &'d Request<'d>,
    pub(super) baseline: &'d Baseline,
    pub(super) files: &'d [Candidate],
    pub(super) outcome: &'d Outcome,
    /// Files with syntax faults, by their shown paths.
    pub(super) broken: &'d BTreeSet<Arc<str>>,
}

impl Debt<'_> {
    /// The entries that are known to hold nothing any more: their files were sifted whole and their rules could decide, or their
    /// files are no longer there. What was not seen this time is not known.
    pub(super) fn gone_entries(&self, matching: &Matching<'_>) -> Vec<Entry> {
        let entry_path = |shown: &str| self.baseline.entry_path(self.request.project, shown);
        let settings: BTreeMap<&str, &Candidate> = self.files.iter().map(|file| (&*file.shown, file)).collect();
        let sifted: BTreeMap<String, &str> =
            self.outcome.sifted.iter().map(|shown| (entry_path(shown), &**shown)).collect();
        let undecided: BTreeSet<(&str, RuleId)> =
            self.outcome.unsure.iter().map(|place| (&*place.path, place.rule)).collect();
        let renamed = self.renamed(matching, &sifted);
        // Whether a file is there is asked once, however many entries it has.
        let mut missing: BTreeMap<&str, bool> = BTreeMap::new();
        let mut gone = Vec::new();
        for entry in matching.free() {
            let known = match sifted.get(&entry.path) {
                Some(shown) => {
                    let rule = self.request.settings.rule_set().named(&entry.rule);
                    let is_on = |rule| settings.get(shown).is_some_and(|file| file.settings.level(rule) != Level::Off);
                    let decided = |rule| is_on(rule) && !undecided.contains(&(*shown, rule));
                    !self.broken.contains(*shown) && rule.is_none_or(decided)
                }
                // A file that is neither sifted nor there may have been renamed and not sifted.
                None if self.request.only_changes.is_some() => false,
                None => {
                    let path = self.baseline.folder().join(&entry.path);
                    *missing.entry(&entry.path).or_insert_with(|| is_missing(&*self.request.project.files, &path))
                        && !renamed.contains(&*entry.path)
                }
            };
            if known {
                gone.push(entry.clone());
            }
        }
        gone
    }

    /// Files that are no longer there, but seem to go on under another name: an entry followed its finding there, or a file
    /// without entries has their name in another folder. Their entries may be for rules that are off in this run.
    fn renamed(&self, matching: &Matching<'_>, sifted: &BTreeMap<String, &str>) -> BTreeSet<String> {
        let paths: BTreeSet<&str> = self.baseline.entries.iter().map(|entry| entry.path.as_str()).collect();
        let name_of = |path: &str| path.rsplit('/').next().unwrap_or(path).to_string();
        let new: BTreeSet<String> =
            sifted.keys().filter(|path| !paths.contains(path.as_str())).map(|path| name_of(path)).collect();
        let followed = matching
            .moved()
            .iter()
            .filter(|moved| moved.entry.path != moved.path)
            .map(|moved| moved.entry.path.as_str());
        let same_name = paths.iter().copied().filter(|path| new.contains(&name_of(path)));
        let all_on = self.request.settings.for_folder(self.baseline.folder());
        let is_off = |entry: &Entry| {
            self.request
                .settings
                .rule_set()
                .named(&entry.rule)
                .is_some_and(|rule| all_on.as_ref().is_ok_and(|settings| settings.level(rule) == Level::Off))
        };
        let with_rules_off: BTreeSet<&str> =
            matching.free().filter(|entry| is_off(entry)).map(|entry| entry.path.as_str()).collect();
        followed.chain(same_name).filter(|path| with_rules_off.contains(path)).map(str::to_string).collect()
    }
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
        let used = baseline.count_for(budget, gone, request.settings.rule_set());
        let at = format!("{}:{}", request.project.shown(&budget.source.path), budget.source.line);
        let paths = budget.paths.as_ref().map_or(String::new(), |paths| paths.texts().join(" "));
        outcome.budgets.push(BudgetNote { at, paths, used, most: budget.most });
    }
    Ok(())
}
