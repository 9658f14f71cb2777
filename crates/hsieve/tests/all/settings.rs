//! Settings: found upwards, refused with their place.

use crate::ferry::Ferry;

#[test]
fn the_nearest_file_wins_key_by_key() {
    let ferry = Ferry::with(&[
        ("sieve.toml", "mesh = \"fine\"\n[rules]\nunused-import = \"error\"\nmissing-doc = \"off\"\n"),
        ("tools/sieve.toml", "[rules]\nunused-import = \"off\"\n"),
        ("a.py", "import os\n"),
        ("tools/b.py", "import os \n"),
    ]);
    let out = ferry.run(&["sift"]).out;
    assert_eq!(
        out,
        "a.py:1:8: error: \"os\" is imported and never used [unused-import]\n\
         tools/b.py:1:10: note: a blank at the end of the line [trailing-space]\n"
    );
    let settings = ferry.run(&["settings", "tools/b.py"]).out;
    let line = |name: &str| settings.lines().find(|line| line.contains(name)).unwrap_or_default().to_string();
    assert!(
        line("unused-import").contains("off") && line("unused-import").contains("tools/sieve.toml:2"),
        "{settings}"
    );
    assert!(line("missing-doc").contains("sieve.toml:4"), "{settings}");
    assert!(line("mesh").contains("sieve.toml:1") && line("mesh").contains("the default is medium"), "{settings}");
}

#[test]
fn top_leaves_settings_further_up_aside() {
    let ferry = Ferry::with(&[
        ("sieve.toml", "[rules]\nunused-import = \"off\"\n"),
        ("tools/sieve.toml", "top = true\n"),
        ("tools/b.py", "import os\n"),
    ]);
    assert_eq!(ferry.run(&["sift"]).status, 1);
}

#[test]
fn options_reach_their_rule() {
    let ferry = Ferry::with(&[
        (
            "sieve.toml",
            "[rules]\nmagic-number = { level = \"error\", allowed = [0.55] }\nlong-line = { level = \"note\", limit = 20 }\n",
        ),
        ("a.py", "print(x1 * 0.55 + y1 * 7)\nx1 = y1 = 1\n"),
    ]);
    let out = ferry.run(&["sift"]).out;
    assert_eq!(
        out,
        "a.py:1:21: note: 25 characters, 20 are allowed [long-line]\na.py:1:24: error: 7 appears without a name [magic-number]\n"
    );
}

#[test]
fn what_is_not_known_is_refused_with_its_place() {
    let cases = [
        ("mehs = \"fine\"\n", "sieve.toml:1:1: there is no setting \"mehs\"; the nearest is \"mesh\""),
        ("mesh = \"finer\"\n", "sieve.toml:1:8: \"finer\" is not a mesh; the nearest is \"fine\""),
        (
            "[rules]\nunused-imprt = \"off\"\n",
            "sieve.toml:2:1: there is no rule \"unused-imprt\"; the nearest is \"unused-import\"",
        ),
        (
            "[rules]\nlong-line = { limt = 3 }\n",
            "sieve.toml:2:15: long-line has no option \"limt\"; the nearest is \"limit\"",
        ),
        (
            "[rules]\nlong-line = { limit = -3 }\n",
            "sieve.toml:2:23: a whole number of at least zero is wanted here, not the number -3",
        ),
        (
            "[rules]\nlong-line = \"loud\"\n",
            "sieve.toml:2:13: \"loud\" is not a level; there are: off, note, warning, error",
        ),
        (
            "[rules]\nmagic-number = { allowed = 3 }\n",
            "sieve.toml:2:28: a list of numbers is wanted here, not the number 3",
        ),
        ("[files]\nskip = [\"a[\"]\n", "sieve.toml:2:9: \"a[\" is no pattern"),
        ("mesh = \n", "sieve.toml:1:8: this is not TOML"),
        ("defaults = \"9.9\"\n", "sieve.toml:1:12: this version knows the defaults of 0.1, not of \"9.9\""),
        ("[files]\nlanguages = { \"*.inc\" = \"cobol\" }\n", "sieve.toml:2:25: \"cobol\" is not a language"),
    ];
    for (text, message) in cases {
        let ferry = Ferry::with(&[("sieve.toml", text), ("a.py", "x = 1\n")]);
        for command in [&["sift"][..], &["fix"], &["settings"], &["rules"], &["baseline", "take"]] {
            let ended = ferry.run(command);
            assert_eq!(ended.status, 2, "{text}{command:?}: {}", ended.err);
            assert!(ended.err.starts_with(&format!("hsieve: {message}")), "{text}{command:?}: {}", ended.err);
        }
    }
}

#[test]
fn rules_and_settings_show_what_is_in_force() {
    let ferry = Ferry::with(&[("sieve.toml", "[rules]\nlong-line = \"error\"\n")]);
    let rules = ferry.run(&["rules", "layout"]).out;
    assert!(rules.lines().any(|line| line.contains("error") && line.contains("long-line")), "{rules}");
    assert!(!rules.contains("unused-import"));
    assert_eq!(ferry.run(&["rules", "no-such-thing"]).status, 2);
    assert!(ferry.run(&["rules", "fixable", "--output", "json"]).out.contains("\"fix\": \"exact\""));
}
