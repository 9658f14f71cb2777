//! The language server in a real editor: Neovim, with its own client.

use std::path::Path;
use std::process::{Command, Stdio};

use serde_json::{Value, json};

use crate::ferry::Ferry;

const BOARD: &str = "import os\nfrom tides import low\n\nlow(1)\nx = 1 \n";

/// Whether Neovim is on this machine; in CI it has to be.
fn has_neovim() -> bool {
    let found = Command::new("nvim").arg("--version").stdout(Stdio::null()).stderr(Stdio::null()).status();
    let is_there = found.is_ok_and(|status| status.success());
    assert!(is_there || std::env::var_os("CI").is_none(), "a reference is missing: nvim");
    is_there
}

#[test]
fn neovim_sees_fixes_and_renames_as_the_command_line_does() {
    if !has_neovim() {
        return eprintln!("0 editors: no nvim on this machine");
    }
    let files =
        [("board.py", BOARD), ("tides.py", "def low(day):\n    return day\n"), ("sieve.toml", "mesh = \"fine\"\n")];
    let (ferry, other) = (Ferry::with(&files), Ferry::with(&files));
    let seen = driven(&ferry, "neovim.lua", "");
    assert_eq!(seen.get("failed"), None, "{seen}");

    // What the command line says of the same files, step by step.
    let found = |ferry: &Ferry, name: &str| -> Value {
        let ended = ferry.run(&["sift", name, "--quiet", "--no-cache", "--output", "lines"]);
        let mut found: Vec<String> = ended.out.lines().map(|line| in_short(line)).collect();
        found.sort();
        json!(found)
    };
    assert_eq!(seen["board"], found(&other, "board.py"));
    assert_eq!(seen["title"], "Fix unused-import");
    other.run(&["fix", "board.py", "--only", "unused-import"]);
    assert_eq!(seen["fixed"], other.read("board.py"));
    other.write("tides.py", "def low(day, quay):\n    return day\n");
    assert_eq!(seen["across"], found(&other, "board.py"));
    other.write("tides.py", "def low(day):\n    return day\n");
    other.run(&["fix", "board.py", "--only", "layout"]);
    assert_eq!(seen["formatted"], other.read("board.py"));
    other.run(&["rename", "tides.py:1:5", "ebb"]);
    assert_eq!(ferry.read("tides.py"), other.read("tides.py"));
    other.write("board.py", &(other.read("board.py") + "y = 2\n"));
    assert_eq!(ferry.read("board.py"), other.read("board.py"));
    other.write("sieve.toml", &ferry.read("sieve.toml"));
    assert_eq!(seen["quiet"], found(&other, "board.py"));
}

/// What a script saw that drives Neovim with the server on a code base.
fn driven(ferry: &Ferry, script: &str, files: &str) -> Value {
    let script = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/all").join(script);
    let seen = ferry.path(".git/seen.json");
    let output = Command::new("nvim")
        .args(["--headless", "--clean", "-n", "-c"])
        .arg(format!("luafile {}", script.display()))
        .env("FERRY", ferry.path("").to_str().expect("a path").trim_end_matches('/'))
        .env("HSIEVE", env!("CARGO_BIN_EXE_hsieve"))
        .env("SEEN", &seen)
        .env("FILES", files)
        .stdin(Stdio::null())
        .output()
        .expect("nvim runs");
    let text = std::fs::read_to_string(&seen).unwrap_or_else(|_| panic!("{output:?}"));
    serde_json::from_str(&text).expect("JSON")
}

#[test]
fn neovim_shows_the_findings_of_the_demo() {
    if !has_neovim() {
        return eprintln!("0 editors: no nvim on this machine");
    }
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    let ferry = Ferry::empty();
    let mut folders = vec![demo.clone()];
    while let Some(folder) = folders.pop() {
        for entry in std::fs::read_dir(folder).expect("a folder").map(|entry| entry.expect("an entry").path()) {
            if entry.is_dir() {
                folders.push(entry);
                continue;
            }
            let name = entry.strip_prefix(&demo).expect("a file of the demo").to_str().expect("a name");
            ferry.write(name, &std::fs::read_to_string(&entry).expect("a file"));
        }
    }
    let files =
        ["booking/fares.py", "booking/tickets.py", "booking/desk.py", "web/src/late.ts", "ops/publish-board.sh"];
    let seen = driven(&ferry, "neovim_demo.lua", &files.join(" "));
    let ended = ferry.run(&["sift", "--quiet", "--no-cache", "--output", "json"]);
    let document: Value = serde_json::from_str(&ended.out).expect("JSON");
    for name in files {
        let found = document["findings"].as_array().expect("a list").iter().filter(|one| one["path"] == name);
        let mut found: Vec<String> =
            found.map(|one| format!("{} {}", one["start"]["line"], one["rule"].as_str().expect("a rule"))).collect();
        found.sort();
        assert!(!found.is_empty(), "{name}");
        assert_eq!(seen[name], json!(found), "{name}");
    }
}

/// `line:column rule` of a line of output.
fn in_short(line: &str) -> String {
    let mut parts = line.splitn(4, ':').skip(1);
    let (row, column) = (parts.next().unwrap_or_default(), parts.next().unwrap_or_default());
    let rule = line.rsplit('[').next().unwrap_or_default().trim_end_matches(']');
    format!("{row}:{column} {rule}")
}
