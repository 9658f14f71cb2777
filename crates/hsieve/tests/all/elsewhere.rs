//! Paths that are named from somewhere else: the code base around them counts, not the one around the working folder.

use crate::ferry::Ferry;

fn quay() -> Ferry {
    Ferry::with(&[
        ("sieve.toml", "[rules]\nmagic-number = \"off\"\n"),
        ("tides.py", "def low(day):\n    return day\n"),
        ("desk.py", "import os\nimport tides\n\ntides.high(42)\n"),
    ])
}

/// Its folder, as it is shown from one beside it.
fn beside(quay: &Ferry) -> String {
    format!("../{}", quay.path(".").file_name().expect("a folder").to_string_lossy())
}

#[test]
fn a_code_base_is_the_same_from_everywhere() {
    let (here, quay) = (Ferry::with(&[("sieve.toml", "mesh = \"coarse\"\n")]), quay());
    let folder = beside(&quay);
    let arguments = ["sift", "--mesh", "fine", "--output", "lines"];
    let from_there = quay.run(&arguments);
    let from_here = here.run(&[&arguments[..], &[&folder]].concat());
    let findings =
        |out: &str| -> Vec<String> { out.lines().map(|line| line.replace(&format!("{folder}/"), "")).collect() };
    assert!(from_there.out.contains("tides has no \"high\"") && !from_there.out.contains("42"), "{from_there:?}");
    assert_eq!(findings(&from_here.out), findings(&from_there.out));
}

#[test]
fn a_fixing_run_elsewhere_says_how_it_is_taken_back() {
    let (here, quay) = (Ferry::empty(), quay());
    let folder = beside(&quay);
    let before = quay.read("desk.py");
    let ended = here.run(&["fix", &folder]);
    assert!(ended.out.contains(&format!("`hsieve fix --undo {folder}` takes this run back.")), "{ended:?}");
    assert_ne!(quay.read("desk.py"), before);
    assert_eq!(here.run(&["fix", "--undo"]).status, 2, "nothing was fixed here");
    assert_eq!(here.run(&["fix", "--undo", &folder]).status, 0);
    assert_eq!(quay.read("desk.py"), before);
}

/// What tells of a finding names what nothing uses; it is no use of it.
#[test]
fn what_the_program_wrote_itself_mentions_nothing() {
    let ferry = Ferry::with(&[
        ("fares.ts", "export function lowest() {}\n"),
        ("tide.pyc", "lowest\0"),
        ("sieve.toml", "[rules]\nunused-export = \"warning\"\n"),
    ]);
    let found = || {
        let run = ferry.run(&["sift", "--output", "lines", "--no-cache", "--held", "--no-baseline"]);
        assert!(run.out.contains("no other file mentions \"lowest\""), "{run:?}");
    };
    found();
    for form in ["json", "jsonl", "sarif", "junit", "markdown"] {
        assert!(
            ferry.run(&["sift", "--output", form, "--to", "found", "--no-cache"]).err.contains("warning"),
            "{form}"
        );
        assert!(ferry.read("found").contains("lowest"), "{form}");
        found();
    }
    for form in ["html", "markdown", "csv"] {
        assert_eq!(ferry.run(&["report", "--output", form, "--to", "found", "--no-cache"]).status, 0, "{form}");
        assert!(ferry.read("found").contains("lowest"), "{form}");
        found();
    }
    assert_eq!(ferry.run(&["sift", "--shard", "1/1", "--to", "found", "--no-cache"]).status, 0);
    found();
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    assert!(ferry.read("sieve-baseline.jsonl").contains("lowest"));
    found();
    let run = ferry.run(&["sift", "--output", "lines", "--no-cache"]);
    assert!(run.out.is_empty() && run.err.contains("1 by the baseline") && !run.err.contains("gone"), "{run:?}");
}
