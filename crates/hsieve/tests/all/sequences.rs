//! Random histories of a code base: whatever was edited before, a run with kept results says what a run without says, and a run over
//! changes says what two runs over everything differ in.

use std::collections::BTreeSet;
use std::time::{Duration, SystemTime};

use proptest::prelude::*;
use serde_json::Value;

use crate::ferry::Ferry;

/// More files than this must be there for results to be kept.
const FILLERS: usize = 26;

/// What each file may hold from time to time; nothing where it is not there.
const VERSIONS: &[(&str, &[Option<&str>])] = &[
    (
        "tides/tables.py",
        &[
            Some("def low(day):\n    return day\n\n\ndef high(day):\n    return day\n"),
            Some("def low(day, quay):\n    return day, quay\n"),
            Some("async def low(day):\n    return day\n\n\nhigh = 3\n"),
            Some("def low(day:\n"),
            None,
        ],
    ),
    (
        "tides/__init__.py",
        &[
            Some("from .tables import low\n"),
            Some("from .tables import *\n"),
            Some(""),
            Some("from .tables import high as low\n"),
        ],
    ),
    (
        "board.py",
        &[
            Some("from tides import low\n\nprint(low(1))\n"),
            Some("from tides import low\nfrom tides.tables import high\n\nprint(low(1, 2), high())\n"),
            Some("import tides.tables\n\nprint(tides.tables.low(1))\n"),
            None,
        ],
    ),
    (
        "desk.py",
        &[
            Some(
                "from tides.tables import high, low\n\n\nclass Desk:\n    def sell(self):\n        low(1)\n        high(1, 2)\n",
            ),
            Some("from board import low\n\nlow(day=1)\nlow(1, dya=2)\n"),
        ],
    ),
    (
        "web/moor.ts",
        &[
            Some("export function moor(boat: string) {\n  return boat;\n}\n"),
            Some("export async function moor(boat: string, quay: string) {\n  return boat + quay;\n}\n"),
            Some("export const wave = 1;\nexport * from './gone';\n"),
            None,
        ],
    ),
    (
        "web/sail.ts",
        &[
            Some("import { moor } from './moor';\n\nexport async function sail() {\n  moor('Tern');\n}\n"),
            Some("import { moor, wave } from './moor.js';\n\nmoor('Tern', 'north', wave);\n"),
        ],
    ),
    ("sieve.toml", &[Some("mesh = \"coarse\"\n"), Some("[rules]\nargument-count = \"note\"\n"), None]),
];

/// Puts a version of a file where it belongs, as if it had been there for an hour.
fn put(ferry: &Ferry, file: usize, version: usize) {
    let (name, versions) = VERSIONS[file];
    match versions[version % versions.len()] {
        None => drop(std::fs::remove_file(ferry.path(name))),
        Some(text) => {
            ferry.write(name, text);
            let handle = std::fs::File::options().append(true).open(ferry.path(name)).expect("a file");
            handle.set_modified(SystemTime::now() - Duration::from_secs(3600)).expect("a time");
        }
    }
}

fn fill(ferry: &Ferry) {
    for number in 0..FILLERS {
        let text = format!("from tides import low\n\nprint(low({number}))\n");
        ferry.write(&format!("quays/quay{number:02}.py"), text);
    }
}

fn json(ferry: &Ferry, arguments: &[&str]) -> String {
    let ended = ferry.run(&[&["sift", "--output", "json", "--unsure", "--held", "--quiet"], arguments].concat());
    assert!(ended.status <= 1, "{}", ended.err);
    ended.out
}

/// Findings of the rules on which other files decide, as text.
fn joined(output: &str) -> BTreeSet<String> {
    const RULES: &[&str] = &["argument-count", "unknown-keyword", "forgotten-await", "missing-export"];
    let document: Value = serde_json::from_str(output).expect("JSON");
    let findings = document["findings"].as_array().expect("a list");
    let of_rules = findings.iter().filter(|one| RULES.iter().any(|rule| one["rule"] == *rule));
    of_rules.map(|one| format!("{}:{} {} {}", one["path"], one["start"], one["rule"], one["message"])).collect()
}

/// Edits: a file and a version of it.
fn edits(most: usize) -> impl Strategy<Value = Vec<(usize, usize)>> {
    prop::collection::vec((0..VERSIONS.len(), 0_usize..5), 1..most)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 12, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn kept_results_say_what_fresh_ones_say(steps in prop::collection::vec(edits(4), 1..5)) {
        let ferry = Ferry::empty();
        fill(&ferry);
        for step in steps {
            step.into_iter().for_each(|(file, version)| put(&ferry, file, version));
            let fresh = json(&ferry, &["--no-cache"]);
            prop_assert_eq!(json(&ferry, &[]), fresh.clone());
            prop_assert_eq!(json(&ferry, &["--threads", "1"]), fresh);
        }
    }

    #[test]
    fn changes_bring_what_two_whole_runs_differ_in(before in edits(6), after in edits(4)) {
        let ferry = Ferry::in_git(&[("readme.md", "Saltmarsh Ferries\n")]);
        fill(&ferry);
        // Settings stay as they are, so that only sources differ.
        let is_source = |edit: &&(usize, usize)| !VERSIONS[edit.0].0.ends_with(".toml");
        before.iter().filter(is_source).for_each(|(file, version)| put(&ferry, *file, *version));
        ferry.commit("before");
        let old = joined(&json(&ferry, &["--no-cache"]));
        after.iter().filter(is_source).for_each(|(file, version)| put(&ferry, *file, *version));
        let new = joined(&json(&ferry, &["--no-cache"]));
        let changed = joined(&json(&ferry, &["--changed"]));
        let touched: Vec<&str> = after.iter().map(|(file, _)| VERSIONS[*file].0).collect();
        let elsewhere = |all: &BTreeSet<String>| -> BTreeSet<String> {
            all.iter().filter(|one| !touched.iter().any(|name| one.starts_with(&format!("\"{name}\"")))).cloned().collect()
        };
        let brought: BTreeSet<String> = elsewhere(&new).difference(&elsewhere(&old)).cloned().collect();
        prop_assert_eq!(elsewhere(&changed), brought.clone());
        ferry.git(&["add", "--all"]);
        prop_assert_eq!(elsewhere(&joined(&json(&ferry, &["--staged"]))), brought);
    }
}
