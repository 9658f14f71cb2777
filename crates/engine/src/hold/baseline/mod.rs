//! The baseline: findings of old code that no longer fail a run.
//!
//! An entry knows a finding by what it is: rule, file, the named things around it, the flagged tokens, and its ordinal among
//! equals. Moving code, indenting it anew or renaming its file keeps the entry; changing the flagged tokens frees it.

mod attributes;
mod entry;
mod identity;
mod matching;

pub use attributes::Attributes;
pub use entry::{BaselineError, Entry, UNION};
pub(crate) use identity::Identities;
pub use identity::Scopes;
pub(crate) use matching::is_missing;
pub use matching::{Matching, Moved};

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

use jiff::civil::Date;
use sieve_rules::RuleSet;
use sieve_syntax::text::Text;

use crate::files::{self, FileError};
use crate::outcome::{Finding, Held};
use crate::project::{Project, relative};
use crate::settings::Budget;

/// A larger baseline is refused.
const LARGEST: u64 = 512 << 20;

/// The name of a baseline file.
pub const FILE_NAME: &str = "sieve-baseline.jsonl";

/// A baseline as it was read.
#[derive(Debug, Clone)]
pub struct Baseline {
    /// The file; entries' paths are relative to its folder.
    pub path: PathBuf,
    /// Its entries, sorted.
    pub entries: Vec<Entry>,
    /// Its text.
    pub(crate) text: Text,
    /// Rules called by names of earlier releases.
    pub(crate) old_names: Vec<entry::OldName>,
}

/// Why a baseline cannot be used.
#[derive(Debug, thiserror::Error)]
pub enum ReadError {
    /// The file cannot be read.
    #[error(transparent)]
    File(#[from] FileError),
    /// Its content is not what this version writes.
    #[error(transparent)]
    Content(#[from] BaselineError),
}

impl Baseline {
    /// The path that a baseline of this project has, whether or not it is there.
    pub fn path_in(project: &Project) -> PathBuf {
        let there = project.folder.ancestors().take_while(|folder| folder.starts_with(&project.root));
        let nearest = there.map(|folder| folder.join(FILE_NAME)).find(|path| project.files.kind(path).is_ok());
        nearest.unwrap_or_else(|| project.root.join(FILE_NAME))
    }

    /// Reads the project's baseline, if it has one.
    ///
    /// # Errors
    /// When it cannot be read, is of another version, or is damaged.
    pub fn find(project: &Project) -> Result<Option<Baseline>, ReadError> {
        let path = Baseline::path_in(project);
        if project.files.kind(&path).is_err() {
            return Ok(None);
        }
        let bytes = project.files.read_within(&project.root, &path, LARGEST)?;
        let (entries, old_names) = entry::read_all(&path, &bytes)?;
        let text = Text::new(String::from_utf8(bytes).unwrap_or_default());
        Ok(Some(Baseline { path, entries, text, old_names }))
    }

    /// An empty baseline at a path.
    pub fn empty(path: PathBuf) -> Baseline {
        Baseline { path, entries: Vec::new(), text: Text::new(String::new()), old_names: Vec::new() }
    }

    /// The findings of one file, to recognise them in another version of it. Its path is taken as it is.
    pub(crate) fn of_file(path: &str, findings: &[Finding], rules: &RuleSet, today: Date) -> Baseline {
        let mut baseline = Baseline::empty(PathBuf::new());
        let identities = findings.iter().filter_map(|finding| Some((finding.rule, finding.identity.as_ref()?)));
        baseline.entries = identities
            .map(|(rule, identity)| Entry::new(rules.name(rule), path.to_string(), identity, today))
            .collect();
        entry::order(&mut baseline.entries);
        baseline
    }

    /// The folder that entries' paths start from.
    pub fn folder(&self) -> &Path {
        self.path.parent().unwrap_or(Path::new(""))
    }

    /// A shown path as entries have it.
    pub fn entry_path(&self, project: &Project, shown: &str) -> String {
        let whole = project.path_of(shown);
        relative(self.folder(), &whole).unwrap_or_else(|| shown.to_string())
    }

    /// How many entries count for a budget, those that are gone left out.
    pub fn count_for(&self, budget: &Budget, gone: &[Entry], rules: &RuleSet) -> u64 {
        let gone: BTreeSet<&Entry> = gone.iter().collect();
        let counts = |entry: &&Entry| {
            budget.counts(rules.named(&entry.rule), &self.folder().join(&entry.path)) && !gone.contains(entry)
        };
        self.entries.iter().filter(counts).count() as u64
    }

    /// Adds entries for findings that are reported; returns how many.
    pub fn add<'f>(
        &mut self,
        project: &Project,
        findings: impl Iterator<Item = &'f Finding>,
        rules: &RuleSet,
        today: Date,
    ) -> usize {
        let before = self.entries.len();
        for finding in findings.filter(|finding| finding.held.is_none()) {
            let Some(identity) = &finding.identity else { continue };
            let path = self.entry_path(project, &finding.path);
            self.entries.push(Entry::new(rules.name(finding.rule), path, identity, today));
        }
        entry::order(&mut self.entries);
        self.entries.len() - before
    }

    /// Drops entries that are gone, and moves others to where their findings are now; returns how many of each.
    pub fn trim(&mut self, gone: &[Entry], moved: &[Moved]) -> (usize, usize) {
        let gone: BTreeSet<&Entry> = gone.iter().collect();
        let moved: BTreeMap<&Entry, &Moved> = moved.iter().map(|moved| (&moved.entry, moved)).collect();
        let (before, mut followed) = (self.entries.len(), 0);
        self.entries.retain(|entry| !gone.contains(entry));
        for entry in &mut self.entries {
            if let Some(Moved { path, within, .. }) = moved.get(entry) {
                (entry.path, entry.within) = (path.clone(), within.clone());
                followed += 1;
            }
        }
        entry::order(&mut self.entries);
        (before - self.entries.len(), followed)
    }

    /// Writes it, atomically.
    ///
    /// # Errors
    /// When it cannot be written; the old one is then as it was.
    pub fn write(&self) -> Result<(), FileError> {
        files::write(&self.path, &self.bytes())
    }

    /// The first budget of which it uses more than there may be, and how much.
    pub fn overdrawn<'b>(&self, budgets: &'b [Budget], rules: &RuleSet) -> Option<(&'b Budget, u64)> {
        let used = budgets.iter().map(|budget| (budget, self.count_for(budget, &[], rules)));
        used.into_iter().find(|(budget, used)| used > &budget.most)
    }

    /// The file's content.
    pub fn bytes(&self) -> Vec<u8> {
        entry::write_all(&self.entries).into_bytes()
    }
}

/// Marks a finding as held back by the baseline.
fn hold(finding: &mut Finding) {
    finding.held = Some(Held::Baseline);
}
