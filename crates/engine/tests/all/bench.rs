//! Settings, and texts to sift and fix under them.

use std::sync::Arc;

use sieve_engine::elsewhere::Elsewhere;
use sieve_engine::fix::fix_text;
use sieve_engine::project::Project;
use sieve_engine::settings::{Effective, Overrides, SettingsTree};
use sieve_engine::sift::{Subject, Wants, sift_text};
use sieve_rules::RuleId;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// The settings of an empty folder.
pub struct Bench {
    folder: tempfile::TempDir,
    settings: Arc<Effective>,
    elsewhere: Elsewhere,
    project: Project,
}

impl Bench {
    /// Settings with overrides.
    pub fn new(overrides: Overrides) -> Bench {
        let folder = tempfile::tempdir().expect("a temporary folder");
        let project = Project { folder: folder.path().to_path_buf(), root: folder.path().to_path_buf() };
        let tree = SettingsTree::new(folder.path(), None, overrides).expect("no settings are right settings");
        let settings = tree.for_folder(folder.path()).expect("no settings are right settings");
        Bench { folder, settings, elsewhere: Elsewhere::default(), project }
    }

    /// Hands out a subject for a text.
    pub fn with_subject<T>(&self, work: impl FnOnce(&Subject<'_>) -> T) -> T {
        let path = self.folder.path().join("example.py");
        work(&Subject {
            shown: Arc::from("example.py"),
            language: Language::Python,
            settings: &self.settings,
            path: &path,
            elsewhere: &self.elsewhere,
            project: &self.project,
        })
    }

    /// The places that a rule reports.
    pub fn places(&self, id: RuleId, code: &str) -> Vec<String> {
        let text = Text::new(code.to_string());
        let outcome = self.with_subject(|subject| sift_text(&text, subject, Wants::default(), sieve_engine::today()));
        let own = outcome.findings.iter().filter(|finding| finding.rule == id && finding.held.is_none());
        own.map(|finding| format!("{}:{}", finding.start.line, finding.start.column)).collect()
    }

    /// The text with its exact fixes.
    pub fn fixed(&self, code: &str) -> String {
        let text = Text::new(code.to_string());
        self.with_subject(|subject| fix_text(&text, subject, sieve_engine::today(), false, &|_| {})).source
    }
}
