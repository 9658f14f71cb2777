//! A code base in a temporary folder, and requests over it.

use std::path::{Path, PathBuf};
use std::sync::Arc;

use sieve_engine::baseline::Baseline;
use sieve_engine::outcome::Outcome;
use sieve_engine::project::Project;
use sieve_engine::run::{Request, Unwatched, Wants, sift};
use sieve_engine::settings::{Effective, Overrides, SettingsError, SettingsTree};

/// Files below a root of their own.
pub struct Folder {
    folder: tempfile::TempDir,
}

impl Folder {
    /// A folder of these files.
    pub fn with(files: &[(&str, &str)]) -> Folder {
        let folder = Folder { folder: tempfile::tempdir().expect("a temporary folder") };
        std::fs::create_dir(folder.path(".git")).expect("a folder");
        for (name, text) in files {
            folder.write(name, text);
        }
        folder
    }

    pub fn root(&self) -> &Path {
        self.folder.path()
    }

    pub fn path(&self, name: &str) -> PathBuf {
        self.folder.path().join(name)
    }

    pub fn write(&self, name: &str, text: impl AsRef<[u8]>) {
        let path = self.path(name);
        std::fs::create_dir_all(path.parent().expect("a parent")).expect("a folder");
        std::fs::write(path, text).expect("a file");
    }

    pub fn project(&self) -> Project {
        Project::at(self.root(), self.root())
    }

    pub fn settings(&self, overrides: Overrides) -> SettingsTree {
        SettingsTree::new(&self.project(), None, overrides).expect("right settings")
    }

    /// The settings in force for a file, or what is wrong with them.
    pub fn settings_for(&self, name: &str) -> Result<Arc<Effective>, SettingsError> {
        SettingsTree::new(&self.project(), None, Overrides::default())?.for_file(&self.path(name))
    }

    /// What is wrong with the settings for a file.
    pub fn wrong_settings(&self, name: &str) -> SettingsError {
        self.settings_for(name).expect_err("refused")
    }

    /// Sifts some paths, or all.
    pub fn sift(&self, paths: &[&str], overrides: Overrides, cache: bool) -> Outcome {
        let paths: Vec<PathBuf> = paths.iter().map(|name| self.path(name)).collect();
        sifted(&self.project(), &paths, overrides, cache, 2)
    }
}

/// Sifts some paths of a code base, or all, on so many threads.
pub fn sifted(project: &Project, paths: &[PathBuf], overrides: Overrides, cache: bool, threads: usize) -> Outcome {
    let settings = SettingsTree::new(project, None, overrides).expect("right settings");
    let baseline = Baseline::find(project).expect("a right baseline");
    let request = Request {
        project,
        settings: &settings,
        paths,
        baseline: baseline.as_ref(),
        only_changes: None,
        shared: None,
        wants: Wants { identities: true, ..Wants::NONE },
        cache,
        today: sieve_engine::today(),
        threads: Some(threads),
        progress: &Unwatched,
    };
    sift(&request).expect("right settings").outcome
}

/// Findings as `path:line:column rule`, what holds them back after.
pub fn listed(outcome: &Outcome) -> Vec<String> {
    let shown = |finding: &sieve_engine::outcome::Finding| {
        let rule = sieve_rules::catalogue::rule(finding.rule).name;
        let held = finding.held.as_ref().map_or(String::new(), |held| format!(" ({})", held.word()));
        format!("{}:{}:{} {rule}{held}", finding.path, finding.start.line, finding.start.column)
    };
    outcome.findings.iter().map(shown).collect()
}
