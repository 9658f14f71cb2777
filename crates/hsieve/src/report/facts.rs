//! What a report tells: the outcome of a run, sorted by where, what and who.

use std::collections::BTreeMap;

use sieve_engine::Date;
use sieve_engine::git::TrendPoint;
use sieve_engine::outcome::{Finding, Outcome, folder_of};
use sieve_engine::owners::Owners;
use sieve_engine::project::Project;
use sieve_rules::{Level, RuleId};

use super::record::Record;
use crate::output::Count;

/// Who owns what nobody is named for.
pub const NOBODY: &str = "nobody";

/// All that a report is made of.
pub struct Facts<'f> {
    /// What was found.
    pub outcome: &'f Outcome,
    /// The folders.
    pub project: &'f Project,
    /// The name of the code base: that of its folder.
    pub title: String,
    /// The day of the run.
    pub day: Date,
    /// The commit that is checked out.
    pub revision: Option<String>,
    /// Who owns which files.
    pub owners: Option<Owners>,
    /// The figures of earlier runs, the oldest first.
    pub records: Vec<Record>,
    /// The entries of the baseline over time.
    pub debt: Vec<TrendPoint>,
    /// The settings in force: names and values.
    pub settings: Vec<(String, String)>,
}

/// A folder, and what is in it.
#[derive(Debug, Clone)]
pub struct Folder {
    /// Its shown path.
    pub path: String,
    /// Its findings.
    pub count: Count,
    /// How many lines its files have, those of folders in it left aside.
    pub lines: usize,
}

impl Folder {
    /// Findings per 1000 lines.
    pub fn density(&self) -> f64 {
        if self.lines == 0 { 0.0 } else { self.count.total() as f64 * 1000.0 / self.lines as f64 }
    }
}

impl<'f> Facts<'f> {
    /// The owner of a file by its shown path.
    pub fn owner(&self, path: &str) -> String {
        let whole = self.project.path_of(path);
        let owner = self.owners.as_ref().and_then(|owners| owners.of_path(&whole));
        owner.unwrap_or(NOBODY).to_string()
    }

    /// The folders with files that were sifted, or with findings, by their paths.
    pub fn folders(&self) -> Vec<Folder> {
        let mut folders: BTreeMap<&str, Folder> = BTreeMap::new();
        let folder = |path: &str| Folder { path: path.to_string(), count: Count::default(), lines: 0 };
        for (path, sizes) in &self.outcome.sizes {
            folders.entry(path).or_insert_with(|| folder(path)).lines += sizes.lines();
        }
        for finding in self.outcome.caught() {
            let path = folder_of(&finding.path);
            folders.entry(path).or_insert_with(|| folder(path)).count.add(finding);
        }
        folders.into_values().collect()
    }

    /// The files with the most findings, at most so many.
    pub fn worst_files(&self, most: usize) -> Vec<(&'f str, Count)> {
        let mut files = self.counted(|finding| &*finding.path);
        files.sort_by_key(|(path, count)| (std::cmp::Reverse(count.total()), *path));
        files.truncate(most);
        files
    }

    /// The rules with findings, the most frequent first.
    pub fn rules(&self) -> Vec<(RuleId, Count)> {
        let mut rules = self.counted(|finding| finding.rule);
        rules.sort_by_key(|(rule, count)| (std::cmp::Reverse(count.total()), *rule));
        rules
    }

    /// The owners of files with findings, the most first.
    pub fn by_owner(&self) -> Vec<(String, Count)> {
        let mut owners: BTreeMap<String, Count> = BTreeMap::new();
        self.outcome.caught().for_each(|one| owners.entry(self.owner(&one.path)).or_default().add(one));
        let mut owners: Vec<(String, Count)> = owners.into_iter().collect();
        owners.sort_by_key(|(name, count)| (std::cmp::Reverse(count.total()), name.clone()));
        owners
    }

    fn counted<K: Ord>(&self, key: impl Fn(&'f Finding) -> K) -> Vec<(K, Count)> {
        let mut counts: BTreeMap<K, Count> = BTreeMap::new();
        self.outcome.caught().for_each(|finding| counts.entry(key(finding)).or_default().add(finding));
        counts.into_iter().collect()
    }

    /// The findings as work to assign: by owner, by rule (the serious ones first), by place.
    pub fn work(&self) -> Vec<Work<'f>> {
        let mut sorted: BTreeMap<(String, std::cmp::Reverse<Level>, &str), Vec<&'f Finding>> = BTreeMap::new();
        for finding in self.outcome.caught() {
            let rule = self.outcome.rules.name(finding.rule);
            let key = (self.owner(&finding.path), std::cmp::Reverse(finding.level), rule);
            sorted.entry(key).or_default().push(finding);
        }
        let piece = |((owner, level, _), findings): ((String, std::cmp::Reverse<Level>, &str), Vec<&'f Finding>)| {
            Work { owner, level: level.0, rule: findings[0].rule, findings }
        };
        sorted.into_iter().map(piece).collect()
    }
}

/// Findings of one rule in files of one owner.
pub struct Work<'f> {
    /// The owner.
    pub owner: String,
    /// The level of the findings.
    pub level: Level,
    /// The rule.
    pub rule: RuleId,
    /// The findings, by their places.
    pub findings: Vec<&'f Finding>,
}
