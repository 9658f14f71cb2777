//! Which settings hold for a file: a small model of the nearest file, the last scope and the options of the command.

use std::collections::BTreeMap;

use proptest::prelude::*;
use sieve_engine::settings::Overrides;
use sieve_rules::{Level, Mesh, catalogue};

use crate::folder::Folder;

/// The folders that may have settings, from the root.
const FOLDERS: &[&str] = &["", "booking/", "booking/fares/"];

const LEVELS: &[(&str, Level)] =
    &[("off", Level::Off), ("note", Level::Note), ("warning", Level::Warning), ("error", Level::Error)];

/// What one settings file says about one rule.
#[derive(Debug, Clone)]
struct Said {
    level: Option<usize>,
    limit: Option<u32>,
    top: bool,
    scope: Option<usize>,
}

fn said() -> impl Strategy<Value = Option<Said>> {
    let one = (
        prop::option::of(0..LEVELS.len()),
        prop::option::of(1_u32..200),
        prop::bool::weighted(0.2),
        prop::option::weighted(0.3, 0..LEVELS.len()),
    );
    prop::option::weighted(0.8, one.prop_map(|(level, limit, top, scope)| Said { level, limit, top, scope }))
}

fn text(said: &Said) -> String {
    let mut text = String::new();
    if said.top {
        text += "top = true\n";
    }
    let level = said.level.map(|level| format!("level = \"{}\"", LEVELS[level].0));
    let limit = said.limit.map(|limit| format!("limit = {limit}"));
    let parts: Vec<String> = level.into_iter().chain(limit).collect();
    if !parts.is_empty() {
        text += &format!("[rules]\nlong-line = {{ {} }}\n", parts.join(", "));
    }
    if let Some(level) = said.scope {
        text += &format!(
            "[[scope]]\npaths = [\"**/*.py\"]\nbecause = \"on purpose\"\nrules = {{ long-line = \"{}\" }}\n",
            LEVELS[level].0
        );
    }
    text
}

/// The level and the limit by the model. A scope that switches a rule off leaves it on, held back.
fn expected(all: &[Option<Said>]) -> (Level, u32) {
    let from = all.iter().rposition(|said| said.as_ref().is_some_and(|said| said.top)).unwrap_or(0);
    let (mut level, mut limit) = (Level::Off, 100);
    for said in all[from..].iter().flatten() {
        level = said.level.map_or(level, |level| LEVELS[level].1);
        limit = said.limit.unwrap_or(limit);
        if let Some(scope) = said.scope {
            level = LEVELS[scope].1;
        }
    }
    (level, limit)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 200, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn the_nearest_file_wins_key_by_key(all in prop::collection::vec(said(), FOLDERS.len())) {
        let folder = Folder::with(&[("booking/fares/child.py", "x = 1\n")]);
        for (name, said) in FOLDERS.iter().zip(&all) {
            if let Some(said) = said {
                folder.write(&format!("{name}sieve.toml"), text(said));
            }
        }
        let settings = folder.settings(Overrides::default()).for_file(&folder.path("booking/fares/child.py")).expect("right settings");
        let rule = catalogue::named("long-line").expect("a rule");
        let limit = settings.rule(rule).values[0].value.to_string();
        let level = settings.aside(rule).map_or(settings.level(rule), |_| Level::Off);
        prop_assert_eq!((level, limit), { let (level, limit) = expected(&all); (level, limit.to_string()) });
    }
}

#[test]
fn each_value_knows_its_line() {
    let folder = Folder::with(&[
        ("sieve.toml", "mesh = \"fine\"\n\n[rules]\nlong-line = { level = \"note\", limit = 90 }\n"),
        ("booking/sieve.toml", "fail-on = \"error\"\n[rules.long-line]\nlimit = 80\n"),
        ("booking/a.py", "x = 1\n"),
    ]);
    let settings =
        folder.settings(Overrides::default()).for_file(&folder.path("booking/a.py")).expect("right settings");
    let line = |source: &Option<sieve_engine::settings::Source>| {
        source
            .as_ref()
            .map(|source| (source.path.strip_prefix(folder.root()).expect("below").display().to_string(), source.line))
    };
    assert_eq!(line(&settings.mesh.source), Some(("sieve.toml".into(), 1)));
    assert_eq!(line(&settings.fail_on.source), Some(("booking/sieve.toml".into(), 1)));
    let rule = settings.rule(catalogue::named("long-line").expect("a rule"));
    assert_eq!(line(&rule.level.source), Some(("sieve.toml".into(), 4)));
    assert_eq!(line(&rule.values[0].source), Some(("booking/sieve.toml".into(), 3)));
    assert_eq!(line(&settings.largest.source), None);
}

#[test]
fn options_of_the_command_count_before_the_files() {
    let folder = Folder::with(&[("sieve.toml", "mesh = \"coarse\"\nonly = [\"leftover\"]\n"), ("a.py", "x = 1\n")]);
    let level = |overrides: Overrides, name: &str| {
        let settings = folder.settings(overrides).for_file(&folder.path("a.py")).expect("right settings");
        settings.level(catalogue::named(name).expect("a rule"))
    };
    assert_eq!(level(Overrides::default(), "undefined-name"), Level::Off);
    assert_ne!(level(Overrides::default(), "unused-import"), Level::Off);
    let names = catalogue::named("undefined-name").into_iter().collect::<Vec<_>>();
    let only = Overrides { only: names.clone(), ..Overrides::default() };
    assert_ne!(level(only.clone(), "undefined-name"), Level::Off);
    assert_eq!(level(only, "unused-import"), Level::Off);
    let without = Overrides { only: names.clone(), without: names, ..Overrides::default() };
    assert_eq!(level(without, "undefined-name"), Level::Off);
    let fine = Overrides { mesh: Some(Mesh::Fine), ..Overrides::default() };
    let settings = folder.settings(fine).for_file(&folder.path("a.py")).expect("right settings");
    assert_eq!(settings.mesh.value, Mesh::Fine);
}

#[test]
fn patterns_start_from_the_folder_of_their_file() {
    let folder = Folder::with(&[
        (
            "sieve.toml",
            "[files]\nskip = [\"build/**\"]\ngenerated = [\"*_pb.py\"]\nlanguages = { \"*.inc\" = \"python\" }\n",
        ),
        ("booking/sieve.toml", "[files]\nskip = [\"old/**\"]\n"),
        ("booking/a.py", "x = 1\n"),
    ]);
    let settings =
        folder.settings(Overrides::default()).for_file(&folder.path("booking/a.py")).expect("right settings");
    let expected = BTreeMap::from([
        ("build/a.py", false),
        ("booking/build/a.py", true),
        ("booking/old/a.py", false),
        ("old/a.py", true),
        ("booking/a.py", true),
    ]);
    for (name, is_sifted) in expected {
        // The nearest list takes the place of the one further up.
        let near = name.starts_with("booking/old");
        assert_eq!(settings.skips(&folder.path(name)), near, "{name} (sifted by the root's: {is_sifted})");
    }
    assert!(settings.calls_generated(&folder.path("tables_pb.py")) && !settings.calls_generated(&folder.path("pb.py")));
    assert!(
        settings.language_of(&folder.path("a.inc")).is_some() && settings.language_of(&folder.path("a.txt")).is_none()
    );
}
