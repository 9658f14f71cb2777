//! Fixing real packages of JavaScript and TypeScript, proved by the languages' reference parsers.

use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

use serde_json::{Value, json};

use crate::ferry::{Ferry, missing, repository};

/// Parts of packages that hold sources as people write them.
pub const PARTS: &[&str] = &[
    "@blueprintjs/core/src",
    "@tanstack/react-query/src",
    "bootstrap/js/src",
    "core-js/internals",
    "foundation-sites/js",
    "preact/src",
    "rxjs/src",
    "semantic-ui-react/src",
    "three/examples/jsm/loaders",
    "three/src",
    "zod/src",
];

pub fn reference() -> PathBuf {
    repository().join("crates/syntax/tests/reference")
}

/// What the references make of each file: whether they accept it, and what it is made of.
fn verdicts(folder: &Path, files: &[PathBuf]) -> Vec<Value> {
    let input: String = files.iter().map(|file| json!({"path": folder.join(file)}).to_string() + "\n").collect();
    let requests = folder.with_extension("requests");
    std::fs::write(&requests, input).expect("a file");
    let output = Command::new("node")
        .args(["--experimental-vm-modules", "--no-warnings"])
        .arg(reference().join("verdicts.cjs"))
        .stdin(Stdio::from(std::fs::File::open(&requests).expect("a file")))
        .output()
        .expect("node runs");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let text = String::from_utf8_lossy(&output.stdout).into_owned();
    text.lines().map(|line| serde_json::from_str(line).expect("a line of JSON")).collect()
}

/// Copies the sources of a folder; gives their places below `to`.
pub fn copy(from: &Path, to: &Path, inner: &Path, copied: &mut Vec<PathBuf>) {
    for entry in std::fs::read_dir(from.join(inner)).into_iter().flatten().flatten() {
        let place = inner.join(entry.file_name());
        if entry.path().is_dir() {
            copy(from, to, &place, copied);
        } else if place
            .extension()
            .is_some_and(|ending| ["js", "ts", "tsx", "mjs"].iter().any(|known| ending == *known))
        {
            let target = to.join(&place);
            std::fs::create_dir_all(target.parent().expect("a parent")).expect("a folder");
            std::fs::copy(entry.path(), target).expect("a copy");
            copied.push(place);
        }
    }
}

#[test]
fn fixing_packages_keeps_every_file_acceptable_and_layout_keeps_what_it_is_made_of() {
    let modules = reference().join("node_modules");
    if !modules.is_dir() {
        missing(&format!("0 packages fixed: `npm install` was not run in {}", reference().display()));
        return;
    }
    let ferry = Ferry::empty();
    let folder = ferry.path("packages");
    let mut files = Vec::new();
    PARTS.iter().for_each(|part| copy(&modules, &folder, Path::new(part), &mut files));
    files.sort();
    assert!(files.len() > 500);
    let before = verdicts(&folder, &files);

    let layout = ferry.run(&["fix", "packages", "--only", "layout", "--quiet"]);
    assert_eq!(layout.status, 0, "{}", layout.err);
    for ((file, old), new) in files.iter().zip(&before).zip(verdicts(&folder, &files)) {
        assert_eq!(*old, new, "{}: layout changed the code", file.display());
    }

    let all = ferry.run(&["fix", "packages", "--mesh", "fine"]);
    assert_eq!((all.status, all.err.as_str()), (0, ""));
    for ((file, old), new) in files.iter().zip(&before).zip(verdicts(&folder, &files)) {
        let kept = old["accepted"] == false || new["accepted"] == true;
        assert!(kept, "{} was accepted and is refused now: {}", file.display(), new["message"]);
    }
    eprintln!("{} files fixed: {}", files.len(), all.out.lines().rev().nth(1).unwrap_or_default());

    let again = ferry.run(&["fix", "packages", "--mesh", "fine", "--preview"]);
    assert_eq!((again.status, again.out.as_str()), (0, ""), "a second run finds nothing");
}
