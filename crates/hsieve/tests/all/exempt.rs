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

/// What three files use and none binds would be taken to come from outside.
const LEGACY: &str = "import os\nprint(quay)\n";

fn ferry() -> Ferry {
    Ferry::with(&[("sieve.toml", SETTINGS), ("a.py", CODE), ("tests/b.py", CODE), ("legacy/c.py", LEGACY)])
}

#[test]
fn scopes_hold_for_their_paths_and_what_they_hold_back_is_counted() {
    let ended = ferry().run(&["sift"]);
    assert_eq!(
        ended.out,
        "a.py:1:8: warning: \"os\" is imported but never used [unused-import]\n\
         a.py:2:7: error: nothing defines \"tide\" [undefined-name]\n\
         legacy/c.py:2:7: error: nothing defines \"quay\" [undefined-name]\n\
         sieve.toml:12:1: warning: this waiver held until 2020-01-31 and holds no longer [expired-waiver]\n\
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
    assert_eq!((ferry.read("tests/b.py").as_str(), ferry.read("legacy/c.py").as_str()), (CODE, LEGACY));
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
    assert_eq!(ferry.run(&["fix", "--undo"]).status, 0);
    assert_eq!(ferry.read("a.py"), CODE);
    let preview = ferry.run(&["waive", "a.py:2:7", "undefined-name", "--because", "the host defines it", "--preview"]);
    assert_eq!(preview.status, 1);
    assert!(
        preview.out.contains("+print(tide)  # sieve: waive undefined-name because the host defines it"),
        "{preview:?}"
    );
    let before = ferry.read("a.py");
    for (arguments, message) in [
        (&["waive", "a.py", "layout", "--because", "x"][..], "a.py: name a file and a line"),
        (&["waive", "a.py:99", "layout", "--because", "x"], "a.py:99: there is no such line; the file has 2"),
        (&["waive", "a.py:1", "layuot", "--because", "x"], "the nearest is \"layout\""),
        (&["waive", "a.py:1", "layout", "--because", " "], "--because is empty"),
        (&["waive", "a.py:1", "layout", "--because", "x", "--until", "soon"], "--until is a day such as 2027-06-30"),
        (&["waive", "a.py:1", "layout", "--because", "x", "--until", "2020-01-01"], "--until 2020-01-01 is over"),
        (
            &["waive", "a.py:2", "long-line", "--because", "x"],
            "nothing was written: a waiver of long-line would hold nothing back here; the line has 2:7 undefined-name",
        ),
        (&["waive", "a.py:2:3", "undefined-name", "--because", "x"], "the line has 2:7 undefined-name"),
    ] {
        let ended = ferry.run(arguments);
        assert_eq!(ended.status, 2, "{ended:?}");
        assert!(ended.err.contains(message), "{ended:?}");
        assert_eq!(ferry.read("a.py"), before);
    }
}

#[test]
fn a_second_waiver_leaves_the_last_day_of_the_first_alone() {
    let ferry = Ferry::with(&[("a.py", "import os, os\n")]);
    let waive = |rule: &str, because: &str, until: &[&str]| {
        let mut arguments = vec!["waive", "a.py:1", rule, "--because", because];
        arguments.extend(until);
        ferry.run(&arguments)
    };
    assert_eq!(waive("unused-import", "it registers itself", &["--until", "9000-01-01"]).status, 0);
    let second = ferry.run(&["waive", "a.py:1", "repeated-import", "--because", "it registers itself"]);
    assert_eq!(second.status, 0, "{second:?}");
    assert_eq!(
        ferry.read("a.py"),
        "# sieve: waive repeated-import because it registers itself\n\
         import os, os  # sieve: waive unused-import because it registers itself until 9000-01-01\n"
    );
}

#[test]
fn a_waiver_between_tags_holds_exactly_its_finding() {
    let page = "export const page = (title) => (\n  <main>\n    <h1>{title == 'a' ? 1 : 2}</h1>\n    <p>{title == 'b' ? 1 : 2}</p>\n  </main>\n);\n";
    let ferry = Ferry::with(&[("page.jsx", page)]);
    let open = || ferry.run(&["sift", "--only", "undefined-name"]).out;
    assert_eq!(open(), "");
    ferry.write("page.jsx", page.replace("title == 'a' ? 1 : 2", "ttle").replace("title == 'b' ? 1 : 2", "ttle"));
    assert_eq!(open().lines().count(), 2);
    let waived = ferry.run(&["waive", "page.jsx:3", "undefined-name", "--because", "the host defines it"]);
    assert_eq!(waived.status, 0, "{waived:?}");
    assert!(waived.out.contains("It holds back 1 finding."), "{waived:?}");
    assert!(ferry.read("page.jsx").contains("</h1>{/* sieve: waive undefined-name because the host defines it */}\n"));
    assert_eq!(open().lines().count(), 1);
}

#[test]
fn a_resume_ends_what_it_names_and_nothing_else() {
    let code = "# sieve: pause undefined-name, unused-variable because a script of the host\n\
                print(ebb)\n\
                # sieve: resume undefined-name\n\
                print(flow)\n\n\n\
                def moor():\n    rope = 1\n\n\n\
                # sieve: resume\n\
                def cast_off():\n    rope = 1\n\n\n\
                # sieve: resume unused-variable\n";
    let found = Ferry::with(&[("a.py", code)]).run(&["sift"]).out;
    let places: Vec<&str> = found.lines().filter_map(|line| line.split(": ").next()).collect();
    assert_eq!(places, ["a.py:4:7", "a.py:13:5", "a.py:16:17"], "{found}");
    assert!(found.contains("\"unused-variable\" is not paused here [broken-directive]"), "{found}");
}

#[test]
fn a_waiver_with_a_day_that_is_none_holds_nothing_and_is_reported() {
    let found = Ferry::with(&[(
        "a.py",
        "import os  # sieve: waive unused-import because it registers itself until 2020-1-1\n",
    )])
    .run(&["sift"])
    .out;
    assert_eq!(
        found,
        "a.py:1:8: warning: \"os\" is imported but never used [unused-import]\n\
         a.py:1:75: warning: \"2020-1-1\" is no day, so this waiver holds nothing back [broken-directive]\n"
    );
}

#[test]
fn settings_say_why_and_their_idle_waivers_are_found() {
    let ferry = Ferry::with(&[
        (
            "sieve.toml",
            "[[waive]]\npaths = [\"*.py\"]\nrules = [\"unsafe-load\", \"eval-call\"]\nbecause = \"was so\"\n",
        ),
        ("a.py", "TIDE = 1\n"),
    ]);
    let found = ferry.run(&["sift"]);
    assert_eq!(found.out, "sieve.toml:1:1: warning: this waiver holds nothing back [stale-waiver]\n");
    // With rules that are off it cannot be known.
    assert_eq!(ferry.run(&["sift", "--only", "stale-waiver,eval-call"]).out, "");
    // The list shows what was written.
    let listed = ferry.run(&["waivers"]).out;
    assert!(listed.starts_with("stale      sieve.toml:1  unsafe-load, eval-call  because was so\n"), "{listed}");
    for entry in [
        "[[waive]]\npaths = [\"*.py\"]\nrules = [\"layout\"]\n",
        "[[ban]]\nimport = \"os\"\n",
        "[[scope]]\npaths = [\"*.py\"]\nrules = { layout = \"off\" }\n",
    ] {
        ferry.write("sieve.toml", format!("{entry}because = \" … \"\n"));
        let refused = ferry.run(&["sift"]);
        assert_eq!(refused.status, 2, "{refused:?}");
        assert!(refused.err.contains(": state the reason for later readers"), "{refused:?}");
    }
}

#[test]
fn a_finding_that_two_waivers_hold_counts_once() {
    let code = "# sieve: waive-file undefined-name because a script of the host\nprint(tide)  # sieve: waive undefined-name because it is new\nprint(ebb)\n";
    let listed = Ferry::with(&[("a.py", code)]).run(&["waivers"]).out;
    assert!(listed.contains("2 waivers, 2 findings held back"), "{listed}");
}

#[test]
fn wrong_scopes_and_waivers_are_refused() {
    for (text, message) in [
        ("[[scope]]\npaths = [\"a/**\"]\n", "sieve.toml:1:1: a scope needs `paths`, and `rules`, `naming` or `values`"),
        ("[[scope]]\npath = [\"a/**\"]\n", "sieve.toml:2:1: a scope has no \"path\"; the nearest is \"paths\""),
        (
            "[[waive]]\npaths = [\"a/**\"]\nrules = [\"layout\"]\n",
            "sieve.toml:1:1: a waiver needs `paths`, `rules` and `because`",
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
