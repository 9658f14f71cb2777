//! Scopes and waivers in the settings, and the list of all waivers.

use serde_json::Value;

use crate::ferry::Ferry;

const SETTINGS: &str = "\
[[scope]]
paths = [\"tests/**\"]
because = \"fixtures repeat values on purpose\"
rules = { unused-import = \"off\", undefined-name = \"warning\" }

[[waive]]
paths = [\"legacy/**\"]
rules = [\"leftover\"]
because = \"to be retired\"
until = 9000-06-30

[[waive]]
paths = [\"legacy/**\"]
rules = [\"undefined-name\"]
because = \"was looked at\"
until = 2020-01-31
";

const CODE: &str = "import os\nprint(tide)\n";

fn ferry() -> Ferry {
    Ferry::with(&[("sieve.toml", SETTINGS), ("a.py", CODE), ("tests/b.py", CODE), ("legacy/c.py", CODE)])
}

#[test]
fn scopes_hold_for_their_paths_and_what_they_hold_back_is_counted() {
    let ended = ferry().run(&["sift"]);
    assert_eq!(
        ended.out,
        "a.py:1:8: warning: \"os\" is imported and never used [unused-import]\n\
         a.py:2:7: error: nothing defines \"tide\" [undefined-name]\n\
         legacy/c.py:2:7: error: nothing defines \"tide\" [undefined-name]\n\
         tests/b.py:2:7: warning: nothing defines \"tide\" [undefined-name]\n"
    );
    assert!(ended.err.contains("held back       2    1 by a scope, 1 by a waiver"), "{}", ended.err);
    let held = ferry().run(&["sift", "--held", "--output", "json"]).out;
    assert!(held.contains("fixtures repeat values on purpose") && held.contains("\"at\": \"sieve.toml:6\""), "{held}");
}

#[test]
fn settings_are_told_for_a_file_with_its_scopes() {
    let settings = ferry().run(&["settings", "tests/b.py"]).out;
    let line = settings.lines().find(|line| line.contains("undefined-name")).unwrap_or_default();
    assert!(line.contains("warning") && line.contains("sieve.toml:4"), "{settings}");
}

#[test]
fn fixes_leave_what_scopes_and_waivers_hold_back() {
    let ferry = ferry();
    assert_eq!(ferry.run(&["fix"]).status, 0);
    assert_eq!(ferry.read("a.py"), "print(tide)\n");
    assert_eq!((ferry.read("tests/b.py").as_str(), ferry.read("legacy/c.py").as_str()), (CODE, CODE));
}

#[test]
fn every_waiver_is_listed_what_needs_care_first() {
    let ferry = ferry();
    ferry.write("d.py", "import os  # sieve: waive unused-import because it registers itself\nx = 1  # sieve: waive repeated-key because old\n");
    let listed = ferry.run(&["waivers"]);
    let lines: Vec<&str> = listed.out.lines().collect();
    assert!(
        lines[0].starts_with("expired    sieve.toml:12  undefined-name  because was looked at until 2020-01-31"),
        "{}",
        listed.out
    );
    assert!(lines[1].starts_with("stale      d.py:2"), "{}", listed.out);
    assert!(lines[2].starts_with("holds   1  d.py:1"), "{}", listed.out);
    assert!(lines[3].starts_with("holds   1  sieve.toml:6"), "{}", listed.out);
    assert_eq!(lines.last(), Some(&"4 waivers, 2 findings held back, 1 expired, 1 stale"));
    let document: Value = serde_json::from_str(&ferry.run(&["waivers", "--output", "json"]).out).expect("JSON");
    assert_eq!(document["waivers"][2]["because"], "it registers itself");
}

#[test]
fn who_wrote_a_waiver_and_when_is_told_where_git_knows() {
    let waived = "import os  # sieve: waive unused-import because it registers itself\n";
    let ferry = Ferry::in_git(&[("a.py", waived), ("b.py", "x = 1\n")]);
    assert_eq!(ferry.git(&["add", "--all"]).status, 0);
    assert_eq!(ferry.git(&["commit", "--quiet", "--message", "a", "--date", "2026-03-01T12:00:00Z"]).status, 0);
    ferry.write("b.py", waived);
    let listed = ferry.run(&["waivers"]).out;
    let lines: Vec<&str> = listed.lines().collect();
    assert!(lines[0].ends_with("because it registers itself, since 2026-03-01 by crew"), "{listed}");
    assert!(lines[1].ends_with("because it registers itself"), "{listed}");
    let document: Value = serde_json::from_str(&ferry.run(&["waivers", "--output", "json"]).out).expect("JSON");
    assert_eq!(
        (&document["waivers"][0]["since"], &document["waivers"][0]["by"]),
        (&"2026-03-01".into(), &"crew".into())
    );
    assert_eq!(document["waivers"][1]["since"], Value::Null);
}

#[test]
fn the_tool_writes_waivers_and_says_what_they_hold() {
    let ferry = Ferry::with(&[("a.py", CODE)]);
    let written =
        ferry.run(&["waive", "a.py:1", "unused-import", "--because", "it registers itself", "--until", "9000-01-01"]);
    assert_eq!(written.status, 0, "{}", written.err);
    assert!(written.out.contains("It holds back 1 finding."), "{}", written.out);
    assert_eq!(
        ferry.read("a.py"),
        "import os  # sieve: waive unused-import because it registers itself until 9000-01-01\nprint(tide)\n"
    );
    let nothing = ferry.run(&["waive", "a.py:2", "long-line", "--because", "x"]);
    assert!(nothing.out.contains("It holds nothing back"), "{}", nothing.out);
    for (arguments, message) in [
        (&["waive", "a.py", "layout", "--because", "x"][..], "a.py: name a file and a line"),
        (&["waive", "a.py:99", "layout", "--because", "x"], "a.py:99: there is no such line; the file has 2"),
        (&["waive", "a.py:1", "layuot", "--because", "x"], "the nearest is \"layout\""),
        (&["waive", "a.py:1", "layout", "--because", " "], "--because is empty"),
        (&["waive", "a.py:1", "layout", "--because", "x", "--until", "soon"], "--until is a day such as 2027-06-30"),
    ] {
        let ended = ferry.run(arguments);
        assert_eq!(ended.status, 2, "{ended:?}");
        assert!(ended.err.contains(message), "{ended:?}");
    }
}

#[test]
fn wrong_scopes_and_waivers_are_refused() {
    for (text, message) in [
        ("[[scope]]\npaths = [\"a/**\"]\n", "sieve.toml:1:1: a scope names its paths, and its rules or its naming"),
        ("[[scope]]\npath = [\"a/**\"]\n", "sieve.toml:2:1: a scope has no \"path\"; the nearest is \"paths\""),
        (
            "[[waive]]\npaths = [\"a/**\"]\nrules = [\"layout\"]\n",
            "sieve.toml:1:1: a waiver names its paths, its rules, and says because of what",
        ),
        (
            "[[waive]]\nrules = [\"layuot\"]\n",
            "sieve.toml:2:10: there is no rule or concern \"layuot\"; the nearest is \"layout\"",
        ),
        (
            "[[waive]]\nuntil = \"soon\"\n",
            "sieve.toml:2:9: a day such as 2027-06-30 is wanted here, not the string \"soon\"",
        ),
        ("scope = 3\n", "sieve.toml:1:9: a list of tables, each headed [[scope]], is wanted here, not the number 3"),
    ] {
        let ended = Ferry::with(&[("sieve.toml", text), ("a.py", "x = 1\n")]).run(&["sift"]);
        assert_eq!((ended.status, ended.err.trim_end()), (2, format!("hsieve: {message}").as_str()), "{text}");
    }
}
