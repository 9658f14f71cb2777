//! `hsieve pack`, and runs with packs.

use crate::ferry::Ferry;

const PACK: &str = "pack = \"ferry\"\n[[rule]]\nname = \"no-print\"\nlanguages = [\"python\"]\nfind = 'call { callee refers \"print\" }'\nmessage = \"printed\"\n";

#[test]
fn a_new_pack_works_at_once() {
    let ferry = Ferry::with(&[("desk.py", "def sail():\n    import tides\n    return tides\n")]);
    let made = ferry.run(&["pack", "new", "lint/quay"]);
    assert_eq!((made.status, made.err.as_str()), (0, ""));
    assert_eq!(ferry.run(&["pack", "new", "lint/quay"]).status, 2, "it is there already");
    assert_eq!(ferry.run(&["pack", "new", "Lint Quay"]).status, 2);
    let tested = ferry.run(&["pack", "test", "lint/quay.toml"]);
    assert_eq!(tested.status, 0, "{}", tested.out);
    let previewed = ferry.run(&["pack", "add", "lint/quay.toml", "--preview"]);
    assert!(previewed.out.contains("quay:import-in-function       1"), "{}", previewed.out);
    assert!(!ferry.path("sieve.toml").exists());
    ferry.write("sieve.toml", "# ours\nmesh = \"fine\" # all\n");
    assert_eq!(ferry.run(&["pack", "add", "lint/quay.toml"]).status, 0);
    assert_eq!(ferry.read("sieve.toml"), "# ours\nmesh = \"fine\" # all\npacks = [\"lint/quay.toml\"]\n");
    let again = ferry.run(&["pack", "add", "lint/quay.toml"]);
    assert!(again.status == 2 && again.err.contains("is in use here already"), "{}", again.err);
    let sifted = ferry.run(&["sift", "--only", "quay:*", "--output", "lines", "--quiet"]);
    assert_eq!(sifted.out, "desk.py:2:5: warning: this import is hidden in a function [quay:import-in-function]\n");
    assert_eq!(ferry.run(&["pack", "test"]).status, 0, "those of the settings");
}

#[test]
fn a_failing_example_is_shown_beside_what_was_expected() {
    let examples =
        "[[rule.wrong]]\ncode = \"print(1)\\nprint(2)\\n\"\nat = [\"1:1\"]\n[[rule.right]]\ncode = \"x = 1\\n\"\n";
    let ferry = Ferry::with(&[("ferry.toml", &format!("{PACK}{examples}"))]);
    let tested = ferry.run(&["pack", "test", "ferry.toml"]);
    assert_eq!(tested.status, 1);
    assert!(tested.out.contains("failed  no-print  1 wrong, 1 right"), "{}", tested.out);
    assert!(tested.out.contains("ferry.toml:7  the places are others than expected"), "{}", tested.out);
    let row = tested.out.lines().find(|line| line.contains("print(2)")).expect("the line");
    assert_eq!(row.split_whitespace().collect::<Vec<_>>(), ["2", "print(2)", "–", "2:1"]);
    let added = ferry.run(&["pack", "add", "./ferry.toml"]);
    assert_eq!(added.status, 1);
    assert!(added.out.contains("Nothing was written") && !ferry.path("sieve.toml").exists(), "{}", added.out);
}

#[test]
fn house_rules_are_named_like_any_other() {
    let ferry =
        Ferry::with(&[("sieve.toml", "packs = [\"./ferry.toml\"]\n"), ("ferry.toml", PACK), ("a.py", "print(1)\n")]);
    for (arguments, expected) in [
        (vec!["rules", "ferry", "--output", "json"], "\"ferry:no-print\""),
        (vec!["explain", "ferry:no-print"], "what it finds"),
        (vec!["explain", "ferry:no-print", "--output", "markdown"], "# ferry:no-print"),
        (vec!["settings"], "ferry:no-print"),
        (vec!["sift", "--output", "json"], "\"rule\": \"ferry:no-print\""),
        (vec!["sift", "--without", "house", "--output", "lines"], ""),
        (
            vec!["waive", "a.py:1", "ferry:no-print", "--because", "it has to"],
            "sieve: waive ferry:no-print because it has to",
        ),
        (vec!["sift", "--held", "--output", "lines"], "printed [ferry:no-print] (held back by waiver)"),
    ] {
        let ended = ferry.run(&arguments);
        assert!(ended.status < 2 && ended.out.contains(expected), "{arguments:?}: {}{}", ended.out, ended.err);
    }
    for (word, expected) in [
        ("ferry:no-prnt", "the pack \"ferry\" has no rule \"no-prnt\"; the nearest is \"no-print\""),
        ("fery:*", "there is no pack \"fery\"; the nearest is \"ferry\""),
    ] {
        let ended = ferry.run(&["sift", "--only", word]);
        assert!(ended.status == 2 && ended.err.contains(expected), "{}", ended.err);
    }
}

#[test]
fn what_is_no_pack_is_told_once() {
    let ferry = Ferry::with(&[("a.py", "x = 1\n")]);
    for (word, expected) in [
        (
            "tea-basics",
            "hsieve: tea-basics: there is no built-in pack \"tea-basics\"; the nearest is \"team-basics\"; a file is named by its path, as ./tea-basics.toml\n",
        ),
        ("gone.toml", "hsieve: gone.toml: cannot read it: there is no such file or folder\n"),
        (
            "ftp://quay.example/a",
            "hsieve: ftp://quay.example/a: this is no address of a pack: it begins with https:// or http://\n",
        ),
    ] {
        let ended = ferry.run(&["sift", "--pack", word]);
        assert_eq!((ended.status, ended.err.as_str()), (2, expected));
    }
}

#[test]
fn a_baseline_keeps_house_findings() {
    let ferry =
        Ferry::with(&[("sieve.toml", "packs = [\"./ferry.toml\"]\n"), ("ferry.toml", PACK), ("a.py", "print(1)\n")]);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    assert_eq!(ferry.run(&["sift"]).status, 0);
    ferry.write("a.py", "\n\nprint(1)\nprint(2)\n");
    let sifted = ferry.run(&["sift", "--output", "lines", "--quiet"]);
    assert_eq!(sifted.out, "a.py:4:1: warning: printed [ferry:no-print]\n");
    // Where the pack is gone, its entries are debt that nobody asks for.
    ferry.write("sieve.toml", "");
    assert_eq!(ferry.run(&["sift", "--quiet"]).status, 0);
    assert_eq!(ferry.run(&["baseline", "trim"]).status, 0);
}

/// A code base large enough to be cached, in two languages.
fn cached() -> Ferry {
    let ferry = Ferry::with(&[("sieve.toml", "packs = [\"./ferry.toml\"]\n"), ("ferry.toml", PACK)]);
    for number in 0..30 {
        ferry.write(&format!("a{number}.py"), format!("print({number})\n"));
        ferry.write(&format!("b{number}.sh"), "#!/bin/sh\necho \"$1\"\n");
    }
    ferry
}

/// What is kept, by its bytes: a run that uses it as it is leaves it so.
fn kept(ferry: &Ferry) -> Vec<u8> {
    let folder = ferry.path(".git/kept/cache/honest-sieve");
    let is_results = |path: &std::path::PathBuf| path.extension().is_some_and(|end| end == "sifted");
    let entries = std::fs::read_dir(folder).expect("a folder").map(|entry| entry.expect("an entry").path());
    std::fs::read(entries.filter(is_results).next().expect("what is kept")).expect("a file")
}

#[test]
fn an_edited_pack_takes_effect_in_the_next_run() {
    let ferry = cached();
    let count = |arguments: &[&str]| {
        let ended = ferry.run(&[&["sift", "--output", "lines", "--quiet"], arguments].concat());
        ended.out.lines().filter(|line| line.contains("[ferry:")).map(str::to_string).collect::<Vec<_>>()
    };
    assert_eq!(count(&[]).len(), 30);
    let first = kept(&ferry);
    assert_eq!(count(&[]).len(), 30);
    assert_eq!(kept(&ferry), first, "nothing is sifted again");
    ferry.write("ferry.toml", PACK.replace("printed", "on paper"));
    assert!(count(&[])[0].contains("on paper"));
    ferry.write("ferry.toml", format!("{PACK}[[rule]]\nname = \"a-first\"\nfind = 'call'\nmessage = \"called\"\n"));
    let warm = count(&[]);
    assert_eq!(warm.len(), 60);
    assert_eq!(warm, count(&["--no-cache"]));
    ferry.write("ferry.toml", PACK);
    assert_eq!(count(&[]), count(&["--no-cache"]));
    // A rule for another language leaves the results of these files in use: only those of the scripts are written anew.
    let before = kept(&ferry);
    let shell = "[[rule]]\nname = \"b-echo\"\nlanguages = [\"shell\"]\nfind = 'command { callee is \"echo\" }'\nmessage = \"said\"\n";
    ferry.write("ferry.toml", format!("{PACK}{shell}"));
    assert_eq!(count(&[]).len(), 60);
    let after = kept(&ferry);
    assert_ne!(before, after);
    assert_eq!(count(&[]), count(&["--no-cache"]));
}

#[test]
fn hostile_packs_end_with_a_clear_error() {
    let deep = "(".repeat(100_000);
    let find = |query: &str| format!("pack = \"a\"\n[[rule]]\nname = \"b\"\nfind = '{query}'\nmessage = \"m\"\n");
    let tables = format!("pack = \"a\"\n{}", "[[rule]]\n".repeat(50_000));
    let nested = format!("pack = \"a\"\nx = {}\n", "[".repeat(100_000));
    let dotted = format!("pack = \"a\"\nsettings.{} = 1\n", vec!["a"; 50_000].join("."));
    let words = vec!["\"x\""; 100_000].join(", ");
    for (pack, expected) in [
        (find(&deep), "brackets are nested deeper than 64"),
        (find("call { callee matches /(a{1000}){1000}/ }"), "this pattern is wrong"),
        (find("file { path like \"{{{{{{{{{a}}}}}}}}}\" }"), "braces in one pattern"),
        (tables, "a rule needs `name`, `find` (or, about data, `at` or `each`) and `message`"),
        (nested, "this is not TOML"),
        (dotted, ""),
        (find(&format!("call {{ callee in [{words}] }}")), ""),
    ] {
        let ferry = Ferry::with(&[("sieve.toml", "packs = [\"./a.toml\"]\n"), ("a.toml", &pack), ("a.py", "x(1)\n")]);
        let ended = ferry.run(&["sift"]);
        assert!(ended.status == 2 || expected.is_empty(), "{}", &ended.err[..ended.err.len().min(300)]);
        assert!(ended.err.contains(expected), "{}", &ended.err[..ended.err.len().min(300)]);
        assert!(
            ended.err.len() < 2_000 && !ended.err.contains("panicked"),
            "{}",
            &ended.err[..ended.err.len().min(300)]
        );
    }
}

#[test]
fn messages_cannot_act_on_a_terminal() {
    let pack = "pack = \"a\"\nabout = \"\\u001b[2J\"\n[[rule]]\nname = \"b\"\nlanguages = [\"python\"]\nfind = 'string'\nmessage = \"\\u001b[31m{text}\"\nwhy = \"\\u001b[2J\"\n[[rule.right]]\ncode = \"x = 1\\n\"\n";
    let ferry =
        Ferry::with(&[("sieve.toml", "packs = [\"./a.toml\"]\n"), ("a.toml", pack), ("a.py", "x = '\u{1b}[2J'\n")]);
    for arguments in [
        vec!["sift", "--output", "cards"],
        vec!["sift", "--output", "lines"],
        vec!["explain", "a:b"],
        vec!["rules"],
        vec!["pack", "list"],
        vec!["pack", "test"],
    ] {
        let ended = ferry.run(&arguments);
        assert!(!ended.out.contains('\u{1b}') && !ended.err.contains('\u{1b}'), "{arguments:?}: {:?}", ended.out);
    }
}
