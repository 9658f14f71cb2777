//! Go: packages that are folders, in every way that a run sees them, and renaming in a program that goes on as before.

use std::path::{Path, PathBuf};
use std::process::Command;

use sieve_syntax::language::Language;

use crate::ferry::{Ferry, missing, repository};
use crate::places::rename_each;

const BOARD: &str = "package board\n\nconst lines = 3\n\nfunc Show() int {\n\treturn depth(lines)\n}\n";
const DEPTH: &str = "package board\n\nfunc depth(quay int) int {\n\treturn quay\n}\n";

#[test]
fn what_one_file_of_a_package_no_longer_uses_is_told_in_the_other() {
    let ferry = Ferry::in_git(&[("board/board.go", BOARD), ("board/depth.go", DEPTH)]);
    assert_eq!(ferry.commit("a board").status, 0);
    assert_eq!(ferry.findings(&[]), [""; 0]);
    ferry.write("board/board.go", BOARD.replace("depth(lines)", "lines"));
    let unused = "board/depth.go:3:6: warning: nothing in this folder uses depth [unused-declaration]";
    assert_eq!(ferry.findings(&[]), [unused], "warm");
    assert_eq!(ferry.findings(&["--no-cache"]), [unused], "cold");
    assert_eq!(ferry.findings(&["--changed"]), [unused], "the change brought it");
    ferry.git(&["add", "--all"]);
    ferry.write("board/board.go", BOARD);
    assert_eq!(ferry.findings(&["--staged"]), [unused], "what is staged is read from the index");
    assert_eq!(ferry.findings(&[]), [""; 0], "and back");
}

#[test]
fn nothing_is_said_of_a_package_that_may_hold_more() {
    let files = [("board/board.go", "package board\n\nfunc Show() {}\n"), ("board/depth.go", DEPTH)];
    let ferry = Ferry::with(&files);
    assert_eq!(ferry.findings(&["--no-cache"]).len(), 1);
    for (name, text) in [
        ("depth_amd64.s", "TEXT ·depth(SB), 4, $0\n"),
        ("made.go", "package board\n\n//go:generate make depths\n"),
        ("c.go", "package board\n\nimport \"C\"\n"),
        ("told.go", "package board\n\n//go:linkname depth pier.depth\n"),
        ("depth_test.go", "package board\n\nvar _ = depth(1)\n"),
        ("broken.go", "package board\n\nfunc (\n"),
        ("keys.go", "package board\n\nvar _ = pier.Quay{depth: 3}\n"),
    ] {
        let path = format!("board/{name}");
        ferry.write(&path, text);
        let lines = ferry.findings(&["--no-cache", "--only", "unused-declaration"]);
        assert_eq!(lines, [""; 0], "{name}");
        std::fs::remove_file(ferry.path(&path)).expect("it was written");
    }
}

/// A name that the language gives may be one of the package in other files.
#[test]
fn names_of_the_language_may_be_those_of_the_package() {
    let ferry = Ferry::with(&[
        ("board/any.go", "package board\n\ntype any = interface{}\n\nconst low, high = 1, 2\n"),
        ("board/board.go", "package board\n\nfunc Show(any) int { return low }\n"),
    ]);
    let unused = "board/any.go:5:12: warning: nothing in this folder uses high [unused-declaration]";
    assert_eq!(ferry.findings(&[]), [unused]);
}

/// Copies the program of the demo.
fn program() -> Ferry {
    let ferry = Ferry::empty();
    let from = repository().join("demo/display");
    for name in ["go.mod", "main.go", "board.go", "summary.go", "tides/tides.go", "tides/level.go"] {
        ferry.write(name, std::fs::read(from.join(name)).expect("a file of the demo"));
    }
    ferry
}

/// Whether the language's own program is there: it says its version by a word, not by an option.
fn has_go() -> bool {
    Command::new("go").arg("version").output().is_ok_and(|output| output.status.success())
}

/// What the program puts out; nothing where it cannot be built.
fn runs(ferry: &Ferry, cache: &Path) -> Result<String, String> {
    let mut go = Command::new("go");
    let ran = go.args(["run", "."]).current_dir(ferry.path("")).env("GOCACHE", cache).output().expect("go runs");
    let text = |bytes| String::from_utf8_lossy(bytes).into_owned();
    if ran.status.success() { Ok(text(&ran.stdout)) } else { Err(text(&ran.stderr)) }
}

/// Every second name of a program is renamed, each alone: it still builds and puts out the same, or it is said why it is not renamed.
#[test]
fn a_program_goes_on_as_before_after_each_renaming() {
    if !has_go() {
        return missing("go is not installed");
    }
    let cache = tempfile::tempdir().expect("a folder");
    let before = runs(&program(), cache.path()).expect("the demo builds");
    assert!(before.contains("late, high water at 11:55"), "{before}");
    let files = ["main.go", "board.go", "summary.go", "tides/tides.go", "tides/level.go"];
    let (mut renamed, mut refused) = (0, 0);
    rename_each(program, Language::Go, &files, 2, |ferry, told| {
        let told = told.as_deref();
        let after = runs(&ferry, cache.path());
        assert_eq!(after.as_ref(), Ok(&before), "{}", told.unwrap_or("a refused renaming changed something"));
        *(if told.is_some() { &mut renamed } else { &mut refused }) += 1;
    });
    println!("{renamed} renamed, {refused} refused");
    assert!(renamed >= 70, "{renamed} renamed, {refused} refused");
}

/// Packages of the language's library, as they are installed.
const OF_LIBRARY: &[&str] = &[
    "container/list/list.go",
    "encoding/csv/reader.go",
    "encoding/csv/writer.go",
    "text/tabwriter/tabwriter.go",
    "text/template/parse/lex.go",
    "text/template/parse/node.go",
    "text/template/parse/parse.go",
];

/// The folder of the sources of the library.
fn library() -> Option<PathBuf> {
    let shared = std::fs::read_dir("/usr/share").into_iter().flatten().flatten().map(|entry| entry.path().join("src"));
    shared.filter(|path| path.join(OF_LIBRARY[0]).is_file()).max()
}

fn of_library() -> Ferry {
    let ferry = Ferry::with(&[("go.mod", "module saltmarsh.example/library\n\ngo 1.18\n")]);
    let from = library().expect("the sources of the library");
    for name in OF_LIBRARY {
        ferry.write(name, std::fs::read(from.join(name)).expect("a file of the library"));
    }
    ferry
}

/// Some names of code that others wrote, fields and methods among them: it still builds.
#[test]
fn packages_of_the_library_build_after_each_renaming() {
    if !has_go() || library().is_none() {
        return missing("go and the sources of its library are not installed");
    }
    let cache = tempfile::tempdir().expect("a folder");
    let (mut renamed, mut refused) = (0, 0);
    rename_each(of_library, Language::Go, OF_LIBRARY, 101, |ferry, told| {
        if let Some(told) = told {
            let mut go = Command::new("go");
            let go = go.args(["build", "./..."]).current_dir(ferry.path("")).env("GOCACHE", cache.path());
            let built = go.output().expect("go runs");
            assert!(built.status.success(), "{told}{}", String::from_utf8_lossy(&built.stderr));
            renamed += 1;
        } else {
            refused += 1;
        }
    });
    println!("{renamed} renamed, {refused} refused");
    assert!(renamed >= 45 && renamed > 2 * refused, "{renamed} renamed, {refused} refused");
}

#[test]
fn renaming_follows_packages_and_refuses_what_it_cannot_follow() {
    let ferry = program();
    let run = ferry.run(&["rename", "tides/tides.go:25:6", "Hour"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let uses = ["board.go", "summary.go", "tides/tides.go"].map(|file| ferry.read(file).matches("Hour(").count());
    assert_eq!(uses, [1, 1, 1], "through the name of the package, and through another one");
    for (place, new, why) in [
        ("tides/tides.go:25:6", "hour", "other packages would not see \"hour\""),
        ("tides/level.go:6:6", "Clock", "\"Clock\" is taken in the package"),
        ("board.go:36:2", "departure", "\"departure\" refers to something else"),
        ("main.go:11:6", "start", "it is not known what \"main\" refers to"),
    ] {
        let run = program().run(&["rename", place, new]);
        assert!(run.status != 0 && run.err.contains(why), "{place} {new}: {}\n{}", run.err, run.out);
    }
    let without = program();
    std::fs::remove_file(without.path("go.mod")).expect("it is there");
    let run = without.run(&["rename", "tides/tides.go:25:6", "Hour"]);
    assert!(run.status != 0 && run.err.contains("no go.mod"), "{}", run.err);
}
