//! The baseline as a debt: owners, budgets, strictness, how it goes down.

use crate::ferry::Ferry;

const SETTINGS: &str = "[baseline]\nstrict = true\n\n[[budget]]\npaths = [\"booking/**\"]\nrules = [\"leftover\"]\nmost = 3  # by spring\n\n[[budget]]\nmost = 4\n";

fn taken() -> Ferry {
    let ferry = Ferry::in_git(&[
        ("booking/fares.py", "import os\nimport sys\nimport json\n"),
        ("tides.py", "import os\n"),
        ("CODEOWNERS", "* @harbour\n/booking/ @desk\n"),
    ]);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    ferry.write("sieve.toml", SETTINGS);
    assert_eq!(ferry.run(&["sift"]).status, 0);
    ferry
}

#[test]
fn what_is_paid_off_must_be_taken_off() {
    let ferry = taken();
    ferry.write("booking/fares.py", "import os\nimport sys\n");
    let strict = ferry.run(&["sift"]);
    assert_eq!(strict.status, 1, "{strict:?}");
    assert!(
        strict.err.contains("paid off        1    entry of the baseline is gone, which fails the run"),
        "{strict:?}"
    );
    assert!(strict.err.contains("budget          2    of 3 entries that sieve.toml:4 allows"), "{strict:?}");
    let trimmed = ferry.run(&["baseline", "trim"]);
    assert!(
        trimmed.out.contains("Dropped 1, 3 entries left") && trimmed.out.contains("Lowered 2 budgets"),
        "{trimmed:?}"
    );
    let lowered = SETTINGS.replace("most = 3 ", "most = 2 ").replace("most = 4", "most = 3");
    assert_eq!(ferry.read("sieve.toml"), lowered, "comments stay");
    assert_eq!(ferry.run(&["sift"]).status, 0);
    // Without strictness the same is only reported.
    ferry.write("sieve.toml", "");
    ferry.write("booking/fares.py", "import os\n");
    let told = ferry.run(&["sift"]);
    assert!(told.status == 0 && told.err.contains("paid off        1"), "{told:?}");
}

#[test]
fn a_budget_is_not_overdrawn_by_adding_to_the_baseline() {
    let ferry = taken();
    ferry.write("booking/quays.py", "import re\n");
    assert_eq!(ferry.run(&["sift"]).status, 1);
    let refused = ferry.run(&["baseline", "take", "--add-new"]);
    assert_eq!(refused.status, 2, "{refused:?}");
    assert!(refused.err.contains("sieve.toml:4 allows 3 entries, and there would be 4"), "{refused:?}");
    // A merge of two files may do what no command does.
    let more = ferry.read("sieve-baseline.jsonl").replace("tides.py", "booking/quays.py").replace("\"os\"", "\"re\"");
    let line = more.lines().find(|line| line.contains("quays")).expect("an entry").to_string();
    ferry.write("sieve-baseline.jsonl", ferry.read("sieve-baseline.jsonl") + &line + "\n");
    let overdrawn = ferry.run(&["sift"]);
    assert_eq!(overdrawn.status, 1, "{overdrawn:?}");
    assert!(
        overdrawn.err.contains("budget          4    of 3 entries that sieve.toml:4 allows: the run fails"),
        "{overdrawn:?}"
    );
}

#[test]
fn only_some_rules_are_taken_when_only_they_are_asked_for() {
    let ferry = Ferry::with(&[("a.py", "import os\n\n\ndef fare(kinds=[]):\n    return kinds\n")]);
    let taken = ferry.run(&["baseline", "take", "--only", "leftover"]);
    assert!(taken.out.starts_with("Recorded 1 finding"), "{taken:?}");
    let left = ferry.run(&["sift"]);
    assert!(left.status == 1 && left.out.contains("[mutable-default]") && left.out.lines().count() == 1, "{left:?}");
}

#[test]
fn the_status_tells_owners_budgets_and_how_it_went_down() {
    let ferry = taken();
    assert_eq!(ferry.commit_on("2026-03-01").status, 0);
    ferry.write("booking/fares.py", "import os\n");
    assert_eq!(ferry.run(&["baseline", "trim"]).status, 0);
    assert_eq!(ferry.commit_on("2026-05-09").status, 0);
    let status = ferry.run(&["baseline", "status"]).out;
    for expected in [
        "2 entries in sieve-baseline.jsonl, 2 still there, 0 gone",
        "owner\n  @desk          1",
        "  @harbour       1",
        "budget\n  sieve.toml:4       1 of 1  booking/**",
        "burn-down\n  2026-03-01       4  ▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪\n  2026-05-09       2  ▪▪▪▪▪▪▪▪▪▪▪▪▪▪▪\n",
    ] {
        assert!(status.contains(expected), "{expected}\n{status}");
    }
}

#[test]
fn entries_wait_for_a_rule_that_is_off_for_their_file() {
    let ferry = Ferry::with(&[("booking/fares.py", "import os\n"), ("tides.py", "import os\n")]);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    for settings in [
        "[[scope]]\npaths = [\"booking/**\"]\nbecause = \"not ready\"\nrules = { unused-import = \"off\" }\n",
        "[rules]\nunused-import = \"off\"\n",
    ] {
        ferry.write("sieve.toml", settings);
        let trimmed = ferry.run(&["baseline", "trim"]);
        assert!(trimmed.out.starts_with("Dropped 0, 2 entries left"), "{settings}{trimmed:?}");
    }
    ferry.write("sieve.toml", "");
    assert_eq!(ferry.run(&["sift"]).status, 0);
}
