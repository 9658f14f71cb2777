//! The language server with a second client: a general one from npm, whose framing and names are not those of this program.

use std::path::{Path, PathBuf};
use std::process::Command;

use serde_json::{Value, json};

use crate::ferry::Ferry;

fn folder() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/protocol")
}

/// What the client saw.
fn seen(ferry: &Ferry, encoding: &str, model: &str, edits: u32) -> Value {
    let output = Command::new("node")
        .arg(folder().join("client.mjs"))
        .args([
            env!("CARGO_BIN_EXE_hsieve"),
            ferry.path("").to_str().expect("a path"),
            encoding,
            model,
            &edits.to_string(),
        ])
        .output()
        .expect("node runs");
    serde_json::from_slice(&output.stdout).unwrap_or_else(|_| panic!("{output:?}"))
}

fn compare(encoding: &str, model: &str, edits: u32) {
    if !folder().join("node_modules").is_dir() {
        assert!(std::env::var_os("CI").is_none(), "`npm install` was not run in {}", folder().display());
        return eprintln!("0 clients: `npm install` was not run in {}", folder().display());
    }
    let ferry = Ferry::with(&[
        ("board.py", "import os\nfrom tides import low\n\nlow(1)\n"),
        ("tides.py", "def low(day):\n    return day\n"),
        ("sieve.toml", "mesh = \"fine\"\n"),
    ]);
    let mut seen = seen(&ferry, encoding, model, edits);
    ferry.write("board.py", &ferry.read("edited"));
    let ended = ferry.run(&["sift", "board.py", "--quiet", "--no-cache", "--output", "json"]);
    let document: Value = serde_json::from_str(&ended.out).expect("JSON");
    let found = document["findings"].as_array().expect("a list").iter();
    let places: Vec<String> = found
        .map(|one| {
            format!("{}:{} {}", one["start"]["line"], one["start"]["column"], one["rule"].as_str().expect("a rule"))
        })
        .collect();
    assert!(!places.is_empty());
    assert_eq!(seen["places"], json!(places), "{encoding}");
    let actions = seen["actions"].take();
    assert_eq!(actions[0], "Fix unused-import");
    assert_eq!(seen["source"], json!(["source.fixAll"]));
    assert_eq!(seen["hover"], "markdown");
    for what in ["formatting", "range", "unsure"] {
        assert_eq!(seen[what], true, "{what}");
    }
    assert_eq!((&seen["prepared"], &seen["renamed"]), (&json!("low"), &json!(["board.py", "tides.py"])));
    assert!(seen["refused"].as_str().expect("words").starts_with("nothing was renamed"), "{seen}");
    assert_eq!(seen["completion"], json!(["\"coarse\"", "\"medium\"", "\"fine\""]));
    assert_eq!((&seen["explained"], &seen["shown"]), (&json!("unused-import"), &json!(["unused-import.md"])));
    assert_eq!(seen["registered"], json!(["workspace/didChangeWatchedFiles"]));
    if model == "pull" {
        assert_eq!(seen["workspace"], json!(["board.py", "tides.py"]));
        assert_eq!(seen["cancelled"], -32800);
    }
    assert_eq!(seen["status"], 0);
}

#[test]
fn ten_thousand_edits_in_utf_16_end_where_a_fresh_run_begins() {
    compare("utf-16", "push", 10_000);
}

#[test]
fn bytes_and_characters_are_counted_as_well_and_diagnostics_are_pulled() {
    compare("utf-8", "pull", 500);
    compare("utf-32", "push", 500);
    compare("utf-16", "pull", 500);
}
