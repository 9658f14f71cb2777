//! Only what changed: lines since a commit, and what is staged.

use crate::ferry::Ferry;

/// Three findings that are there from the beginning.
const OLD: &str =
    "import os\n\n\ndef fare(adult, kinds=[]):\n    return kinds\n\n\ndef sail(boat):\n    crew = boat\n    return 1\n";

fn committed() -> Ferry {
    let ferry = Ferry::in_git(&[("booking/fares.py", OLD), ("tides.py", OLD)]);
    assert_eq!(ferry.commit("old").status, 0);
    ferry
}

#[track_caller]
fn assert_found(ferry: &Ferry, arguments: &[&str], expected: &[&str]) {
    let ended = ferry.run(arguments);
    let places: Vec<String> =
        ended.out.lines().map(|line| line.split(": ").next().unwrap_or_default().into()).collect();
    assert_eq!(places, expected, "{arguments:?}: {}", ended.err);
    assert_eq!(ended.status, i32::from(!expected.is_empty()), "{}", ended.err);
}

#[test]
fn only_changed_lines_count() {
    let ferry = committed();
    assert_found(&ferry, &["sift", "--changed"], &[]);
    ferry.write("tides.py", OLD.replace("    return 1\n", "    return 1\n\n\ndef moor(quays={}):\n    return quays\n"));
    assert_found(&ferry, &["sift", "--changed"], &["tides.py:13:16"]);
    assert_found(&ferry, &["sift", "booking", "--changed"], &[]);
    let account = ferry.run(&["sift", "--changed"]).err;
    assert!(account.contains("Sifted 1 file"), "{account}");
    assert!(
        account.contains("unchanged       3    findings not counted, on lines that are as in the last commit"),
        "{account}"
    );
}

#[test]
fn a_change_answers_for_what_it_causes_elsewhere() {
    let ferry = committed();
    ferry.write(
        "tides.py",
        OLD.replace("import os", "import os\nimport sys").replace("return kinds", "return sys, kinds"),
    );
    assert_eq!(ferry.commit("sys").status, 0);
    // The last use goes, and the import above is on a line that did not change.
    ferry.write("tides.py", ferry.read("tides.py").replace("return sys, kinds", "return kinds"));
    assert_found(&ferry, &["sift", "--changed"], &["tides.py:2:8"]);
    assert_eq!(ferry.run(&["fix", "--changed"]).status, 0);
    assert_eq!(ferry.read("tides.py"), OLD, "the old import is not touched");
}

#[test]
fn a_revision_means_where_the_histories_parted() {
    let ferry = committed();
    ferry.git(&["switch", "--quiet", "--create", "north"]);
    ferry.write("north.py", "import json\n");
    assert_eq!(ferry.commit("north").status, 0);
    ferry.git(&["switch", "--quiet", "main"]);
    ferry.write("south.py", "import json\n");
    assert_eq!(ferry.commit("south").status, 0);
    ferry.git(&["switch", "--quiet", "north"]);
    assert_found(&ferry, &["sift", "--changed", "main"], &["north.py:1:8"]);
    ferry.git(&["switch", "--quiet", "--orphan", "alone"]);
    ferry.write("alone.py", "x = 1\n");
    assert_eq!(ferry.commit("alone").status, 0);
    let ended = ferry.run(&["sift", "--changed", "main"]);
    assert_eq!(
        (ended.status, ended.err.as_str()),
        (2, "hsieve: \"main\" and the current commit have no history in common\n")
    );
}

#[test]
fn new_files_count_whole_and_ignored_and_hidden_ones_do_not() {
    let ferry = committed();
    for name in ["new quay.py", "\u{fc}ber.py", ".hidden/a.py", "ignored/a.py"] {
        ferry.write(name, "import json\n");
    }
    ferry.write(".gitignore", "ignored/\nkept.py\n");
    ferry.write("kept.py", "import json\n");
    ferry.git(&["add", "--force", "kept.py"]);
    // What git keeps is part of the code base, whatever an ignore list says.
    let kept = ["kept.py:1:8", "new quay.py:1:8", "\u{fc}ber.py:1:8"];
    assert_found(&ferry, &["sift", "--changed"], &kept);
    let whole = ferry.run(&["sift", "--only", "unused-import"]).out;
    assert!(kept.iter().all(|place| whole.contains(place)) && !whole.contains("ignored/"), "{whole}");
}

#[test]
fn renames_keep_their_old_lines() {
    let ferry = committed();
    ferry.git(&["mv", "tides.py", "ebb.py"]);
    assert_found(&ferry, &["sift", "--changed"], &[]);
    assert_found(&ferry, &["sift", "--staged"], &[]);
    ferry.write("ebb.py", OLD.replace("import os\n", "import os\nimport sys\n"));
    assert_found(&ferry, &["sift", "--changed"], &["ebb.py:2:8"]);
}

#[test]
fn what_is_staged_is_the_content_of_the_index() {
    let ferry = committed();
    ferry.write("tides.py", format!("import sys\n{OLD}"));
    ferry.git(&["add", "tides.py"]);
    // What lies in the folder meanwhile does not count, nor that the file is gone there.
    ferry.write("tides.py", "import broken(\n");
    ferry.write("booking/fares.py", "import broken(\n");
    assert_found(&ferry, &["sift", "--staged"], &["tides.py:1:8"]);
    std::fs::remove_file(ferry.path("tides.py")).expect("removing");
    assert_found(&ferry, &["sift", "--staged", "tides.py"], &["tides.py:1:8"]);
}

#[test]
fn a_merge_answers_only_for_what_neither_side_had() {
    let ferry = committed();
    ferry.git(&["switch", "--quiet", "--create", "north"]);
    ferry.write("north.py", "import json\n");
    assert_eq!(ferry.commit("north").status, 0);
    ferry.git(&["switch", "--quiet", "main"]);
    ferry.write("south.py", "import json\n");
    assert_eq!(ferry.commit("south").status, 0);
    ferry.git(&["merge", "--quiet", "--no-commit", "--no-ff", "north"]);
    assert_found(&ferry, &["sift", "--staged"], &[]);
    ferry.write("north.py", "import json\nimport sys\n");
    ferry.git(&["add", "--all"]);
    assert_found(&ferry, &["sift", "--staged"], &["north.py:2:8"]);
}

#[test]
fn a_history_that_was_not_fetched_whole_is_named_as_the_cause() {
    let ferry = committed();
    ferry.write("a.py", "x = 1\n");
    assert_eq!(ferry.commit("second").status, 0);
    ferry.git(&["switch", "--quiet", "--create", "north", "HEAD~1"]);
    ferry.write("b.py", "x = 1\n");
    assert_eq!(ferry.commit("north").status, 0);
    let clone = Ferry::in_git(&[]);
    clone.git(&["symbolic-ref", "HEAD", "refs/heads/elsewhere"]);
    let address = format!("file://{}", ferry.path(".").display());
    let fetched = clone.git(&[
        "-c",
        "protocol.file.allow=always",
        "fetch",
        "--quiet",
        "--depth=1",
        &address,
        "main:main",
        "north:north",
    ]);
    assert_eq!(fetched.status, 0, "{fetched:?}");
    clone.git(&["reset", "--quiet", "--hard", "north"]);
    clone.git(&["switch", "--quiet", "north"]);
    let ended = clone.run(&["sift", "--changed", "main"]);
    assert_eq!(ended.status, 2, "{ended:?}");
    assert!(ended.err.contains("git fetch --unshallow"), "{ended:?}");
}

#[test]
fn before_the_first_commit_everything_is_new() {
    let ferry = Ferry::in_git(&[("tides.py", "import os\n"), ("loose.py", "import os\n")]);
    ferry.git(&["add", "tides.py"]);
    assert_found(&ferry, &["sift", "--staged"], &["tides.py:1:8"]);
    assert_found(&ferry, &["sift", "--changed"], &["loose.py:1:8", "tides.py:1:8"]);
}

#[test]
fn the_baseline_keeps_to_the_findings_that_were_there() {
    let ferry = committed();
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    assert_eq!(ferry.commit("baseline").status, 0);
    // A second finding like one that the baseline knows is new, although the known one is not shown.
    ferry.write("tides.py", OLD.replace("    crew = boat\n", "    crew = boat\n    crew = boat\n"));
    assert_found(&ferry, &["sift", "--changed"], &["tides.py:10:5"]);
    assert!(!ferry.run(&["sift", "--changed"]).err.contains("gone"));
}

#[test]
fn other_repositories_inside_are_left_alone_and_working_trees_are_understood() {
    let ferry = committed();
    let inner = Ferry::in_git(&[("inner.py", "x = 1\n")]);
    assert_eq!(inner.commit("inner").status, 0);
    let inner_path = inner.path(".").display().to_string();
    let added = ferry.git(&["-c", "protocol.file.allow=always", "submodule", "--quiet", "add", &inner_path, "inner"]);
    assert_eq!(added.status, 0, "{added:?}");
    assert_eq!(ferry.commit("a repository inside").status, 0);
    ferry.write("inner/inner.py", "import os\n");
    ferry.write("inner/new.py", "import os\n");
    assert_found(&ferry, &["sift", "--changed"], &[]);

    let tree = tempfile::tempdir().expect("a folder");
    let other = tree.path().join("other");
    let added = ferry.git(&["worktree", "add", "--quiet", "-b", "other", &other.display().to_string()]);
    assert_eq!(added.status, 0, "{added:?}");
    std::fs::write(other.join("tides.py"), format!("import sys\n{OLD}")).expect("a file");
    let mut command = ferry.command(&["sift", "--changed"]);
    let ended = crate::ferry::ended(command.current_dir(&other));
    assert_eq!(ended.out.lines().count(), 1, "{ended:?}");
    assert!(ended.out.starts_with("tides.py:1:8: "), "{ended:?}");
}

#[test]
fn outside_a_repository_it_says_so() {
    let ferry = Ferry::with(&[("a.py", "import os\n")]);
    for option in ["--changed", "--staged"] {
        let ended = ferry.run(&["sift", option]);
        assert_eq!(ended.status, 2);
        assert!(ended.err.contains("this needs a git repository"), "{}", ended.err);
    }
    let committed = committed();
    let ended = committed.run(&["sift", "--changed", "booking"]);
    assert_eq!(ended.status, 2);
    assert!(ended.err.contains("there is no revision \"booking\" in this repository (to name a path"), "{}", ended.err);
}

#[test]
fn lines_that_only_went_answer_for_what_they_leave() {
    let ferry = Ferry::in_git(&[("tides.py", "import os\nimport sys\n\nprint(sys.path)\nprint(os.sep)\n")]);
    assert_eq!(ferry.commit("tides").status, 0);
    ferry.write("tides.py", "import os\nimport sys\n\nprint(sys.path)\n");
    assert_found(&ferry, &["sift", "--changed"], &["tides.py:1:8"]);
    assert_eq!(ferry.git(&["add", "--all"]).status, 0);
    assert_found(&ferry, &["sift", "--staged"], &["tides.py:1:8"]);
}
