//! Whatever files are called and hold, nothing that could act on a terminal is printed.

#![cfg(unix)]

use std::os::unix::ffi::OsStrExt;

use crate::ferry::{Ferry, ended};

/// Names with an escape sequence, C1 controls, DEL, marks of writing direction, line ends, and bytes that are no UTF-8.
const NAMES: &[&[u8]] = &[
    b"q\x1b[31m.py",
    b"q\xc2\x9b31m.py",
    b"q\x7f.py",
    b"q\xe2\x80\xae.py",
    b"q\nb.py",
    b"q\xff.py",
    b"two words.py",
    b"\"quoted\".py",
    b"back\\slash.py",
    b"\xe6\xbd\xae.py",
];

const SOURCE: &str = "import os\n\n\ndef fare(kinds=[]):\n    x\u{202e}\u{9b} = 'a\u{1b}[31m\u{7f}'  # sieve: waive long-li\u{9b}ne because \u{1b}[2J\n    return kinds + \u{9b}y \n";

fn odd(source: &str) -> Ferry {
    let ferry = Ferry::in_git(&[]);
    for name in NAMES {
        std::fs::write(ferry.path("").join(std::ffi::OsStr::from_bytes(name)), source).expect("a file");
    }
    assert_eq!(ferry.commit("odd").status, 0);
    ferry
}

/// What is printed, without styles of our own.
fn raw_characters(bytes: &[u8], styles: bool) -> Vec<char> {
    let mut text = String::from_utf8_lossy(bytes).into_owned();
    if styles {
        for style in ["0", "1", "2", "31", "32", "33", "36", "7"] {
            text = text.replace(&format!("\u{1b}[{style}m"), "");
        }
    }
    let is_raw = |character: &char| {
        (character.is_control() && *character != '\n')
            || matches!(*character, '\u{61c}' | '\u{200e}' | '\u{200f}' | '\u{2028}'..='\u{202e}' | '\u{2066}'..='\u{2069}')
    };
    text.chars().filter(is_raw).collect()
}

#[test]
fn no_command_and_no_form_prints_anything_raw() {
    let ferry = odd(SOURCE);
    let place = "two words.py:4:10";
    let commands: &[&[&str]] = &[
        &["sift", "--mesh", "fine"],
        &["sift", "--mesh", "fine", "--output", "cards", "--held"],
        &["sift", "--mesh", "fine", "--output", "json", "--held", "--unsure"],
        &["sift", "--mesh", "fine", "--output", "counts"],
        &["sift", "--mesh", "fine", "--output", "lines", "--unsure"],
        &["sift", "q\u{1b}[31m.py", "no\u{1b}such.py"],
        &["waivers"],
        &["waivers", "--output", "json"],
        &["tree", "two words.py"],
        &["tree", "two words.py", "--output", "json"],
        &["tree", "no\u{9b}such.py"],
        &["explain", "no\u{1b}[2Jsuch"],
        &["settings", "q\u{7f}.py"],
        &["rename", place, "n\u{1b}ew"],
        &["rename", place, "sorts", "--preview"],
        &["waive", "q\u{9b}31m.py:1", "unused-import", "--because", "x\u{1b}[2J"],
        &["baseline", "take"],
        &["baseline", "status"],
        &["fix", "--mesh", "fine"],
        &["fix", "--undo"],
    ];
    for arguments in commands {
        for colour in ["never", "always"] {
            let mut all = arguments.to_vec();
            all.extend(["--color", colour]);
            // A patch is printed in the bytes of the files, unless it is for eyes.
            if arguments.contains(&"--preview") && colour == "never" {
                continue;
            }
            let output = ferry.command(&all).output().expect("the program runs");
            for bytes in [&output.stdout, &output.stderr] {
                let raw = raw_characters(bytes, colour == "always");
                assert!(raw.is_empty(), "{all:?} prints {raw:?}:\n{}", String::from_utf8_lossy(bytes));
            }
        }
    }
}

#[test]
fn settings_and_baselines_are_quoted_safely() {
    let ferry = Ferry::with(&[("a.py", "x = 1\n")]);
    for (name, content) in [
        ("sieve.toml", "mesh = \"fi\u{9b}ne\"\n"),
        ("sieve.toml", "\"ru\u{202e}les\" = 1\n"),
        ("sieve-baseline.jsonl", "{\"form\":1}\n{\"rule\":\"\u{9b}\"\n"),
    ] {
        ferry.write(name, content);
        let output = ferry.command(&["sift"]).output().expect("the program runs");
        assert_eq!(output.status.code(), Some(2), "{}", String::from_utf8_lossy(&output.stderr));
        assert!(raw_characters(&output.stderr, false).is_empty(), "{}", String::from_utf8_lossy(&output.stderr));
        std::fs::remove_file(ferry.path(name)).expect("removing");
    }
}

#[test]
fn a_patch_with_odd_names_is_taken_by_git() {
    let ferry = odd("import os\nx = 1\n");
    let patch = ferry.command(&["fix", "--preview"]).output().expect("the program runs").stdout;
    ferry.write(".git/a.patch", &patch);
    let applied = ferry.git(&["apply", ".git/a.patch"]);
    assert_eq!(applied.status, 0, "{applied:?}\n{}", String::from_utf8_lossy(&patch));
    assert_eq!(ferry.run(&["fix"]).out.lines().last().map(|line| line.starts_with("Nothing to fix")), Some(true));
}

#[test]
fn a_patch_from_a_folder_is_taken_by_git_there_and_at_the_top() {
    let ferry = Ferry::in_git(&[("booking/a.py", "import os\n")]);
    assert_eq!(ferry.commit("first").status, 0);
    let mut command = ferry.command(&["fix", "--preview"]);
    let patch = ended(command.current_dir(ferry.path("booking"))).out;
    ferry.write(".git/a.patch", &patch);
    let applied = ferry.git(&["apply", ".git/a.patch"]);
    assert_eq!(applied.status, 0, "{applied:?}\n{patch}");
    assert_eq!(ferry.read("booking/a.py"), "");
}

/// How a run ends does not depend on whether somebody reads lines to the end; a document is for a program, which needs all of it.
#[test]
fn the_status_is_the_same_with_a_closed_pipe() {
    let sources: String = (0..3000).map(|number| format!("import mod{number}\n")).collect();
    let ferry = Ferry::with(&[("a.py", &sources)]);
    for (form, status) in [("lines", "1\n"), ("cards", "1\n"), ("counts", "1\n"), ("json", "3\n")] {
        let script =
            format!("exec 3>&1; {{ \"$0\" sift --output {form} 2>/dev/null; echo $? >&3; }} | head -c 1 >/dev/null");
        let mut command = assert_cmd::Command::new("sh");
        command.arg("-c").arg(script).arg(ferry.command(&[]).get_program()).current_dir(ferry.path(""));
        command.env("XDG_CACHE_HOME", ferry.path(".git/c")).env("XDG_STATE_HOME", ferry.path(".git/s"));
        assert_eq!(ended(&mut command).out, status, "{form}");
    }
}

/// A full disk or a closed descriptor under standard error is no reason to end otherwise.
#[test]
fn standard_error_need_not_take_anything() {
    let ferry = Ferry::with(&[("a.py", "import os\n")]);
    for redirection in ["2>&-", "2>/dev/full"] {
        let mut command = assert_cmd::Command::new("sh");
        command.arg("-c").arg(format!("\"$0\" sift . no-such {redirection}"));
        command.arg(ferry.command(&[]).get_program()).current_dir(ferry.path(""));
        command.env("XDG_CACHE_HOME", ferry.path(".git/c")).env("XDG_STATE_HOME", ferry.path(".git/s"));
        assert_eq!(ended(&mut command).status, 3, "{redirection}");
    }
}
