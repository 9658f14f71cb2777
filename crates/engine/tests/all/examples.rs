//! The examples of the rules that check waivers, and the fixes of all rules' examples.

use sieve_engine::settings::Overrides;
use sieve_rules::{Check, FixKind, Mesh, Rule, RuleId, Wrong, catalogue};
use sieve_syntax::language::Language;

use crate::bench::Bench;

fn wrongs(rule: &Rule) -> impl Iterator<Item = (Language, &'static Wrong)> {
    rule.examples.iter().flat_map(|examples| examples.wrong.iter().map(|wrong| (examples.language, wrong)))
}

fn rights(rule: &Rule) -> impl Iterator<Item = (Language, &'static str)> {
    rule.examples.iter().flat_map(|examples| examples.right.iter().map(|right| (examples.language, *right)))
}

#[test]
fn rules_of_upkeep_report_their_wrong_examples_and_nothing_else() {
    let bench = Bench::new(Overrides { mesh: Some(Mesh::Fine), ..Overrides::default() });
    let upkeep: Vec<(RuleId, &Rule)> =
        catalogue::rules().filter(|(_, rule)| matches!(rule.check, Check::Upkeep)).collect();
    assert!(upkeep.len() >= 4);
    for (id, rule) in upkeep {
        for (language, wrong) in wrongs(rule) {
            assert_eq!(bench.places(id, language, wrong.code), wrong.at, "{}:\n{}", rule.name, wrong.code);
        }
        for (language, right) in rights(rule) {
            assert_eq!(bench.places(id, language, right), Vec::<String>::new(), "{}:\n{right}", rule.name);
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
        for (language, wrong) in wrongs(rule) {
            let fixed = bench.fixed(language, wrong.code);
            if let Some(expected) = wrong.fixed {
                assert_eq!(fixed, expected, "{}:\n{}", rule.name, wrong.code);
            }
            assert_eq!(
                bench.fixed(language, &fixed),
                fixed,
                "{}: fixing twice changes it again:\n{}",
                rule.name,
                wrong.code
            );
        }
    }
}

#[test]
fn fixes_to_review_turn_wrong_examples_into_their_fixed_form() {
    for (id, rule) in catalogue::rules().filter(|(_, rule)| rule.fix == Some(FixKind::Review)) {
        let bench = Bench::new(Overrides { only: vec![id], ..Overrides::default() });
        assert!(wrongs(rule).any(|(_, wrong)| wrong.fixed.is_some()), "{} shows no fix", rule.name);
        for (language, wrong) in wrongs(rule) {
            let fixed = bench.with_first_fix(id, language, wrong.code);
            assert_eq!(fixed.as_deref(), wrong.fixed, "{}:\n{}", rule.name, wrong.code);
        }
    }
}

#[test]
fn rules_of_paths_report_their_wrong_examples_and_nothing_else() {
    let of_paths: Vec<(RuleId, &Rule)> =
        catalogue::rules().filter(|(_, rule)| matches!(rule.check, Check::Paths)).collect();
    assert!(!of_paths.is_empty());
    for (id, rule) in of_paths {
        for (_, wrong) in wrongs(rule) {
            assert_eq!(Bench::places_in_paths(id, wrong.code), wrong.at, "{}:\n{}", rule.name, wrong.code);
        }
        for (_, right) in rights(rule) {
            assert_eq!(Bench::places_in_paths(id, right), Vec::<String>::new(), "{}:\n{right}", rule.name);
        }
    }
}

#[test]
fn rules_of_settings_report_their_wrong_examples_and_nothing_else() {
    let of_settings: Vec<(RuleId, &Rule)> =
        catalogue::rules().filter(|(_, rule)| matches!(rule.check, Check::Settings)).collect();
    assert!(!of_settings.is_empty());
    for (id, rule) in of_settings {
        for (_, wrong) in wrongs(rule) {
            assert_eq!(Bench::places_in_settings(id, wrong.code), wrong.at, "{}:\n{}", rule.name, wrong.code);
        }
        for (_, right) in rights(rule) {
            assert_eq!(Bench::places_in_settings(id, right), Vec::<String>::new(), "{}:\n{right}", rule.name);
        }
    }
}

#[test]
fn rules_that_join_files_report_their_wrong_examples_and_nothing_else() {
    let joined: Vec<(RuleId, &Rule)> =
        catalogue::rules().filter(|(_, rule)| matches!(rule.check, Check::Joined(..) | Check::Schemas)).collect();
    assert!(!joined.is_empty());
    for (id, rule) in joined {
        for (_, wrong) in wrongs(rule) {
            assert_eq!(Bench::places_in_files(id, wrong.code), wrong.at, "{}:\n{}", rule.name, wrong.code);
        }
        for (_, right) in rights(rule) {
            assert_eq!(Bench::places_in_files(id, right), Vec::<String>::new(), "{}:\n{right}", rule.name);
        }
    }
}
