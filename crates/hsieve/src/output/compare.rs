//! A run compared with an earlier one, finding by finding.

use std::collections::{HashMap, VecDeque};
use std::sync::Arc;

use sieve_engine::outcome::{LeftOut, Outcome};

use super::earlier::{Earlier, EarlierFinding};

/// Whether an earlier run had a finding.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Since {
    /// It had not.
    New,
    /// It had, here or elsewhere in the file.
    Unchanged,
}

impl Since {
    /// The word for it, in text and in SARIF alike.
    pub fn word(self) -> &'static str {
        match self {
            Since::New => "new",
            Since::Unchanged => "unchanged",
        }
    }
}

/// What changed since an earlier run.
#[derive(Debug)]
pub struct Comparison {
    /// The earlier run.
    pub earlier: Earlier,
    /// For each finding of this run whether the earlier one had it; nothing for what is held back.
    since: Vec<Option<Since>>,
    /// What this run does not report any more.
    pub gone: Vec<EarlierFinding>,
}

impl Comparison {
    /// Compares findings by file and fingerprint: those that are alike in both are the same as often as both have them. What was in files
    /// that this run passed by is not gone; `is_passed_by` tells of a shown path that is not among those that it saw.
    pub fn of(outcome: &Outcome, earlier: Earlier, is_passed_by: impl Fn(&str) -> bool) -> Comparison {
        let mut known: HashMap<(&str, String), VecDeque<usize>> = HashMap::new();
        for (at, finding) in earlier.findings.iter().enumerate() {
            known.entry((&finding.path, finding.fingerprint.clone())).or_default().push_back(at);
        }
        let mut is_there = vec![false; earlier.findings.len()];
        let mut since = Vec::with_capacity(outcome.findings.len());
        for finding in &outcome.findings {
            since.push(finding.held.is_none().then(|| {
                let fingerprint = finding.fingerprint(&outcome.rules);
                match known.get_mut(&(&*finding.path, fingerprint)).and_then(VecDeque::pop_front) {
                    Some(at) => {
                        is_there[at] = true;
                        Since::Unchanged
                    }
                    None => Since::New,
                }
            }));
        }
        let is_seen = |path: &str| {
            let by_path = |(known, _): &(Arc<str>, LeftOut)| (**known).cmp(path);
            outcome.sifted.binary_search_by(|known| (**known).cmp(path)).is_ok()
                || outcome.left_out.binary_search_by(by_path).is_ok()
        };
        let is_gone = |finding: &EarlierFinding| is_seen(&finding.path) || !is_passed_by(&finding.path);
        let gone = earlier.findings.iter().zip(is_there).filter(|(finding, is_there)| !is_there && is_gone(finding));
        let gone = gone.map(|(finding, _)| finding.clone()).collect();
        Comparison { since, gone, earlier }
    }

    /// Whether the earlier run had the finding with this index.
    pub fn since(&self, index: usize) -> Option<Since> {
        self.since.get(index).copied().flatten()
    }

    /// How many findings are new, and how many are unchanged.
    pub fn counts(&self) -> (usize, usize) {
        let count = |wanted| self.since.iter().filter(|since| **since == Some(wanted)).count();
        (count(Since::New), count(Since::Unchanged))
    }
}
