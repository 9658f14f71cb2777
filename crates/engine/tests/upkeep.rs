//! The examples of the rules that look at waivers, and the fixes of all rules' examples.

use std::sync::Arc;

use sieve_engine::elsewhere::Elsewhere;
use sieve_engine::fix::fix_text;
use sieve_engine::settings::{Effective, Overrides, SettingsTree};
use sieve_engine::sift::{Subject, Wants, sift_text};
use sieve_rules::{Check, FixKind, Mesh, Rule, RuleId, catalogue};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

struct Bench {
    folder: tempfile::TempDir,
    settings: Arc<Effective>,
    elsewhere: Elsewhere,
}

impl Bench {
    fn new(overrides: Overrides) -> Bench {
        let folder = tempfile::tempdir().expect("a temporary folder");
        let tree = SettingsTree::new(folder.path(), None, overrides).expect("no settings are right settings");
        let settings = tree.for_folder(folder.path()).expect("no settings are right settings");
        Bench { folder, settings, elsewhere: Elsewhere::default() }
    }

    fn with_subject<T>(&self, work: impl FnOnce(&Subject<'_>) -> T) -> T {
        let path = self.folder.path().join("example.py");
        work(&Subject {
            shown: Arc::from("example.py"),
            language: Language::Python,
            settings: &self.settings,
            path: &path,
            elsewhere: &self.elsewhere,
        })
    }

    fn places(&self, id: RuleId, code: &str) -> Vec<String> {
        let text = Text::new(code.to_string());
        let outcome = self.with_subject(|subject| sift_text(&text, subject, Wants::default(), sieve_engine::today()));
        let own = outcome.findings.iter().filter(|finding| finding.rule == id && finding.held.is_none());
        own.map(|finding| format!("{}:{}", finding.start.line, finding.start.column)).collect()
    }

    fn fixed(&self, code: &str) -> String {
        let text = Text::new(code.to_string());
        self.with_subject(|subject| fix_text(&text, subject, sieve_engine::today(), false, &|_| {})).source
    }
}

#[test]
fn rules_of_upkeep_report_their_wrong_examples_and_nothing_else() {
    let bench = Bench::new(Overrides { mesh: Some(Mesh::Fine), ..Overrides::default() });
    let upkeep: Vec<(RuleId, &Rule)> =
        catalogue::rules().filter(|(_, rule)| matches!(rule.check, Check::Upkeep)).collect();
    assert!(upkeep.len() >= 4);
    for (id, rule) in upkeep {
        for wrong in rule.wrong {
            assert_eq!(bench.places(id, wrong.code), wrong.at, "{}:\n{}", rule.name, wrong.code);
        }
        for right in rule.right {
            assert_eq!(bench.places(id, right), Vec::<String>::new(), "{}:\n{right}", rule.name);
        }
    }
}

#[test]
fn fixes_turn_wrong_examples_into_their_fixed_form() {
    for (id, rule) in catalogue::rules().filter(|(_, rule)| rule.fix == Some(FixKind::Exact)) {
        // A waiver is stale only where the rule that it is for would speak.
        let only =
            if matches!(rule.check, Check::Upkeep) { catalogue::rules().map(|(id, _)| id).collect() } else { vec![id] };
        let without = catalogue::rules().filter(|(_, rule)| rule.name == "final-newline").map(|(id, _)| id);
        let without = if rule.name == "final-newline" { Vec::new() } else { without.collect() };
        let bench = Bench::new(Overrides { only, without, ..Overrides::default() });
        for wrong in rule.wrong {
            let fixed = bench.fixed(wrong.code);
            if let Some(expected) = wrong.fixed {
                assert_eq!(fixed, expected, "{}:\n{}", rule.name, wrong.code);
            }
            assert_eq!(bench.fixed(&fixed), fixed, "{}: fixing twice changes it again:\n{}", rule.name, wrong.code);
        }
    }
}
