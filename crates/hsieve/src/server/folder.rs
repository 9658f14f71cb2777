//! One folder of the editor's workspace: what is open in it is looked at here, everything else in the background.

use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::mpsc::Sender;

use sieve_engine::Workspace;
use sieve_engine::baseline::Baseline;
use sieve_engine::outcome::{Finding, Outcome, UnsurePlace};
use sieve_engine::project::Project;
use sieve_engine::run::Wants;
use sieve_engine::settings::{Overrides, SettingsError};
use sieve_rules::RuleSet;

use super::Event;
use super::far::{Everything, Far};

/// What was found in a file.
#[derive(Debug, Default)]
pub struct Checked {
    /// Its findings, those held back included.
    pub findings: Vec<Finding>,
    /// The version of the text.
    pub version: i32,
    /// Places that could not be decided.
    pub unsure: Vec<UnsurePlace>,
    /// The rules there are.
    pub rules: Arc<RuleSet>,
}

/// A folder, and what is known of it.
pub struct Folder {
    /// Its path.
    pub path: PathBuf,
    /// What is near: the texts that are open.
    pub near: Workspace,
    /// What is far: everything.
    pub far: Far,
    /// What the last look at everything found.
    pub everything: Option<Everything>,
    /// What is wrong with its settings.
    pub fault: Option<SettingsError>,
}

impl Folder {
    /// A folder; what is found in the background comes as events.
    pub fn open(path: &Path, events: &Sender<Event>) -> Folder {
        let project = Project::around(path);
        let baseline = baseline_of(&project);
        let far = Far::start(&project, baseline.clone(), events.clone());
        // A long text is shared by them.
        let near = Workspace::new(project, Overrides::default(), baseline, Wants::IDENTITIES).on_threads(2);
        Folder { path: path.to_path_buf(), near, far, everything: None, fault: None }
    }

    /// A file has another text than on the disk.
    pub fn set_text(&mut self, path: &Path, bytes: Vec<u8>) {
        let bytes: Arc<[u8]> = bytes.into();
        self.near.set_overlay(path, Arc::clone(&bytes));
        self.far.set_text(path, bytes);
    }

    /// A file is as on the disk, where it may have changed.
    pub fn forget(&mut self, path: &Path) {
        self.near.forget(path);
        self.far.forget(path);
    }

    /// Reads the baseline again.
    pub fn reload_baseline(&mut self) {
        let baseline = baseline_of(self.near.project());
        self.near.set_baseline(baseline.clone());
        self.far.set_baseline(baseline);
    }

    /// What is in a version of a text, as far as it can be told without a look at all others.
    ///
    /// # Errors
    /// When settings are wrong.
    pub fn check(&mut self, path: &Path, version: i32, is_new: bool) -> Result<Checked, SettingsError> {
        // What has not changed itself is most likely what it was, whatever changed around it.
        let sifted = if is_new { self.near.outcome_now(path) } else { self.near.outcome_of(&[path.to_path_buf()]) };
        let outcome = sifted?.outcome;
        let shown = self.near.project().shown(path);
        let Outcome { findings, unsure, rules, .. } = outcome;
        let is_own = |finding: &Finding| *finding.path == *shown && !goes_over_files(&rules, finding);
        Ok(Checked { findings: findings.into_iter().filter(is_own).collect(), unsure, version, rules })
    }

    /// What the last look at everything found in a file.
    pub fn found_in(&self, path: &Path) -> &[Finding] {
        self.everything.as_ref().and_then(|everything| everything.findings.get(path)).map_or(&[], Vec::as_slice)
    }

    /// That of it which no look at the file alone can find.
    pub fn over_files(&self, path: &Path) -> Vec<Finding> {
        let Some(everything) = &self.everything else { return Vec::new() };
        let found = self.found_in(path).iter();
        found.filter(|finding| goes_over_files(&everything.rules, finding)).cloned().collect()
    }
}

fn goes_over_files(rules: &RuleSet, finding: &Finding) -> bool {
    rules.rule(finding.rule).goes_over_files()
}

/// A baseline that cannot be read counts as none: the command line says what is wrong with it.
fn baseline_of(project: &Project) -> Option<Baseline> {
    Baseline::find(project).ok().flatten()
}
