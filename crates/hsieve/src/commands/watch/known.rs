//! What is reported now, and what a change made of it.

use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

use sieve_engine::outcome::{Finding, Identity, Outcome};
use sieve_rules::{Level, RuleId, RuleSet};

/// What is reported now, file by file.
#[derive(Debug, Default)]
pub struct Known {
    files: BTreeMap<Arc<str>, Vec<Finding>>,
    /// The rules there are.
    pub rules: Arc<RuleSet>,
    /// How many files there are.
    pub sifted: usize,
    /// How many findings of each level there were at the start.
    start: [usize; Level::ALL.len()],
}

/// What changed of it.
#[derive(Debug, Default)]
pub struct Difference {
    /// Findings that were not there before.
    pub new: Vec<Finding>,
    /// Findings that are not there any more.
    pub gone: Vec<Finding>,
}

impl Difference {
    /// Whether nothing changed.
    pub fn is_empty(&self) -> bool {
        self.new.is_empty() && self.gone.is_empty()
    }

    /// The files that it is in.
    pub fn paths(&self) -> BTreeSet<&str> {
        self.new.iter().chain(&self.gone).map(|finding| &*finding.path).collect()
    }

    /// What differs between the findings of a file before and now. A finding that only moved is the same.
    fn add(&mut self, before: &[Finding], now: &[Finding]) {
        let mut left: BTreeMap<Key<'_>, Vec<&Finding>> = BTreeMap::new();
        before.iter().for_each(|finding| left.entry(key(finding)).or_default().push(finding));
        for finding in now {
            match left.get_mut(&key(finding)).filter(|same| !same.is_empty()) {
                Some(same) => drop(same.remove(0)),
                None => self.new.push(finding.clone()),
            }
        }
        let mut gone: Vec<Finding> = left.into_values().flatten().cloned().collect();
        gone.sort_by_key(|finding| (finding.start, finding.rule));
        self.gone.extend(gone);
    }
}

type Key<'k> = (RuleId, Option<&'k Identity>, &'k str);

fn key(finding: &Finding) -> Key<'_> {
    (finding.rule, finding.identity.as_deref(), &finding.message)
}

fn found_in<'f>(files: &'f BTreeMap<Arc<str>, Vec<Finding>>, path: &str) -> &'f [Finding] {
    files.get(path).map_or(&[], Vec::as_slice)
}

impl Known {
    /// What is reported at the start.
    pub fn begin(outcome: Outcome) -> Known {
        let mut known = Known::default();
        known.take(outcome);
        known.start = known.counts();
        known
    }

    /// The findings of a file.
    pub fn of_file(&self, path: &str) -> &[Finding] {
        found_in(&self.files, path)
    }

    /// The files that have findings, with these.
    pub fn files(&self) -> &BTreeMap<Arc<str>, Vec<Finding>> {
        &self.files
    }

    /// How many findings of each level there are.
    fn counts(&self) -> [usize; Level::ALL.len()] {
        let mut counts = [0; Level::ALL.len()];
        self.files.values().flatten().for_each(|finding| counts[finding.level as usize] += 1);
        counts
    }

    /// How many findings of a level there are, and were at the start.
    pub fn of_level(&self, level: Level) -> (usize, usize) {
        (self.counts()[level as usize], self.start[level as usize])
    }

    /// How many findings there were at the start.
    pub fn count_at_start(&self) -> usize {
        self.start.iter().sum()
    }

    /// Takes a whole outcome over.
    pub fn take(&mut self, outcome: Outcome) -> Difference {
        let mut files: BTreeMap<Arc<str>, Vec<Finding>> = BTreeMap::new();
        for finding in outcome.findings.into_iter().filter(|finding| finding.held.is_none()) {
            files.entry(Arc::clone(&finding.path)).or_default().push(finding);
        }
        (self.rules, self.sifted) = (outcome.rules, outcome.files);
        let before = std::mem::replace(&mut self.files, files);
        let mut difference = Difference::default();
        let paths: BTreeSet<&Arc<str>> = before.keys().chain(self.files.keys()).collect();
        for path in paths {
            difference.add(found_in(&before, path), found_in(&self.files, path));
        }
        difference
    }

    /// Takes over what was found in one file alone. What only a look at all files can find stays as it was.
    pub fn take_file(&mut self, path: &str, outcome: Outcome) -> Difference {
        let over_files = |finding: &Finding| outcome.rules.rule(finding.rule).goes_over_files();
        let is_own = |finding: &Finding| *finding.path == *path && finding.held.is_none() && !over_files(finding);
        let before = self.files.remove(path).unwrap_or_default();
        let kept = before.iter().filter(|finding| over_files(finding)).cloned();
        let now: Vec<Finding> =
            outcome.findings.iter().filter(|finding| is_own(finding)).cloned().chain(kept).collect();
        let mut difference = Difference::default();
        difference.add(&before, &now);
        if !now.is_empty() {
            self.files.insert(path.into(), now);
        }
        difference
    }

    /// How many findings there are.
    pub fn count(&self) -> usize {
        self.files.values().map(Vec::len).sum()
    }
}
