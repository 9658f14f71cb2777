//! Joins entries to findings.
//!
//! Three passes, from the strictest on: the same file, surroundings and tokens; the same file and tokens in other surroundings
//! (the code was moved); the same surroundings and tokens in another file, where the entry's file is gone (it was renamed).

use std::collections::{HashMap, VecDeque};

use sieve_rules::catalogue;
use xxhash_rust::xxh3::xxh3_128;

use super::{Baseline, Entry, hold};
use crate::outcome::Finding;
use crate::project::Project;

/// Entries that are not joined to a finding yet.
#[derive(Debug)]
pub struct Matching<'b> {
    baseline: &'b Baseline,
    free: Vec<bool>,
    by_path: HashMap<&'b str, Vec<usize>>,
    moved: Vec<Moved>,
}

/// An entry whose finding stands elsewhere now: in other surroundings, or in a file of another name.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Moved {
    /// The entry.
    pub entry: Entry,
    /// The path that it would have if it were recorded now.
    pub path: String,
    /// The surroundings that it would have.
    pub within: String,
}

/// Whether the named things around a finding are part of what it is.
#[derive(Debug, Clone, Copy)]
enum Surroundings {
    Count,
    AreLeftAside,
}

/// A hash of rule, surroundings and code.
type Key = u128;

impl Surroundings {
    fn key(self, rule: &str, within: &str, code: &str) -> Key {
        let within = match self {
            Surroundings::Count => within,
            Surroundings::AreLeftAside => "",
        };
        xxh3_128([rule, within, code].join("\0").as_bytes())
    }
}

impl<'b> Matching<'b> {
    /// All entries are free.
    pub fn new(baseline: &'b Baseline) -> Matching<'b> {
        let mut by_path: HashMap<&str, Vec<usize>> = HashMap::new();
        for (index, entry) in baseline.entries.iter().enumerate() {
            by_path.entry(&entry.path).or_default().push(index);
        }
        Matching { baseline, free: vec![true; baseline.entries.len()], by_path, moved: Vec::new() }
    }

    /// Holds back findings of one file that the entries of that file know.
    pub fn match_file(&mut self, entry_path: &str, findings: &mut [Finding]) {
        let Some(entries) = self.by_path.get(entry_path).cloned() else { return };
        for surroundings in [Surroundings::Count, Surroundings::AreLeftAside] {
            let path = |_: &Finding| entry_path.to_string();
            self.join(&entries, findings.iter_mut(), surroundings, &path);
        }
    }

    /// Joins each finding that nothing holds back to the first free entry that equals it.
    fn join<'f>(
        &mut self,
        entries: &[usize],
        findings: impl Iterator<Item = &'f mut Finding>,
        surroundings: Surroundings,
        path_of: &dyn Fn(&Finding) -> String,
    ) {
        let baseline = self.baseline;
        let mut waiting: HashMap<Key, VecDeque<usize>> = HashMap::new();
        for index in entries.iter().copied().filter(|index| self.free[*index]) {
            let entry = &baseline.entries[index];
            waiting.entry(surroundings.key(&entry.rule, &entry.within, &entry.code)).or_default().push_back(index);
        }
        for finding in findings.filter(|finding| finding.held.is_none()) {
            let Some(identity) = &finding.identity else { continue };
            let key = surroundings.key(catalogue::rule(finding.rule).name, &identity.within, &identity.code);
            let Some(index) = waiting.get_mut(&key).and_then(VecDeque::pop_front) else { continue };
            self.free[index] = false;
            let entry = &baseline.entries[index];
            let path = path_of(finding);
            if entry.path != path || entry.within != identity.within {
                self.moved.push(Moved { entry: entry.clone(), path, within: identity.within.clone() });
            }
            hold(finding);
        }
    }

    /// Holds back findings that entries of files know that are no longer there: the files were renamed.
    pub fn match_renamed(&mut self, project: &Project, findings: &mut [Finding]) {
        let folder = self.baseline.folder().to_path_buf();
        let gone: Vec<usize> = self
            .by_path
            .iter()
            .filter(|(path, _)| !folder.join(path).exists())
            .flat_map(|(_, entries)| entries.iter().copied())
            .collect();
        if gone.iter().any(|index| self.free[*index]) {
            let mut gone = gone;
            gone.sort_unstable();
            // A file that has entries of its own keeps to them.
            let known: Vec<bool> = findings
                .iter()
                .map(|finding| self.by_path.contains_key(self.baseline.entry_path(project, &finding.path).as_str()))
                .collect();
            let moved = findings.iter_mut().zip(known).filter(|(_, known)| !known).map(|(finding, _)| finding);
            let baseline = self.baseline;
            let path = |finding: &Finding| baseline.entry_path(project, &finding.path);
            self.join(&gone, moved, Surroundings::Count, &path);
        }
    }

    /// Entries whose findings stand elsewhere now.
    pub fn moved(&self) -> &[Moved] {
        &self.moved
    }

    /// Entries that hold nothing any more: those of files that were sifted, and, with `gone_files`, of files that are no longer
    /// there. Whether a rule ran is for the caller to say.
    pub fn gone(&self, sifted: impl Fn(&str) -> bool, ran: impl Fn(&Entry) -> bool, gone_files: bool) -> Vec<Entry> {
        let folder = self.baseline.folder();
        let entries = self.baseline.entries.iter().zip(&self.free).filter(|(_, free)| **free).map(|(entry, _)| entry);
        entries
            .filter(|entry| ran(entry) && (sifted(&entry.path) || (gone_files && !folder.join(&entry.path).exists())))
            .cloned()
            .collect()
    }
}
