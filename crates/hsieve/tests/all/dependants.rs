//! What other files say is asked anew in each run: a change in one file shows in those that call it, and only there.

use std::time::{Duration, SystemTime};

use crate::ferry::Ferry;

const RULES: &str = "missing-export,argument-count,unknown-keyword,ignored-result,forgotten-await,unused-import";

/// A repository in which two boards call functions of the tides, one of them through a facade.
fn ferry() -> Ferry {
    let ferry = Ferry::in_git(&[
        ("tides/__init__.py", "from .tables import low\n"),
        ("tides/tables.py", "def low(day):\n    return day\n\n\ndef high(day):\n    return day\n"),
        ("north.py", "from tides import low\n\nprint(low(1))\n"),
        ("south.py", "from tides.tables import high, low\n\nprint(high(1), low(2))\nprint(high())\n"),
        ("east.py", "def low(a, b, c):\n    return a, b, c\n\n\nprint(low(1, 2, 3))\n"),
    ]);
    assert_eq!(ferry.commit("tides").status, 0);
    ferry
}

/// The places that are reported, without what is said of them.
#[track_caller]
fn places(ferry: &Ferry, arguments: &[&str]) -> Vec<String> {
    let ended = ferry.run(&[&["sift", "--only", RULES], arguments].concat());
    assert!(ended.status <= 1, "{}", ended.err);
    ended.out.lines().map(|line| line.split(": ").next().unwrap_or_default().to_string()).collect()
}

const WIDER: &str = "def low(day, quay):\n    return day, quay\n\n\ndef high(day):\n    return day\n";

#[test]
fn a_change_is_reported_where_it_breaks_a_caller() {
    let ferry = ferry();
    assert_eq!(places(&ferry, &["--changed"]), [""; 0]);
    ferry.write("tides/tables.py", WIDER);
    assert_eq!(places(&ferry, &["--changed"]), ["north.py:3:7", "south.py:3:16"], "and not what was wrong before");
    assert_eq!(places(&ferry, &["--staged"]), [""; 0], "nothing is staged yet");
    assert_eq!(ferry.git(&["add", "--all"]).status, 0);
    ferry.git(&["checkout", "--quiet", "HEAD", "--", "north.py"]);
    assert_eq!(places(&ferry, &["--staged"]), ["north.py:3:7", "south.py:3:16"]);
    assert_eq!(places(&ferry, &["--staged", "south.py"]), ["south.py:3:16"], "only below the paths that are named");
    ferry.commit("wider");
    assert_eq!(places(&ferry, &["--changed", "HEAD~1"]), ["north.py:3:7", "south.py:3:16"]);
    assert_eq!(places(&ferry, &["--changed"]), [""; 0]);
}

#[test]
fn an_export_that_went_is_missed_where_it_is_imported() {
    let ferry = ferry();
    ferry.write("tides/tables.py", "def low(day):\n    return day\n");
    let out = ferry.run(&["sift", "--changed", "--only", RULES]).out;
    assert_eq!(out, "south.py:1:26: error: tides.tables has no \"high\" [missing-export]\n");
    ferry.write("south.py", "from tides.tables import low\n\nprint(low(2))\n");
    assert_eq!(places(&ferry, &["--changed"]), [""; 0]);
}

#[test]
fn a_caller_that_changed_too_is_reported_on_lines_that_did_not() {
    let ferry = ferry();
    ferry.write("tides/tables.py", WIDER);
    ferry.write("south.py", ferry.read("south.py") + "print('changed')\n");
    assert_eq!(places(&ferry, &["--changed"]), ["north.py:3:7", "south.py:3:16"]);
}

#[test]
fn what_a_change_repairs_or_leaves_is_not_reported() {
    let ferry = ferry();
    ferry.write(
        "tides/tables.py",
        "def low(day, quay=None):\n    return day, quay\n\n\ndef high(day):\n    return day\n",
    );
    assert_eq!(places(&ferry, &["--changed"]), [""; 0]);
    ferry.write("tides/tables.py", "def low(day):\n    return day\n\n\ndef high(day=1):\n    return day\n");
    assert_eq!(places(&ferry, &["--changed"]), [""; 0], "the wrong call is right now");
    assert_eq!(places(&ferry, &[]), [""; 0]);
}

#[test]
fn waivers_and_the_baseline_hold_what_a_change_breaks() {
    let ferry = ferry();
    let waived = "from tides import low\n\nprint(low(1))  # sieve: waive argument-count because the board is old\n";
    ferry.write("north.py", waived);
    ferry.commit("waived");
    ferry.write("tides/tables.py", WIDER);
    assert_eq!(places(&ferry, &["--changed"]), ["south.py:3:16"]);
    assert_eq!(ferry.run(&["baseline", "take", "--only", RULES]).status, 0);
    assert_eq!(places(&ferry, &["--changed"]), [""; 0]);
    assert_eq!(places(&ferry, &["--changed", "--no-baseline"]), ["south.py:3:16"]);
}

#[test]
fn a_function_that_becomes_async_is_not_awaited_where_it_is_called() {
    let ferry = Ferry::in_git(&[
        ("moor.ts", "export function moor(boat: string) {\n  return boat;\n}\n"),
        ("sail.ts", "import { moor } from './moor';\n\nexport async function sail() {\n  moor('Tern');\n}\n"),
    ]);
    ferry.commit("boats");
    ferry.write("moor.ts", "export async function moor(boat: string) {\n  return boat;\n}\n");
    let out = ferry.run(&["sift", "--changed", "--only", RULES]).out;
    assert_eq!(out, "sail.ts:4:3: warning: moor is async, and its result is not awaited [forgotten-await]\n");
}

/// Writes files as if they had been there for an hour, so that the cache trusts their times.
fn write_old(ferry: &Ferry, name: &str, text: &str) {
    ferry.write(name, text);
    let file = std::fs::File::options().append(true).open(ferry.path(name)).expect("a file");
    file.set_modified(SystemTime::now() - Duration::from_secs(3600)).expect("a time");
}

/// The same with and without the cache.
#[track_caller]
fn assert_warm_is_cold(ferry: &Ferry, expected: &[&str]) {
    assert_eq!(places(ferry, &[]), expected, "with the cache");
    assert_eq!(places(ferry, &["--no-cache"]), expected, "without it");
    assert_eq!(places(ferry, &[]), expected, "with it again");
}

#[test]
fn a_package_that_is_added_later_is_seen_by_kept_results() {
    let ferry = Ferry::empty();
    write_old(&ferry, "package.json", "{ \"workspaces\": [\"packages/*\"] }\n");
    write_old(&ferry, "packages/board/package.json", "{ \"name\": \"board\" }\n");
    for number in 0..40 {
        let text = format!("import {{ low }} from 'tides';\n\nlow({number}, 2);\n");
        write_old(&ferry, &format!("packages/board/quay{number:02}.ts"), &text);
    }
    assert_warm_is_cold(&ferry, &[]);
    write_old(&ferry, "packages/tides/package.json", "{ \"name\": \"tides\", \"main\": \"index.ts\" }\n");
    write_old(&ferry, "packages/tides/index.ts", "export function low(day: number) {\n  return day;\n}\n");
    let expected: Vec<String> = (0..40)
        .map(|number| format!("packages/board/quay{number:02}.ts:3:{}", if number < 10 { 8 } else { 9 }))
        .collect();
    assert_warm_is_cold(&ferry, &expected.iter().map(String::as_str).collect::<Vec<_>>());
    std::fs::remove_dir_all(ferry.path("packages/tides")).expect("a folder");
    assert_warm_is_cold(&ferry, &[]);
}

#[test]
fn a_chain_of_facades_that_changes_is_followed_by_kept_results() {
    let ferry = Ferry::empty();
    write_old(&ferry, "tides.py", "def low(day):\n    return day\n");
    write_old(&ferry, "first.py", "from tides import low\n");
    write_old(&ferry, "second.py", "from first import *\n");
    for number in 0..40 {
        write_old(&ferry, &format!("quay{number:02}.py"), "from second import low\n\nprint(low(1))\n");
    }
    assert_eq!(places(&ferry, &["--only", "argument-count"]), [""; 0]);
    write_old(&ferry, "tides.py", "def low(day, quay):\n    return day, quay\n");
    assert_eq!(places(&ferry, &["--only", "argument-count"]).len(), 40);
    write_old(&ferry, "first.py", "def low(day):\n    return day\n");
    assert_eq!(places(&ferry, &["--only", "argument-count"]), [""; 0]);
}

#[test]
fn the_language_that_settings_give_a_file_counts_for_those_who_import_it() {
    let ferry = Ferry::with(&[
        ("sieve.toml", "[files]\nlanguages = { \"tides.js\" = \"typescript\" }\n"),
        ("tides.js", "export function low(day: number, quay?: string) {\n  return [day, quay];\n}\n"),
        ("board.ts", "import { low } from './tides.js';\n\nlow();\nlow(1);\nlow(1, 'north', 3);\n"),
    ]);
    assert_eq!(places(&ferry, &[]), ["board.ts:3:1", "board.ts:5:17"]);
}
