//! Settings, and strings to sift and fix under them.

use std::sync::Arc;

use sieve_engine::Index;
use sieve_engine::fix::{apply_edits, fix_text};
use sieve_engine::outcome::Finding;
use sieve_engine::project::Project;
use sieve_engine::run::{Request, Subject, Unwatched, Wants, sift, sift_text};
use sieve_engine::settings::{Effective, Overrides, SettingsTree};
use sieve_rules::catalogue::history::{self, CURRENT, Change, History, Release, What};
use sieve_rules::{Mesh, RuleId};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

/// The settings of an empty folder.
pub struct Bench {
    folder: tempfile::TempDir,
    settings: Arc<Effective>,
    index: Index,
    project: Project,
}

/// A history in which `unused-import` was called `needless-import` once, as the example of `renamed-rule` has it.
fn history_with_a_rename() {
    let renamed = What::Renamed { from: "needless-import".into(), to: "unused-import".into() };
    let changes = vec![Change { release: CURRENT, what: renamed }];
    history::simulate(History { oldest: Release::new(0, 0), changes });
}

impl Bench {
    /// Settings with overrides.
    pub fn new(overrides: Overrides) -> Bench {
        history_with_a_rename();
        let folder = tempfile::tempdir().expect("a temporary folder");
        let project = Project::at(folder.path(), folder.path());
        let tree = SettingsTree::new(&project, None, overrides).expect("no settings are right settings");
        let settings = tree.for_folder(folder.path()).expect("no settings are right settings");
        Bench { folder, settings, index: Index::default(), project }
    }

    /// Exports a subject for a text.
    pub fn with_subject<T>(&self, work: impl FnOnce(&Subject<'_>) -> T) -> T {
        self.with_subject_in(Language::Python, work)
    }

    /// Exports a subject for a text in a language.
    pub fn with_subject_in<T>(&self, language: Language, work: impl FnOnce(&Subject<'_>) -> T) -> T {
        let name = format!("example.{}", language.spec().extensions[0]);
        let path = self.folder.path().join(&name);
        work(&Subject {
            shown: &Arc::from(name),
            language,
            settings: &self.settings,
            path: &path,
            index: &self.index,
            project: &self.project,
            asks_others: true,
            is_alone: false,
        })
    }

    /// The places that a rule reports.
    pub fn places(&self, id: RuleId, language: Language, code: &str) -> Vec<String> {
        let text = Text::new(code.to_string());
        let outcome = self
            .with_subject_in(language, |subject| sift_text(&text, subject, Wants::default(), sieve_engine::today()));
        let own = outcome.findings.iter().filter(|finding| finding.rule == id && finding.held.is_none());
        own.map(|finding| format!("{}:{}", finding.start.line, finding.start.column)).collect()
    }

    /// The places that a rule reports in a settings file beside a file of a folder `booking`.
    pub fn places_in_settings(id: RuleId, settings: &str) -> Vec<String> {
        let folder = tempfile::tempdir().expect("a temporary folder");
        let root = folder.path().to_path_buf();
        std::fs::create_dir(root.join("booking")).expect("a folder");
        std::fs::write(root.join("booking/fares.py"), "TIDE = 3\n").expect("a file");
        std::fs::write(root.join("sieve.toml"), settings).expect("a file");
        let own = Bench::found_below(root, id);
        own.into_iter().map(|finding| format!("{}:{}", finding.start.line, finding.start.column)).collect()
    }

    /// The lines of a list of paths at whose files a rule reports something.
    pub fn places_in_paths(id: RuleId, listing: &str) -> Vec<String> {
        let folder = tempfile::tempdir().expect("a temporary folder");
        for name in listing.lines() {
            let path = folder.path().join(name);
            std::fs::create_dir_all(path.parent().expect("a folder")).expect("a folder");
            std::fs::write(path, "TIDE = 3\n").expect("a file");
        }
        let own = Bench::found_below(folder.path().to_path_buf(), id);
        let line = |path: &str| listing.lines().position(|name| name == path).expect("a path of the list") + 1;
        own.into_iter().map(|finding| format!("{}:{}", line(&finding.path), finding.start.column)).collect()
    }

    /// The places that a rule reports in a code base: files, each below a line that is a comment with its name. Lines are counted
    /// through all of it.
    pub fn places_in_files(id: RuleId, code: &str) -> Vec<String> {
        let folder = tempfile::tempdir().expect("a temporary folder");
        let name_of = |line: &str| {
            let name = line.trim_start_matches(['#', '/']).trim();
            (line.starts_with(['#', '/']) && name.contains('.') && !name.contains(' ')).then(|| name.to_string())
        };
        let names: Vec<String> = code.lines().filter_map(name_of).collect();
        for name in &names {
            // Lines of other files are empty here, so that each line keeps its number.
            let mut own = false;
            let mut text = String::new();
            for line in code.lines() {
                match name_of(line) {
                    Some(begun) => own = begun == *name,
                    None if own => text += line,
                    None => {}
                }
                text.push('\n');
            }
            let path = folder.path().join(name);
            std::fs::create_dir_all(path.parent().expect("a folder")).expect("a folder");
            std::fs::write(path, text).expect("a file");
        }
        let own = Bench::found_below(folder.path().to_path_buf(), id);
        let mut places: Vec<_> = own.iter().map(|finding| (finding.start.line, finding.start.column)).collect();
        places.sort_unstable();
        places.into_iter().map(|(line, column)| format!("{line}:{column}")).collect()
    }

    /// What a rule reports in the files below a folder.
    fn found_below(root: std::path::PathBuf, id: RuleId) -> Vec<Finding> {
        let project = Project::at(&root, &root);
        let tree = SettingsTree::new(&project, None, Overrides { mesh: Some(Mesh::Fine), ..Overrides::default() })
            .expect("the settings are right");
        let request = Request {
            project: &project,
            settings: &tree,
            paths: &[],
            baseline: None,
            only_changes: None,
            shared: None,
            wants: Wants::default(),
            cache: false,
            today: sieve_engine::today(),
            threads: Some(1),
            progress: &Unwatched,
        };
        let outcome = sift(&request).expect("the settings are right").outcome;
        outcome.findings.into_iter().filter(|finding| finding.rule == id).collect()
    }

    /// The text with the fix of the rule's first finding.
    pub fn with_first_fix(&self, id: RuleId, language: Language, code: &str) -> Option<String> {
        let text = Text::new(code.to_string());
        let outcome = self
            .with_subject_in(language, |subject| sift_text(&text, subject, Wants::default(), sieve_engine::today()));
        let fix = outcome.findings.into_iter().find(|finding| finding.rule == id)?.fix?;
        let mut edits: Vec<_> = fix.edits.iter().collect();
        edits.sort_by_key(|edit| edit.span);
        Some(apply_edits(code, &edits))
    }

    /// The text with its exact fixes.
    pub fn fixed(&self, language: Language, code: &str) -> String {
        let text = Text::new(code.to_string());
        self.with_subject_in(language, |subject| fix_text(&text, subject, sieve_engine::today(), false, &|_, _| {}))
            .source
    }
}
