//! What the docs hold and the program makes must be the same. `SIEVE_WRITE_DOCS=1` writes instead of comparing.

use std::path::Path;

use sieve_rules::catalogue;

use crate::ferry::{Ferry, repository};

fn compare(path: &Path, text: &str) {
    if std::env::var_os("SIEVE_WRITE_DOCS").is_some() {
        std::fs::create_dir_all(path.parent().expect("a parent")).expect("a folder");
        std::fs::write(path, text).expect("a page");
        return;
    }
    let there = std::fs::read_to_string(path).unwrap_or_default();
    assert!(there == text, "{} is not current; run the tests with SIEVE_WRITE_DOCS=1", path.display());
}

#[test]
fn rule_pages_are_current() {
    let ferry = Ferry::empty();
    let folder = repository().join("docs/rules");
    let mut index = String::from(
        "# Rules\n\nMade from the rules themselves.\n\n| rule | concern | mesh | level | certainty | fix | what |\n|---|---|---|---|---|---|---|\n",
    );
    for (_, rule) in catalogue::rules() {
        let page = ferry.run(&["explain", rule.name, "--output", "markdown"]);
        assert_eq!(page.status, 0);
        compare(&folder.join(format!("{}.md", rule.name)), &page.out);
        let fix = rule.fix.map_or("", |fix| fix.word());
        index += &format!(
            "| [{0}]({0}.md) | {1} | {2} | {3} | {4} | {fix} | {5} |\n",
            rule.name, rule.concern, rule.mesh, rule.level, rule.certainty, rule.what
        );
    }
    compare(&folder.join("README.md"), &index);
    let pages = std::fs::read_dir(&folder).expect("the pages").count();
    assert_eq!(pages, catalogue::rules().len() + 1, "a page without a rule");
}

#[test]
fn the_help_of_each_command_is_current_and_has_examples() {
    let ferry = Ferry::empty();
    let commands = [
        "sift",
        "fix",
        "rules",
        "explain",
        "settings",
        "settings set",
        "settings upgrade",
        "settings schema",
        "init",
        "rename",
        "hook install",
        "hook remove",
        "waive",
        "waivers",
        "baseline take",
        "baseline status",
        "baseline trim",
        "find",
        "pack new",
        "pack test",
        "pack list",
        "pack add",
        "pack schema",
        "tree",
        "demo",
        "completions",
    ];
    let mut page = String::from("# Commands\n\nThe help of each command, as `hsieve COMMAND --help` prints it.\n\n");
    for command in std::iter::once("").chain(commands) {
        let mut arguments: Vec<&str> = command.split_whitespace().collect();
        arguments.push("--help");
        let help = ferry.run(&arguments);
        assert_eq!(help.status, 0, "{command}");
        assert!(command.is_empty() || help.out.contains("Example"), "{command} has no example");
        page += &format!("## hsieve {command}\n\n```text\n{}```\n\n", help.out.replace(" \n", "\n"));
    }
    compare(&repository().join("docs/commands.md"), &(page.trim_end().to_string() + "\n"));
}

#[test]
fn the_schemas_are_current() {
    for (command, file) in [("settings", "sieve.schema.json"), ("pack", "pack.schema.json")] {
        let schema = Ferry::empty().run(&[command, "schema"]);
        assert_eq!(schema.status, 0);
        compare(&repository().join("docs").join(file), &schema.out);
    }
}

#[test]
fn completions_name_the_commands() {
    let ferry = Ferry::empty();
    for shell in ["bash", "zsh", "fish"] {
        let ended = ferry.run(&["completions", shell]);
        assert!(ended.status == 0 && ended.out.contains("baseline"), "{shell}");
    }
}

#[test]
fn trees_are_shown_with_kinds_roles_and_places() {
    let ferry = Ferry::with(&[("fares.py", "def fare(adult):\n    return adult * 0.55\n")]);
    let whole = ferry.run(&["tree", "fares.py"]).out;
    assert!(whole.contains("2:12          value: binary  adult * 0.55"), "{whole}");
    let at = ferry.run(&["tree", "fares.py:2:20"]).out;
    assert!(at.trim_end().ends_with("2:20            right: number  0.55"), "{at}");
    assert!(ferry.run(&["tree", "fares.py", "--output", "json"]).out.contains("\"kind\": \"binary\""));
    ferry.write("broken.py", "x = )\n");
    let broken = ferry.run(&["tree", "broken.py"]);
    assert_eq!(broken.status, 1);
    assert!(broken.err.contains("broken.py:1:5: "), "{}", broken.err);
}

#[test]
fn a_concern_is_explained_with_its_rules() {
    let shown = Ferry::empty().run(&["explain", "boundary"]);
    assert_eq!(shown.status, 0, "{shown:?}");
    assert!(
        shown.out.contains("things used where the team does not want them") && shown.out.contains("wildcard-import"),
        "{shown:?}"
    );
    assert_eq!(Ferry::empty().run(&["explain", "boundry"]).status, 2);
}
/// Code in a terminal has tab stops, and the mark is below the place.
#[test]
fn examples_are_shown_with_their_tabs() {
    let shown = Ferry::empty().run(&["explain", "missing-close"]);
    assert!(shown.out.contains("\n        file, err := os.Open(name)\n        ~\n"), "{}", shown.out);
    assert!(!shown.out.contains("\\t"), "{}", shown.out);
}
