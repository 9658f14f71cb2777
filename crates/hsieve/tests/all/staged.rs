//! What is staged is checked as it is staged: sources, settings, baseline and other files come from the index.

use crate::ferry::Ferry;

const RULES: &str = "argument-count,unused-import,undefined-name";

/// A repository with a function, its caller, and settings.
fn ferry() -> Ferry {
    let ferry = Ferry::in_git(&[
        ("tides.py", "def low(day):\n    return day\n"),
        ("board.py", "from tides import low\n\nprint(low(1))\n"),
        ("sieve.toml", "mesh = \"coarse\"\n"),
    ]);
    assert_eq!(ferry.commit("tides").status, 0);
    ferry
}

fn staged(ferry: &Ferry, more: &[&str]) -> String {
    let ended = ferry.run(&[&["sift", "--staged", "--only", RULES], more].concat());
    assert!(ended.status <= 1, "{}", ended.err);
    ended.out
}

fn stage(ferry: &Ferry, name: &str, text: &str) {
    ferry.write(name, text);
    assert_eq!(ferry.git(&["add", name]).status, 0);
}

#[test]
fn a_second_change_that_is_not_staged_does_not_count() {
    let ferry = ferry();
    stage(&ferry, "board.py", "from tides import low\n\nprint(lows(1))\n");
    ferry.write("board.py", "from tides import low\nimport os\n\nprint(low(1))\n");
    assert_eq!(
        staged(&ferry, &[]),
        "board.py:1:19: warning: \"tides.low\" is imported but never used [unused-import]\n\
         board.py:3:7: error: nothing defines \"lows\" [undefined-name]\n"
    );
    assert_eq!(ferry.run(&["sift", "--changed", "--only", RULES]).out.lines().count(), 1, "the working file has `os`");
}

#[test]
fn neighbours_are_those_of_the_index() {
    let ferry = ferry();
    stage(&ferry, "board.py", "from tides import low\n\nprint(low(1), low(2))\n");
    ferry.write("tides.py", "def low(day, quay):\n    return day, quay\n");
    assert_eq!(staged(&ferry, &[]), "", "the staged function takes one argument");
    stage(&ferry, "tides.py", "def low(day, quay):\n    return day, quay\n");
    ferry.write("tides.py", "def low(day):\n    return day\n");
    let found = staged(&ferry, &[]);
    assert!(found.contains("board.py:3:7: error: low is called without \"quay\""), "{found}");
    assert!(found.contains("board.py:3:15: error: low is called without \"quay\""), "{found}");
}

#[test]
fn a_file_that_git_does_not_know_is_not_there() {
    let ferry = ferry();
    ferry.write("quays.py", "def depth(quay):\n    return quay\n");
    stage(&ferry, "board.py", "from quays import depth\n\nprint(depth())\n");
    assert_eq!(staged(&ferry, &[]), "", "what is not staged cannot be called wrongly");
    assert_eq!(ferry.git(&["add", "quays.py"]).status, 0);
    assert_eq!(staged(&ferry, &[]), "board.py:3:7: error: depth is called without \"quay\" [argument-count]\n");
    std::fs::remove_file(ferry.path("quays.py")).expect("a file");
    assert_eq!(staged(&ferry, &[]), "board.py:3:7: error: depth is called without \"quay\" [argument-count]\n");
}

#[test]
fn settings_are_those_of_the_index() {
    let ferry = ferry();
    stage(&ferry, "board.py", "import os\nfrom tides import low\n\nprint(low(1))\n");
    ferry.write("sieve.toml", "mesh = \"coarse\"\n[rules]\nunused-import = \"off\"\n");
    assert_eq!(staged(&ferry, &[]).lines().count(), 1, "the working settings switch the rule off, the staged do not");
    assert_eq!(ferry.git(&["add", "sieve.toml"]).status, 0);
    ferry.write("sieve.toml", "this is broken");
    let ended = ferry.run(&["sift", "--staged"]);
    assert_eq!((ended.status, ended.out.as_str()), (0, ""), "{}", ended.err);
}

#[test]
fn the_baseline_is_that_of_the_index() {
    let ferry = ferry();
    ferry.write("old.py", "print(lost)\n");
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    assert_eq!(ferry.commit("old").status, 0);
    stage(&ferry, "old.py", "print(lost)  # still\n");
    assert_eq!(staged(&ferry, &[]), "");
    ferry.write("sieve-baseline.jsonl", "");
    assert_eq!(staged(&ferry, &[]), "", "the staged baseline still knows it");
    assert_eq!(ferry.git(&["rm", "--quiet", "--cached", "sieve-baseline.jsonl"]).status, 0);
    assert_eq!(staged(&ferry, &[]).lines().count(), 1);
}

#[test]
fn files_that_only_the_index_has_are_sifted_and_links_are_not() {
    let ferry = ferry();
    stage(&ferry, "harbour/pier.py", "print(undefined_pier)\n");
    std::fs::remove_dir_all(ferry.path("harbour")).expect("a folder");
    #[cfg(unix)]
    {
        std::os::unix::fs::symlink("tides.py", ferry.path("link.py")).expect("a link");
        assert_eq!(ferry.git(&["add", "link.py"]).status, 0);
    }
    let expected = "harbour/pier.py:1:7: error: nothing defines \"undefined_pier\" [undefined-name]\n";
    assert_eq!(staged(&ferry, &[]), expected);
    assert_eq!(staged(&ferry, &["harbour"]), expected);
    assert_eq!(staged(&ferry, &["harbour/pier.py"]), expected);
    let ended = ferry.run(&["sift", "--staged", "nowhere.py"]);
    assert_eq!(ended.status, 3, "{}", ended.err);
}

#[test]
fn a_sparse_folder_does_not_hide_what_is_staged() {
    let ferry = ferry();
    stage(&ferry, "board.py", "from tides import low\n\nprint(low())\n");
    assert_eq!(ferry.git(&["update-index", "--skip-worktree", "tides.py"]).status, 0);
    std::fs::remove_file(ferry.path("tides.py")).expect("a file");
    assert_eq!(staged(&ferry, &[]), "board.py:3:7: error: low is called without \"day\" [argument-count]\n");
}

#[test]
fn a_file_in_conflict_counts_as_this_side_has_it() {
    let ferry = ferry();
    assert_eq!(ferry.git(&["checkout", "--quiet", "-b", "other"]).status, 0);
    ferry.write("tides.py", "def low(day, other):\n    return day, other\n");
    ferry.commit("other");
    assert_eq!(ferry.git(&["checkout", "--quiet", "main"]).status, 0);
    ferry.write("tides.py", "def low(day, ours):\n    return day, ours\n");
    ferry.commit("ours");
    assert_ne!(ferry.git(&["merge", "--quiet", "other"]).status, 0, "the two conflict");
    stage(&ferry, "board.py", "from tides import low\n\nprint(low(2))\n");
    let found = staged(&ferry, &["board.py"]);
    assert!(found.contains("low is called without \"ours\""), "{found}");
}

#[test]
fn contents_of_the_index_pass_no_filter_and_no_conversion() {
    let ferry = ferry();
    for (key, value) in [("filter.tide.smudge", "false"), ("filter.tide.required", "true"), ("core.autocrlf", "true")] {
        assert_eq!(ferry.git(&["config", key, value]).status, 0);
    }
    stage(&ferry, "board.py", "from tides import low\n\nprint(low())\n");
    ferry.write(".gitattributes", "*.py filter=tide eol=crlf\n");
    ferry.write("board.py", "print('another day')\n");
    assert_eq!(staged(&ferry, &[]), "board.py:3:7: error: low is called without \"day\" [argument-count]\n");
    std::fs::remove_file(ferry.path("tides.py")).expect("a file");
    assert_eq!(staged(&ferry, &[]), "board.py:3:7: error: low is called without \"day\" [argument-count]\n");
}

#[test]
fn one_more_file_in_the_index_is_one_more_file_that_is_known() {
    let ferry = ferry();
    stage(&ferry, "tides/__init__.py", "def low(day, quay):\n    return day, quay\n");
    stage(&ferry, "board.py", "from tides import low\n\nprint(low(1, 2), low(3))\n");
    std::fs::remove_dir_all(ferry.path("tides")).expect("a folder");
    let found = staged(&ferry, &[]);
    assert_eq!(
        found, "board.py:3:18: error: low is called without \"quay\" [argument-count]\n",
        "the package comes first"
    );
}
