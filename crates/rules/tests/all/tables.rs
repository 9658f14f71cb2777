//! The tables of names are what the published indices say: sorted, each name once, and the same as they are now.

use std::path::Path;
use std::process::Command;

const NAMES: &[&str] = &[
    "aria.txt",
    "attributes.txt",
    "descriptors.txt",
    "elements.txt",
    "keywords.txt",
    "properties.txt",
    "pseudo.txt",
    "roles.txt",
    "shorthands.txt",
];

fn own(name: &str) -> String {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("data").join(name);
    std::fs::read_to_string(&path).unwrap_or_else(|error| panic!("{}: {error}", path.display()))
}

#[test]
fn tables_are_sorted_and_say_what_they_are() {
    for name in NAMES.iter().chain(&["fallible.txt"]) {
        let text = own(name);
        let lines: Vec<&str> = text.lines().collect();
        assert!(lines[0].starts_with("# ") && lines[0].ends_with('.'), "{name} says what it is");
        assert!(lines[1..].windows(2).all(|pair| pair[0] < pair[1]), "{name} is sorted");
        assert!(lines.len() > 40, "{name}");
    }
}

/// What the language's own parser finds in the sources of the library that are installed, which may be of a later version.
#[test]
fn functions_that_may_fail_do_so_in_the_library() {
    let shared = std::fs::read_dir("/usr/share").into_iter().flatten().flatten().map(|entry| entry.path().join("src"));
    let Some(library) = shared.filter(|path| path.join("fmt/print.go").is_file()).max() else {
        assert!(std::env::var_os("CI").is_none(), "the sources of Go's library are not installed");
        eprintln!("0 references: Go's library is not installed; nothing was compared");
        return;
    };
    let cache = tempfile::tempdir().expect("a folder");
    let program = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/tables/fallible.go");
    let mut go = Command::new("go");
    let go = go.arg("run").arg(program).arg(library).env("GO111MODULE", "off").env("GOCACHE", cache.path());
    let ended = go.output().expect("go runs");
    assert!(ended.status.success(), "{}", String::from_utf8_lossy(&ended.stderr));
    let found = String::from_utf8(ended.stdout).expect("text");
    let found: std::collections::BTreeSet<&str> = found.lines().collect();
    let text = own("fallible.txt");
    let gone: Vec<&str> = text.lines().skip(1).filter(|line| !found.contains(line)).collect();
    assert!(gone.is_empty() && found.len() > 300, "{gone:?} return no error");
}

#[test]
fn tables_are_those_of_the_indices() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/tables");
    if !folder.join("node_modules").is_dir() {
        assert!(std::env::var_os("CI").is_none(), "`npm install` was not run in {}", folder.display());
        eprintln!("0 references: `npm install` was not run in {}; nothing was compared", folder.display());
        return;
    }
    let made = tempfile::tempdir().expect("a folder");
    let ended = Command::new("node").arg(folder.join("generate.cjs")).arg(made.path()).output().expect("node runs");
    assert!(ended.status.success(), "{}", String::from_utf8_lossy(&ended.stderr));
    for name in NAMES {
        let now = std::fs::read_to_string(made.path().join(name)).expect("a table");
        assert_eq!(own(name), now, "{name} is another one now: run generate.cjs with the folder `data`");
    }
}
