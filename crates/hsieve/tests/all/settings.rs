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
        "a.py:1:8: error: \"os\" is imported but never used [unused-import]\n\
         tools/b.py:1:10: note: a space at the end of the line [trailing-space]\n"
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
        ("a.py", "x1 = y1 = 1\nprint(x1 * 0.55 + y1 * 7)\n"),
    ]);
    let out = ferry.run(&["sift"]).out;
    assert_eq!(
        out,
        "a.py:2:21: note: 25 characters, 20 are allowed [long-line]\na.py:2:24: error: 7 appears without a name [magic-number]\n"
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

#[test]
fn only_these_rules_run_where_settings_say_so() {
    let ferry = Ferry::with(&[
        ("sieve.toml", "only = [\"unused-import\", \"PEP 8\"]\n"),
        ("a.py", "import os\n\n\ndef fare(kinds=[]):\n    return 1; return 2  \n"),
        ("inner/sieve.toml", "[rules]\nmutable-default = \"error\"\n"),
        ("inner/a.py", "def fare(kinds=[]):\n    return kinds\n"),
    ]);
    let found = ferry.run(&["sift", "--output", "lines"]).out;
    let rules: Vec<&str> = found.lines().filter_map(|line| line.rsplit(' ').next()).collect();
    assert_eq!(rules, ["[unused-import]", "[stacked-statements]", "[trailing-space]", "[mutable-default]"], "{found}");
    let shown = ferry.run(&["settings"]).out;
    assert!(shown.contains("* only") && shown.contains("sieve.toml:1"), "{shown}");
}

#[test]
fn options_take_rules_concerns_and_standards() {
    let ferry = Ferry::with(&[("a.py", "import os\nfare = 1; tide = 2  \n")]);
    for (only, count) in [("pep-8", 2), ("PEP 8,leftover", 3), ("layout", 2), ("unused-import", 1)] {
        let found = ferry.run(&["sift", "--only", only]).out;
        assert_eq!(found.lines().count(), count, "{only}: {found}");
    }
    assert_eq!(ferry.run(&["sift", "--mesh", "fine", "--without", "PEP 8,docs"]).out.lines().count(), 1);
    let pack = ferry.run(&["sift", "--only", "quays:*"]);
    assert_eq!(pack.status, 2);
    assert!(pack.err.contains("--only: there is no pack \"quays\""), "{pack:?}");
}

#[test]
fn names_and_bans_are_kept_and_validated() {
    let ferry = Ferry::with(&[(
        "sieve.toml",
        "[naming]\nconstant = \"UPPER_SNAKE\"\n\n[[ban]]\nimport = \"tides.raw\"\nbecause = \"use tides.table\"\n",
    )]);
    let shown = ferry.run(&["settings"]).out;
    assert!(shown.contains("* naming.constant") && shown.contains("sieve.toml:2"), "{shown}");
    assert!(shown.contains("tides.raw  because use tides.table"), "{shown}");
    for (text, message) in [
        ("[naming]\nconst = \"UPPER_SNAKE\"\n", "sieve.toml:2:1: there is no setting \"naming.const\""),
        ("[naming]\ntype = \"Camel\"\n", "sieve.toml:2:8: \"Camel\" is not a style of names"),
        (
            "[[ban]]\nimport = \"a\"\n",
            "sieve.toml:1:1: a ban needs one of `import`, `call` and `member`, and a `because`",
        ),
        ("[[ban]]\nimport = \"a\"\ncall = \"b\"\nbecause = \"c\"\n", "a ban is for one thing"),
        ("[[ban]]\nimprot = \"a\"\n", "sieve.toml:2:1: a ban has no \"improt\"; the nearest is \"import\""),
        ("[[budget]]\npaths = [\"a\"]\n", "sieve.toml:1:1: a budget needs `most`"),
        ("[baseline]\nstrcit = true\n", "there is no setting \"baseline.strcit\"; the nearest is \"strict\""),
        (
            "only = [\"leftovers\"]\n",
            "sieve.toml:1:9: there is no rule or concern \"leftovers\"; the nearest is \"leftover\"",
        ),
    ] {
        ferry.write("sieve.toml", text);
        let ended = ferry.run(&["settings"]);
        assert_eq!(ended.status, 2, "{text}");
        assert!(ended.err.contains(message), "{text}\n{}", ended.err);
    }
}

#[test]
fn a_value_is_changed_in_place() {
    let ferry = Ferry::with(&[("sieve.toml", "# ours\nmesh = \"fine\"  # all\n"), ("inner/a.py", "x = 1\n")]);
    let set = ferry.run(&["settings", "set", "mesh", "coarse"]);
    assert_eq!((set.status, set.out.as_str()), (0, "sieve.toml\n      2  mesh = \"coarse\"  # all\n"));
    assert_eq!(ferry.read("sieve.toml"), "# ours\nmesh = \"coarse\"  # all\n");
    let again = ferry.run(&["settings", "set", "mesh", "coarse"]);
    assert_eq!(again.out, "sieve.toml has it so already\n");
    let inner = ferry.run(&["settings", "set", "long-line.limit", "120", "--file", "inner/sieve.toml"]);
    assert_eq!(inner.status, 0, "{inner:?}");
    assert_eq!(ferry.read("inner/sieve.toml"), "[rules]\nlong-line = { limit = 120 }\n");
    for (key, value, message) in [
        ("mesh", "corse", "sieve.toml:2:8: \"corse\" is not a mesh; the nearest is \"coarse\""),
        (
            "unused-imprt",
            "off",
            "there is no setting \"unused-imprt\" that holds one value; the nearest is \"unused-import\"",
        ),
        ("long-line.limit", "wide", "a whole number of at least zero is wanted here, not the string \"wide\""),
    ] {
        let before = ferry.read("sieve.toml");
        let refused = ferry.run(&["settings", "set", key, value]);
        assert_eq!(refused.status, 2, "{refused:?}");
        assert!(refused.err.contains(message), "{refused:?}");
        assert_eq!(ferry.read("sieve.toml"), before);
    }
}

#[test]
fn patterns_that_match_nothing_are_told_where_everything_was_looked_at() {
    let ferry = Ferry::with(&[
        (
            "sieve.toml",
            "[files]\nskip = [\"vendor/**\"]\n[[waive]]\npaths = [\"bookign/**\"]\nrules = [\"layout\"]\nbecause = \"old\"\n",
        ),
        ("booking/a.py", "x = 1\n"),
        ("vendor/notes.txt", "not a source, and there all the same\n"),
    ]);
    let whole = ferry.run(&["sift"]);
    assert_eq!(whole.out, "sieve.toml:4:10: warning: \"bookign/**\" matches no file below this folder [idle-scope]\n");
    assert_eq!(whole.status, 1);
    assert_eq!(ferry.run(&["sift", "booking"]).status, 0, "a part of the folder tells nothing");
    ferry.write("sieve.toml", "[rules]\nidle-scope = \"off\"\n[files]\nskip = [\"vendro/**\"]\n");
    assert_eq!(ferry.run(&["sift"]).status, 0);
}

#[test]
fn names_that_generators_give_are_left_out() {
    let ferry = Ferry::with(&[("tides_pb2.py", "import os\n"), ("a.py", "x = 1\n")]);
    let ended = ferry.run(&["sift"]);
    assert!(ended.status == 0 && ended.err.contains("1    files: 1 generated"), "{ended:?}");
    assert_eq!(ferry.run(&["sift", "tides_pb2.py"]).status, 1, "what is named is sifted");
}

#[test]
fn a_file_shows_the_values_that_hold_for_its_language() {
    let ferry = Ferry::with(&[
        ("sieve.toml", "[naming]\nfunction = \"any\"\n[naming.python]\nfunction = \"camelCase\"\n"),
        ("a.py", "x = 1\n"),
        ("b.ts", "const x = 1;\n"),
    ]);
    let python = ferry.run(&["settings", "a.py"]).out;
    assert!(python.contains("naming.python.function") && !python.contains("naming.function"), "{python}");
    assert!(python.contains("mutable-default") && !python.contains("semicolons"), "{python}");
    assert!(python.contains("rules for other languages are not shown"), "{python}");
    let script = ferry.run(&["settings", "b.ts"]).out;
    assert!(script.contains("naming.function") && !script.contains("naming.python.function"), "{script}");
    assert!(script.contains("semicolons") && !script.contains("mutable-default"), "{script}");
    let folder = ferry.run(&["settings"]).out;
    assert!(folder.contains("naming.python.function") && folder.contains("naming.function"), "{folder}");
    assert!(folder.contains("semicolons") && folder.contains("mutable-default"), "{folder}");
}

#[test]
fn commands_take_only_the_options_that_mean_something_to_them() {
    let ferry = Ferry::with(&[("a.py", "x = 1\n")]);
    for (command, option) in [
        (&["fix"][..], "--staged"),
        (&["baseline", "take"], "--changed"),
        (&["baseline", "take"], "--no-baseline"),
        (&["baseline", "trim"], "--staged"),
        (&["baseline", "status"], "--changed"),
        (&["waivers"], "--staged"),
    ] {
        let help = ferry.run(&[command, &["--help"]].concat()).out;
        assert!(help.contains("--mesh") && !help.contains(option), "{command:?} {option}");
        let ended = ferry.run(&[command, &[option]].concat());
        assert!(ended.status == 2 && ended.err.contains(option), "{command:?} {option}: {ended:?}");
    }
    for option in ["--changed", "--no-baseline", "--staged"] {
        assert!(ferry.run(&["sift", "--help"]).out.contains(option), "{option}");
    }
}
