//! Shell scripts beside Python: the same commands, settings, waivers and baseline.

use crate::ferry::Ferry;

const SCRIPT: &str = "#!/bin/bash\nset -e  \n\nmoor() {\n  return 0\n  echo \"never\"\n}\n\ncat <<TIDE\nkept  \nTIDE\n";

#[test]
fn rules_that_are_not_of_one_language_hold_for_scripts() {
    let ferry = Ferry::with(&[
        ("operations/moor.sh", SCRIPT),
        ("operations/run", "#!/bin/sh\nif a; then\n"),
        ("a.py", "x = 1\n"),
    ]);
    let found = ferry.run(&["sift", "--mesh", "fine", "--only", "syntax,layout,leftover"]);
    let places: Vec<&str> = found.out.lines().map(|line| line.split(": ").next().unwrap_or_default()).collect();
    assert_eq!(places, ["operations/moor.sh:2:7", "operations/moor.sh:6:3", "operations/run:3:1"], "{}", found.out);
    assert!(found.out.contains("[trailing-space]") && found.out.contains("[unreachable-code]"), "{}", found.out);
    assert!(
        found.out.contains("error: expected a command, found the end of the file [broken-syntax]"),
        "{}",
        found.out
    );
    assert!(found.err.contains("Sifted 3 files"), "{}", found.err);
}

#[test]
fn fixes_leave_the_text_of_scripts_alone() {
    let ferry = Ferry::with(&[("moor.sh", SCRIPT)]);
    assert_eq!(ferry.run(&["fix", "--mesh", "fine"]).status, 0);
    assert_eq!(ferry.read("moor.sh"), SCRIPT.replace("-e  \n", "-e\n"), "blanks in a here-document are its own");
}

#[test]
fn waivers_and_the_baseline_are_the_same() {
    let ferry = Ferry::with(&[("moor.sh", SCRIPT)]);
    let waived = ferry.run(&["waive", "moor.sh:6", "unreachable-code", "--because", "shown in lessons"]);
    assert!(waived.out.contains("It holds back 1 finding."), "{waived:?}");
    assert!(
        ferry.read("moor.sh").contains("  echo \"never\"  # sieve: waive unreachable-code because shown in lessons\n")
    );
    assert_eq!(ferry.run(&["sift"]).status, 0);
    ferry.write("moor.sh", SCRIPT);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    ferry.write("moor.sh", SCRIPT.replace("moor() {", "\nTIDE=3\n\nmoor() {"));
    assert_eq!(ferry.run(&["sift"]).status, 0, "moved code keeps its entry");
    let inside = ferry.run(&["waive", "moor.sh:13", "long-line", "--because", "x"]);
    assert!(!ferry.read("moor.sh").contains("kept  # sieve"), "{inside:?}");
}

#[test]
fn leaving_statements_outside_of_what_they_leave_prove_nothing() {
    let ferry = Ferry::with(&[(
        "a.sh",
        "return 0\necho a\nbreak\necho b\nwhile a; do\n  (break; b)\n  c\ndone\nf() {\n  a | return\n  b\n}\n",
    )]);
    let found = ferry.run(&["sift"]);
    assert_eq!((found.status, found.out.as_str()), (0, ""));
}

#[test]
fn other_shells_are_left_out_with_a_count() {
    let ferry = Ferry::with(&[("a.sh", "#!/usr/bin/env zsh\nprint -l **/*(.om[1,3])\n"), ("b.sh", "echo b\n")]);
    let ended = ferry.run(&["sift"]);
    assert_eq!(ended.status, 0, "{ended:?}");
    assert!(ended.err.contains("left out        1    files: 1 in another dialect"), "{ended:?}");
}

#[test]
fn the_tree_of_a_script_has_the_names_of_other_languages() {
    let ferry = Ferry::with(&[("moor.sh", SCRIPT)]);
    let tree = ferry.run(&["tree", "moor.sh"]).out;
    for expected in ["function", "body: block", "return", "here-document", "format-string"] {
        assert!(tree.contains(expected), "{expected}\n{tree}");
    }
}
