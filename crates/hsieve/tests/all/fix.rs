//! Exact fixes: previewed, applied, safe.

use crate::ferry::{Ferry, has, missing};

const FARES: &str = "import os\nimport sys, json  \n\n\ndef fare(kind):\n    if kind is \"dog\": return 0\n    return json.dumps(kind); print(1)";

const FIXED: &str = "import json\n\n\ndef fare(kind):\n    if kind == \"dog\":\n        return 0\n    return json.dumps(kind)\n    print(1)\n";

#[test]
fn fixes_of_all_sorts_come_together() {
    let ferry = Ferry::with(&[("fares.py", FARES)]);
    let ended = ferry.run(&["fix", "--mesh", "fine"]);
    assert_eq!(ended.status, 0, "{}", ended.err);
    assert_eq!(ferry.read("fares.py"), FIXED);
    let again = ferry.run(&["fix", "--mesh", "fine"]);
    assert!(again.out.contains("Nothing to fix"), "{}", again.out);
}

#[test]
fn the_preview_is_a_diff_that_git_applies() {
    if !has("git") {
        missing("0 diffs applied: no git on this machine");
        return;
    }
    let ferry = Ferry::with(&[("booking/my fares.py", FARES), ("crlf.py", "import os\r\nx = 1 \r\n")]);
    let preview = ferry.run(&["fix", "--mesh", "fine", "--preview"]);
    assert_eq!(preview.status, 1);
    assert_eq!(ferry.read("booking/my fares.py"), FARES, "a preview changes nothing");
    ferry.write("change.diff", &preview.out);
    let applied =
        std::process::Command::new("git").args(["apply", "change.diff"]).current_dir(ferry.path(".")).output();
    let applied = applied.expect("git runs");
    assert!(applied.status.success(), "{}\n{}", String::from_utf8_lossy(&applied.stderr), preview.out);
    assert_eq!(ferry.read("booking/my fares.py"), FIXED);
    assert_eq!(ferry.read("crlf.py"), "x = 1\r\n");
    assert_eq!(ferry.run(&["fix", "--mesh", "fine", "--preview", "booking", "crlf.py"]).status, 0);
}

#[test]
fn encodings_marks_and_line_ends_stay() {
    let ferry = Ferry::empty();
    ferry.write("latin.py", b"# coding: latin-1\n\nimport os\nx = '\xe9'\n");
    ferry.write("mark.py", b"\xef\xbb\xbfimport os\r\nx = 1\r\n");
    assert_eq!(ferry.run(&["fix"]).status, 0);
    assert_eq!(std::fs::read(ferry.path("latin.py")).expect("a file"), b"# coding: latin-1\n\nx = '\xe9'\n");
    assert_eq!(std::fs::read(ferry.path("mark.py")).expect("a file"), b"\xef\xbb\xbfx = 1\r\n");
}

#[test]
fn waived_findings_and_those_of_the_baseline_are_left_alone() {
    let waived = "import os  # sieve: waive unused-import because later\n";
    let ferry = Ferry::with(&[("a.py", waived), ("b.py", "import os\n")]);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    assert_eq!(ferry.run(&["fix"]).status, 0);
    assert_eq!((ferry.read("a.py"), ferry.read("b.py")), (waived.to_string(), "import os\n".to_string()));
    assert_eq!(ferry.run(&["fix", "--no-baseline"]).status, 0);
    assert_eq!((ferry.read("a.py"), ferry.read("b.py")), (waived.to_string(), String::new()));
}

#[test]
fn blocks_that_would_be_empty_get_a_statement() {
    let ferry = Ferry::with(&[("a.py", "def f(x):\n    if x:\n        import os\n        import sys\n    return x\n")]);
    assert_eq!(ferry.run(&["fix"]).status, 0);
    assert_eq!(ferry.read("a.py"), "def f(x):\n    if x:\n        pass\n    return x\n");
}

#[cfg(unix)]
#[test]
fn links_are_not_followed_out_of_the_chosen_folder() {
    let ferry = Ferry::with(&[("outside/a.py", "import os\n"), ("inside/b.py", "x = 1\n")]);
    std::os::unix::fs::symlink(ferry.path("outside/a.py"), ferry.path("inside/a.py")).expect("a link");
    std::os::unix::fs::symlink(ferry.path("outside"), ferry.path("inside/folder")).expect("a link");
    assert_eq!(ferry.run(&["fix", "inside"]).status, 0);
    assert_eq!(ferry.read("outside/a.py"), "import os\n");
    assert_eq!(ferry.run(&["fix", "inside/a.py"]).status, 0);
    assert_eq!(ferry.read("outside/a.py"), "", "a link that is named itself leads to its file");
    assert!(ferry.path("inside/a.py").is_symlink());
}
