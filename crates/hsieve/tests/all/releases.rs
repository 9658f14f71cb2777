//! What a newer release may bring, simulated: other names, other levels, other rules. Nothing happens before somebody decides.
#![cfg(debug_assertions)]

use crate::ferry::{Ended, Ferry, ended};

const HISTORY: &str = "oldest 0.0\n0.1 renamed needless-import unused-import\n0.1 added swallowed-error\n0.1 level mutable-default note\n0.1 mesh repeated-key fine\n";

const CODE: &str = "def fare(kinds=[]):\n    kinds.append(1)\n    try:\n        print({1: 2, 1: 3})\n    except Exception:\n        pass\n";

fn run(ferry: &Ferry, arguments: &[&str]) -> Ended {
    ended(ferry.command(arguments).env("SIEVE_SIMULATED_HISTORY", ferry.path(".git/history")))
}

fn ferry(settings: &str) -> Ferry {
    Ferry::with(&[(".git/history", HISTORY), ("sieve.toml", settings), ("a.py", CODE)])
}

#[track_caller]
fn assert_found(ferry: &Ferry, expected: &[&str]) {
    let found = run(ferry, &["sift"]).out;
    let found: Vec<String> = found
        .lines()
        .map(|line| {
            let level = line.split(": ").nth(1).unwrap_or_default();
            format!("{level} {}", line.rsplit(' ').next().unwrap_or_default())
        })
        .collect();
    assert_eq!(found, expected);
}

#[test]
fn defaults_are_those_of_the_release_that_is_named() {
    let now = ["warning [mutable-default]", "warning [repeated-key]", "warning [swallowed-error]"];
    assert_found(&ferry(""), &now);
    assert_found(&ferry("defaults = \"0.1\"\n"), &now);
    assert_found(&ferry("defaults = \"0.0\"\n"), &["note [mutable-default]"]);
    // What is named is on, whatever the release had.
    let named = "defaults = \"0.0\"\n[rules]\nswallowed-error = \"error\"\n";
    assert_found(&ferry(named), &["note [mutable-default]", "error [swallowed-error]"]);
    let unknown = run(&ferry("defaults = \"0.2\"\n"), &["sift"]);
    assert_eq!(unknown.status, 2);
    assert!(
        unknown.err.contains("sieve.toml:1:12: this version knows the defaults of 0.0 to 0.1, not of \"0.2\""),
        "{unknown:?}"
    );
}

#[test]
fn old_names_work_everywhere_and_are_mended_everywhere() {
    let settings = "# ours\nonly = [\"needless-import\", \"upkeep\"]  # for now\n[rules]\nneedless-import = { level = \"error\" }\n";
    let ferry = ferry(settings);
    ferry.write("a.py", "import os\n# sieve: waive needless-import because it registers itself\nimport sys\n");
    ferry.write("b.py", "import os\n");
    assert_eq!(run(&ferry, &["baseline", "take", "b.py"]).status, 0);
    let baseline = ferry.read("sieve-baseline.jsonl").replace("unused-import", "needless-import");
    ferry.write("sieve-baseline.jsonl", &baseline);

    let found = run(&ferry, &["sift", "--only", "needless-import"]).out;
    assert_eq!(found.lines().count(), 1, "{found}");
    assert!(found.starts_with("a.py:1:8: error: ") && found.ends_with("[unused-import]\n"), "{found}");
    assert!(run(&ferry, &["explain", "needless-import"]).out.contains("unused-import"));
    let notes = run(&ferry, &["sift", "--only", "renamed-rule"]).out;
    let places: Vec<&str> = notes.lines().map(|line| line.split(": ").next().unwrap_or_default()).collect();
    assert_eq!(places, ["a.py:2:16", "sieve-baseline.jsonl:2:24", "sieve.toml:2:10", "sieve.toml:4:1"], "{notes}");

    let fixed = run(&ferry, &["fix", "--only", "renamed-rule"]);
    assert_eq!(fixed.status, 0, "{fixed:?}");
    assert_eq!(ferry.read("sieve.toml"), settings.replace("needless-import", "unused-import"));
    assert!(ferry.read("a.py").contains("waive unused-import because"));
    assert!(!ferry.read("sieve-baseline.jsonl").contains("needless"));
    assert_eq!(run(&ferry, &["sift", "--only", "renamed-rule"]).out, "");
    assert_eq!(run(&ferry, &["fix", "--undo"]).status, 0);
    assert_eq!((ferry.read("sieve.toml").as_str(), ferry.read("sieve-baseline.jsonl")), (settings, baseline));
}

#[test]
fn a_rule_under_both_names_is_refused() {
    let ended = run(&ferry("[rules]\nneedless-import = \"off\"\nunused-import = \"off\"\n"), &["sift"]);
    assert_eq!(ended.status, 2);
    assert!(ended.err.contains("sieve.toml:3:1: \"unused-import\" is set twice here"), "{ended:?}");
}

#[test]
fn an_upgrade_shows_first_and_writes_when_told() {
    let settings = "defaults = \"0.0\"   # ours\nmesh = \"medium\"\n";
    let ferry = ferry(settings);
    let shown = run(&ferry, &["settings", "upgrade"]);
    for expected in [
        "mutable-default     note → warning       1",
        "repeated-key         off → warning       1",
        "swallowed-error      off → warning       1",
        "Nothing is changed yet; hsieve settings upgrade --write does it.",
    ] {
        assert!(shown.out.contains(expected), "{expected}\n{}", shown.out);
    }
    assert_eq!(ferry.read("sieve.toml"), settings);
    assert_eq!(run(&ferry, &["settings", "upgrade", "--write"]).status, 0);
    assert_eq!(ferry.read("sieve.toml"), settings.replace("0.0", "0.1"));
    assert_eq!(run(&ferry, &["sift"]).out.lines().count(), 3);
}
