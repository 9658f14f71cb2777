//! Shell scripts beside Python: the same commands, settings, waivers and baseline.

use std::path::PathBuf;

use crate::ferry::{Ferry, missing};

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

/// How bash itself prints a script, if it accepts it. It prints commands within words as they are there, so that whitespace do
/// not count here: that words stay whole is what the tool's own proof is for.
fn printed(path: &std::path::Path) -> Option<Vec<String>> {
    let output = std::process::Command::new("bash").arg("--pretty-print").arg(path).output().ok()?;
    let text = String::from_utf8_lossy(&output.stdout).into_owned();
    output.status.success().then(|| text.lines().map(|line| line.split_whitespace().collect()).collect())
}

/// Scripts that this machine has, in the order of their paths.
pub fn scripts_of_machine() -> Vec<String> {
    let folders =
        ["/etc/init.d", "/usr/bin", "/usr/lib/git-core", "/usr/sbin", "/usr/share/bash-completion/completions"];
    let entries = folders.into_iter().filter_map(|folder| std::fs::read_dir(folder).ok()).flatten();
    let mut paths: Vec<PathBuf> = entries.flatten().map(|entry| entry.path()).collect();
    paths.sort();
    let read = paths.into_iter().filter_map(|path| std::fs::read(path).ok());
    let is_script = |source: &Vec<u8>| source.starts_with(b"#!/bin/sh") || source.starts_with(b"#!/bin/bash");
    read.filter(|source| is_script(source) && source.len() < 100_000)
        .filter_map(|source| String::from_utf8(source).ok())
        .collect()
}

#[test]
fn layout_keeps_what_scripts_of_the_machine_say_and_settles_at_once() {
    let ferry = Ferry::empty();
    let scripts = scripts_of_machine();
    let names: Vec<String> = (0..scripts.len()).map(|number| format!("scripts/{number:03}.sh")).collect();
    names.iter().zip(&scripts).for_each(|(name, script)| ferry.write(name, script));
    if !crate::ferry::has("bash") || names.is_empty() {
        missing("0 scripts laid out: no bash, or no scripts on this machine");
        return;
    }
    let before: Vec<_> = names.iter().map(|name| printed(&ferry.path(name))).collect();
    let fixed = ferry.run(&["fix", "scripts", "--only", "layout"]);
    assert_eq!((fixed.status, fixed.err.as_str()), (0, ""));
    for (name, before) in names.iter().zip(before) {
        assert_eq!(printed(&ferry.path(name)), before, "{name}: layout changed the code");
    }
    let again = ferry.run(&["fix", "scripts", "--only", "layout", "--preview"]);
    assert_eq!((again.status, again.out.as_str()), (0, ""), "a second run finds nothing");
    eprintln!("{} scripts laid out: {}", names.len(), fixed.out.lines().rev().nth(1).unwrap_or_default());
}
