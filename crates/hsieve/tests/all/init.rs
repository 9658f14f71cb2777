//! `hsieve init`: settings that agree with the code as it is.

use crate::ferry::{Ferry, ended};

/// Code with habits: two whitespace, long names with underscores, lines of up to 110 characters.
fn code(number: usize) -> String {
    let long = "x".repeat(90);
    format!(
        "MAX_SEATS_{number} = 3\n\n\nclass TideTable{number}:\n  def next_tide(self, north_quay):\n    return '{long}', north_quay\n"
    )
}

fn ferry() -> Ferry {
    let ferry = Ferry::in_git(&[("tides_pb2.py", "x = 1\n"), ("old.py", "import os\n")]);
    (0..12).for_each(|number| ferry.write(&format!("quay{number}.py"), code(number)));
    ferry
}

#[test]
fn it_proposes_what_the_code_does_already() {
    let ferry = ferry();
    let ended = ferry.run(&["init", "--yes"]);
    assert_eq!(ended.status, 0, "{ended:?}");
    assert!(ended.out.contains("13 files, 73 lines") && ended.out.contains("1 file generated"), "{}", ended.out);
    let settings = ferry.read("sieve.toml");
    for expected in [
        "defaults = \"0.1\"",
        "limit = 120",
        "# 100 % of 12 files have this step.\nindent-width = { width = 2 }",
        "quote-style = { quotes = \"single\" }",
    ] {
        assert!(settings.contains(expected), "{expected}\n{settings}");
    }
    assert!(!settings.contains("naming"), "what is the default is not written: {settings}");
    assert!(
        ended.out.contains("python type") && ended.out.contains("PascalCase 100 %, 12 names tell"),
        "{}",
        ended.out
    );
    assert!(ferry.read(".editorconfig").contains("indent_size = 2\nmax_line_length = 120\n"));
    assert!(ferry.read(".git/hooks/pre-commit").contains("hook run commit"));
    assert_eq!(ferry.read("sieve-baseline.jsonl").lines().count(), 2);
    let sift = ferry.run(&["sift"]);
    assert_eq!((sift.status, sift.out.as_str()), (0, ""), "the settings are right, and nothing is left: {}", sift.err);
    let again = ferry.run(&["init", "--yes"]);
    assert_eq!(again.status, 2);
    assert!(again.err.contains("sieve.toml is here already; `hsieve settings set` changes it"), "{}", again.err);
}

#[test]
fn it_asks_and_does_what_is_answered() {
    let ferry = ferry();
    let refused = ended(ferry.command(&["init"]).write_stdin("n\n"));
    assert!(refused.status == 0 && refused.out.contains("Nothing was written"), "{refused:?}");
    let nobody = ended(ferry.command(&["init"]).write_stdin(""));
    assert!(nobody.status == 0 && !ferry.path("sieve.toml").exists(), "{nobody:?}");
    let some = ended(ferry.command(&["init"]).write_stdin("y\nn\nperhaps\nn\ny\n"));
    assert_eq!(some.status, 0, "{some:?}");
    assert!(ferry.path("sieve.toml").exists() && ferry.path(".editorconfig").exists());
    assert!(!ferry.path("sieve-baseline.jsonl").exists() && !ferry.path(".git/hooks/pre-commit").exists());
}

#[test]
fn a_rule_that_drowns_all_others_becomes_a_note() {
    let ferry = Ferry::with(&[("a.py", "x = 1\n")]);
    (0..120).for_each(|number| ferry.write(&format!("b{number}.py"), "import os\n"));
    assert_eq!(ferry.run(&["init", "--yes", "--without", "baseline"]).status, 0);
    assert!(ferry.read("sieve.toml").contains("unused-import = \"note\""), "{}", ferry.read("sieve.toml"));
    assert_eq!(ferry.run(&["sift"]).status, 0);
}

#[test]
fn without_sources_there_is_nothing_to_agree_with() {
    let ended = Ferry::with(&[("notes.txt", "tide\n")]).run(&["init", "--yes"]);
    assert_eq!(ended.status, 2);
    assert!(ended.err.contains("there is no source here in a language that is known"), "{}", ended.err);
}

#[test]
fn styles_that_differ_from_the_defaults_are_written_with_their_shares() {
    let ferry = Ferry::in_git(&[]);
    let functions: String = (0..11).map(|number| format!("def nextTide{number}x():\n    pass\n\n\n")).collect();
    ferry.write("quays.py", format!("{functions}def next_tide():\n    pass\n"));
    let ended = ferry.run(&["init", "--yes"]);
    assert_eq!(ended.status, 0, "{ended:?}");
    let settings = ferry.read("sieve.toml");
    let expected = "[naming.python]\nfunction = \"camelCase\"  # 91 % of 12 names with a style of their own\n";
    assert!(settings.contains(expected), "{settings}");
    let found = ferry.run(&["sift", "--mesh", "fine", "--only", "function-name", "--no-baseline"]);
    assert!(found.out.contains("\"next_tide\" is not camelCase") && found.out.lines().count() == 1, "{}", found.out);
}

#[test]
fn each_language_is_taken_as_it_is() {
    let ferry = Ferry::in_git(&[]);
    for number in 0..12 {
        let go =
            format!("package board\n\n// Show{number} shows.\nfunc Show{number}() string {{\n\treturn \"tide\"\n}}\n");
        let java = format!("/**\n * A quay.\n */\npublic class Quay{number} {{\n   int depth = {number};\n}}\n");
        let script = format!("export function sail{number}() {{\n  return 'tide'\n}}\n");
        ferry.write(&format!("board/show{number}.go"), go);
        ferry.write(&format!("quays/Quay{number}.java"), java);
        ferry.write(&format!("web/sail{number}.ts"), script);
    }
    let ended = ferry.run(&["init", "--yes"]);
    assert_eq!(ended.status, 0, "{ended:?}");
    for row in
        ["java        12 files, 72 lines, indented by 3 spaces", "go          12 files, 72 lines, indented by tabs"]
    {
        assert!(ended.out.contains(row), "{row}\n{}", ended.out);
    }
    let editor = ferry.read(".editorconfig");
    assert!(editor.contains("[*.go]\nindent_style = tab\n"), "{editor}");
    assert!(editor.contains("[*.java]\nindent_style = space\nindent_size = 3\n"), "{editor}");
    // Only scripts may have other quotes, and may leave semicolons away.
    let settings = ferry.read("sieve.toml");
    assert!(
        settings.contains("# 100 % of 12 strings have such quotes.\nquote-style = { quotes = \"single\" }"),
        "{settings}"
    );
    assert!(settings.contains("# 100 % of 12 statements end so.\nsemicolons = { end = \"never\" }"), "{settings}");
}

#[test]
fn what_fewer_than_four_fifths_do_is_not_proposed() {
    for (camel, is_proposed) in [(7, false), (8, true)] {
        let ferry = Ferry::empty();
        let name = |number: usize| if number < camel { format!("landAt{number}") } else { format!("land_at_{number}") };
        let code: String = (0..10).map(|number| format!("def {}():\n    pass\n\n\n", name(number))).collect();
        ferry.write("a.py", code);
        assert_eq!(ferry.run(&["init", "--yes", "--without", "hook,editor,ci,baseline"]).status, 0);
        let settings = ferry.read("sieve.toml");
        assert_eq!(settings.contains("camelCase"), is_proposed, "{camel}: {settings}");
    }
}

#[test]
fn names_that_something_gives_to_all_files_are_proposed() {
    let ferry = Ferry::in_git(&[]);
    for quay in ["north", "south", "west"] {
        ferry.write(&format!("{quay}.py"), "print(harbour.depth, __tide__)\n");
    }
    ferry.write("east.py", "print(slip)\n");
    let ended = ferry.run(&["init", "--yes", "--without", "baseline"]);
    assert_eq!(ended.status, 0, "{ended:?}");
    let settings = ferry.read("sieve.toml");
    let expected = "# Several files use them, 6 times in all, and none defines them.\nundefined-name = { known = [\"__tide__\", \"harbour\"] }\n";
    assert!(settings.contains(expected), "{settings}");
    let lines = ferry.run(&["sift", "--unsure", "--output", "lines"]);
    assert_eq!((lines.status, lines.out.lines().count()), (1, 1), "{}", lines.out);
    assert!(lines.out.contains("nothing defines \"slip\""), "{}", lines.out);
}
