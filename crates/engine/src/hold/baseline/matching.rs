//! Joins entries to findings.
//!
//! Four passes, from the strictest on: the same file, surroundings and tokens; the same file and tokens, where the surroundings of
//! the entry are no longer in the file (the function was renamed); the same surroundings and tokens in another file, where the
//! entry's file is gone (it was renamed); the same, where only the surroundings are gone from the entry's file (the function
//! went to another file). So new code never takes the entry of code that is still there.

use std::collections::{HashMap, VecDeque};
use std::io::ErrorKind;
use std::path::Path;

use sieve_rules::RuleSet;
use xxhash_rust::xxh3::xxh3_128;

use super::{Baseline, Entry, Scopes, hold};
use crate::files::Files;
use crate::outcome::Finding;
use crate::project::Project;

/// Entries that are not joined to a finding yet.
#[derive(Debug)]
pub struct Matching<'b> {
    rules: &'b RuleSet,
    baseline: &'b Baseline,
    free: Vec<bool>,
    by_path: HashMap<&'b str, Vec<usize>>,
    moved: Vec<Moved>,
    /// Entries whose surroundings are gone from their file.
    homeless: Vec<usize>,
}

/// An entry whose finding is elsewhere now: in other surroundings, or in a file of another name.
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
    pub fn new(baseline: &'b Baseline, rules: &'b RuleSet) -> Matching<'b> {
        let mut by_path: HashMap<&str, Vec<usize>> = HashMap::new();
        for (index, entry) in baseline.entries.iter().enumerate() {
            by_path.entry(&entry.path).or_default().push(index);
        }
        Matching {
            rules,
            baseline,
            free: vec![true; baseline.entries.len()],
            by_path,
            moved: Vec::new(),
            homeless: Vec::new(),
        }
    }

    /// Holds back findings of one file that the entries of that file know. `scopes` are the named things in the file; where they
    /// are not known, an entry may follow its tokens to any place in the file.
    pub fn match_file(&mut self, entry_path: &str, findings: &mut [Finding], scopes: Option<&Scopes>) {
        let Some(entries) = self.by_path.get(entry_path).cloned() else { return };
        let path = |_: &Finding| entry_path.to_string();
        self.join(&entries, findings.iter_mut(), Surroundings::Count, &path);
        let baseline = self.baseline;
        let is_gone = |index: &usize| scopes.is_none_or(|scopes| !scopes.hold(&baseline.entries[*index].within));
        let without_place: Vec<usize> =
            entries.iter().copied().filter(|index| self.free[*index]).filter(is_gone).collect();
        self.join(&without_place, findings.iter_mut(), Surroundings::AreLeftAside, &path);
        if scopes.is_some() {
            self.homeless.extend(without_place.iter().filter(|index| self.free[**index]));
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
            let key = surroundings.key(self.rules.name(finding.rule), &identity.within, &identity.code);
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

    /// Holds back findings that entries know whose files, or whose functions, went elsewhere. To be called when all files are
    /// matched.
    pub fn match_elsewhere(&mut self, project: &Project, findings: &mut [Finding]) {
        let baseline = self.baseline;
        let path = |finding: &Finding| baseline.entry_path(project, &finding.path);
        let folder = baseline.folder();
        let is_gone = |path: &str| is_missing(&*project.files, &folder.join(path));
        let paths = self
            .by_path
            .iter()
            .filter(|(path, entries)| entries.iter().any(|index| self.free[*index]) && is_gone(path));
        let mut gone: Vec<usize> = paths.flat_map(|(_, entries)| entries.iter().copied()).collect();
        gone.sort_unstable();
        if !gone.is_empty() {
            // A file that has entries of its own is no other one under a new name.
            let is_new: Vec<bool> =
                findings.iter().map(|finding| !self.by_path.contains_key(path(finding).as_str())).collect();
            let of_new = findings.iter_mut().zip(is_new).filter(|(_, is_new)| *is_new).map(|(finding, _)| finding);
            self.join(&gone, of_new, Surroundings::Count, &path);
        }
        let homeless = std::mem::take(&mut self.homeless);
        if !homeless.is_empty() {
            self.join(&homeless, findings.iter_mut(), Surroundings::Count, &path);
        }
    }

    /// Entries whose findings are elsewhere now.
    pub fn moved(&self) -> &[Moved] {
        &self.moved
    }

    /// Entries that no finding was joined to.
    pub fn free(&self) -> impl Iterator<Item = &'b Entry> {
        self.baseline.entries.iter().zip(&self.free).filter(|(_, free)| **free).map(|(entry, _)| entry)
    }
}

/// Whether there is certainly no such file: a folder that cannot be read may still hold it.
pub(crate) fn is_missing(files: &dyn Files, path: &Path) -> bool {
    let result = files.kind(path);
    result.is_err_and(|error| matches!(error.kind(), ErrorKind::NotFound | ErrorKind::NotADirectory))
}
