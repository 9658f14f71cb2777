//! Wrong use of each command: one clear message, the right status, nothing lost.

use crate::ferry::{Ended, Ferry, ended};

/// The one message of a run that did nothing else.
#[track_caller]
fn assert_refused(ended: &Ended, status: i32, message: &str) {
    assert_eq!(ended.status, status, "{ended:?}");
    assert_eq!(ended.err.lines().count(), 1, "{ended:?}");
    assert!(ended.err.starts_with("hsieve: ") && ended.err.contains(message), "{ended:?}");
}

#[test]
fn missing_files_are_named_and_the_rest_is_done() {
    let ferry = Ferry::with(&[("a.py", "import os\n")]);
    let ended = ferry.run(&["sift", "no.py", "a.py", "--quiet"]);
    assert_refused(&ended, 3, "no.py: cannot read it: there is no such file or folder");
    assert_eq!(ended.out.lines().count(), 1, "what could be read is reported");
    assert_refused(&ferry.run(&["fix", "no.py", "--quiet"]), 3, "no.py: cannot read it");
    assert_refused(&ferry.run(&["tree", "no.py"]), 3, "no.py: cannot read it");
    assert_refused(&ferry.run(&["settings", "no.py"]), 3, "no.py: there is no such file");
    assert_refused(&ferry.run(&["sift", "--settings", "no.toml"]), 2, "no.toml: cannot read it");
}

#[test]
fn wrong_names_and_values_tell_the_nearest_right_one() {
    let ferry = Ferry::with(&[("a.py", "x = 1\n")]);
    for (arguments, message) in [
        (
            &["sift", "--only", "unused-imprt"][..],
            "--only: there is no rule or concern \"unused-imprt\"; the nearest is \"unused-import\"",
        ),
        (&["sift", "--without", "layuot"], "the nearest is \"layout\""),
        (&["sift", "--mesh", "cors"], "--mesh cannot be \"cors\"; the nearest is \"coarse\""),
        (&["sift", "--level", "eror"], "--level cannot be \"eror\"; the nearest is \"error\""),
        (&["sift", "--fail-on", "never"], "--fail-on cannot be \"never\""),
        (&["sift", "--output", "jsn"], "--output cannot be \"jsn\"; the nearest is \"json\""),
        (&["explain", "magic-numer"], "the nearest is \"magic-number\""),
        (&["tree", "a.py:9"], "a.py: there is no line 9; the file has 1"),
        (&["tree", "a.py:1:99"], "a.py: line 1 has no column 99"),
        (&["sift", "-"], "the language of standard input is not known"),
        (&["sift", "-", "a.py"], "`-` is standard input"),
        (&["baseline", "status"], "there is no baseline (sieve-baseline.jsonl)"),
        (&["baseline", "trim"], "there is no baseline"),
        (&["demo", "."], "this is not an empty folder"),
    ] {
        assert_refused(&ferry.run(arguments), 2, message);
    }
    for arguments in
        [&["sift", "--thread", "3"][..], &["sift", "--threads", "0"], &["weave"], &["completions", "abacus"], &[]]
    {
        assert_eq!(ferry.run(arguments).status, 2, "{arguments:?}");
    }
}

#[test]
fn a_broken_baseline_is_told_and_kept() {
    let ferry = Ferry::with(&[("a.py", "import os\nimport sys\n")]);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    let whole = ferry.read("sieve-baseline.jsonl");
    let cut = &whole[..whole.len() - 20];
    let cases = [
        (cut.to_string(), "sieve-baseline.jsonl:3: the file ends in the middle of an entry"),
        (whole.replace("\"form\":1", "\"form\":2"), "this baseline has form 2, and this version knows form 1"),
        ("no baseline\n".to_string(), "sieve-baseline.jsonl:1: this is no baseline of Honest Sieve"),
        (whole.replace("\"code\"", "\"cod\""), "this line is no entry"),
    ];
    for (text, message) in cases {
        ferry.write("sieve-baseline.jsonl", &text);
        for command in [&["sift"][..], &["fix"], &["baseline", "take"], &["baseline", "status"], &["baseline", "trim"]]
        {
            assert_refused(&ferry.run(command), 2, message);
        }
        assert_eq!(ferry.read("sieve-baseline.jsonl"), text, "it is left as it was");
        assert_eq!(ferry.run(&["sift", "--no-baseline"]).status, 1);
    }
}

/// Who reads lines may stop at any; a part of a document is of no use to anybody.
#[cfg(unix)]
#[test]
fn a_reader_that_leaves_early_is_no_error_but_for_documents() {
    let ferry = Ferry::empty();
    for number in 0..300 {
        ferry.write(&format!("a{number}.py"), "import os\n".repeat(60));
    }
    let program = assert_cmd::cargo::cargo_bin!("hsieve").display().to_string();
    let left = |form: &str| {
        let script = format!("{{ {program} sift --quiet --output {form}; echo $? >&2; }} | head -1");
        ended(assert_cmd::Command::new("sh").args(["-c", &script]).current_dir(ferry.path(".")))
    };
    for form in ["lines", "jsonl", "cards"] {
        let ended = left(form);
        assert_eq!((ended.err.as_str(), ended.out.lines().count()), ("1\n", 1), "{form}");
    }
    for form in ["json", "sarif", "junit"] {
        let said = "hsieve: standard output: cannot write it: its reader left before the end\n3\n";
        assert_eq!(left(form).err, said, "{form}");
    }
}

#[test]
fn binary_and_unreadable_text_has_a_message_in_tree() {
    let ferry = Ferry::empty();
    ferry.write("a.py", b"x = '\xff'\n");
    assert_refused(&ferry.run(&["tree", "a.py"]), 3, "a.py: the file byte 5 is not UTF-8");
    ferry.write("b.txt", "x\n");
    assert_refused(&ferry.run(&["tree", "b.txt"]), 2, "b.txt: the language of this file is not known");
}
