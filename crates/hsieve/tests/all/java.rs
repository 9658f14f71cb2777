//! Java: the program on a package: findings, waivers, the baseline, and mistakes.

use std::process::Command;

use sieve_syntax::language::Language;

use crate::ferry::{Ferry, missing, repository};
use crate::places::rename_each;
use crate::whole_way::{Case, is_reported_waived_and_recorded};

const FARE: &str = "package ferries;\n\n/** Fares. */\npublic class Fare {\n    int due(boolean child) {\n        return child ? 4 : 4;\n    }\n}\n";

const SAME: &str =
    "src/Fare.java:6:16: warning: both branches are the same: the condition has no effect [same-branches]";

#[test]
fn a_package_is_sifted_waived_and_recorded() {
    let ferry = Ferry::with(&[("src/Fare.java", FARE)]);
    let case = Case { file: "src/Fare.java", source: FARE, line: 6, finding: SAME };
    is_reported_waived_and_recorded(&ferry, &case);
}

/// A mistake is told at its place, and the rest of the file is sifted.
#[test]
fn a_broken_package_tells_where() {
    let broken = FARE.replace("int due", "int fare() { return ; + }\n    int due");
    let ferry = Ferry::with(&[("src/Fare.java", &broken)]);
    let found = ferry.findings(&[]);
    assert_eq!(found[0], "src/Fare.java:5:29: error: expected a value, found '}' [broken-syntax]");
    assert_eq!(found[1..], [SAME.replace(":6:", ":7:")]);
}

const FILES: [&str; 3] =
    ["src/ferries/desk/Desk.java", "src/ferries/printer/Ticket.java", "src/ferries/printer/TicketPrinter.java"];

/// Copies the program of the demo.
fn program() -> Ferry {
    let ferry = Ferry::empty();
    for name in FILES {
        ferry.write(
            name,
            std::fs::read(repository().join("demo/ticket-printer").join(name)).expect("a file of the demo"),
        );
    }
    ferry
}

/// What the programs put out, or what the compiler says of them.
fn run_all(programs: &[Ferry]) -> Vec<String> {
    let folder = tempfile::tempdir().expect("a folder");
    let list = folder.path().join("list");
    let lines: Vec<String> = programs.iter().map(|ferry| ferry.path("src").display().to_string()).collect();
    std::fs::write(&list, lines.join("\n")).expect("written");
    let builds = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/java/Builds.java");
    let ran = Command::new("java").arg(builds).arg(&list).output().expect("java runs");
    assert!(ran.status.success(), "{}", String::from_utf8_lossy(&ran.stderr));
    String::from_utf8(ran.stdout).expect("text").lines().map(str::to_string).collect()
}

/// Every name of a program is renamed, each alone: it still builds and puts out the same, or it is said why it is not renamed.
#[test]
fn a_program_goes_on_as_before_after_each_renaming() {
    if !Command::new("javac").arg("-version").output().is_ok_and(|output| output.status.success()) {
        return missing("javac is not installed");
    }
    let (mut programs, mut told, mut refused) = (vec![program()], vec!["as it is".to_string()], 0);
    rename_each(program, Language::Java, &FILES, 1, |ferry, renamed| match renamed {
        Some(renamed) => {
            programs.push(ferry);
            told.push(renamed);
        }
        None => refused += 1,
    });
    let put = run_all(&programs);
    assert_eq!(put.len(), programs.len());
    assert!(put[0].contains("2 sold, 394 lines left"), "{}", put[0]);
    for (put_out, told) in put.iter().zip(&told) {
        assert_eq!(*put_out, put[0], "{told}");
    }
    println!("{} renamed, {refused} refused", programs.len() - 1);
    assert!(programs.len() > 80, "{} renamed, {refused} refused", programs.len() - 1);
}

#[test]
fn a_type_is_renamed_with_its_file_and_its_imports() {
    let ferry = program();
    let run = ferry.run(&["rename", "src/ferries/desk/Desk.java:10:19", "Roll"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(ferry.read("src/ferries/printer/Roll.java").contains("public class Roll {"));
    assert!(ferry.read(FILES[0]).contains("import ferries.printer.Roll;"));
    for (place, new, why) in [
        ("src/ferries/desk/Desk.java:5:18", "Rows", "\"ArrayList\" is declared outside of the project"),
        ("src/ferries/printer/Ticket.java:4:15", "TicketPrinter", "there is a type \"TicketPrinter\" already"),
        ("src/ferries/desk/Desk.java:28:13", "wish", "\"wish\" is taken"),
        ("src/ferries/desk/Desk.java:28:13", "record", "cannot be a name in Java"),
    ] {
        let run = program().run(&["rename", place, new]);
        assert!(run.status != 0 && run.err.contains(why), "{place} {new}: {}\n{}", run.err, run.out);
    }
}

#[test]
fn a_file_that_is_there_is_not_written_over() {
    let ferry = program();
    let other = "package ferries.printer;\n\ninterface Paper {}\n";
    ferry.write("src/ferries/printer/Roll.java", other);
    let run = ferry.run(&["rename", "src/ferries/printer/TicketPrinter.java:6:14", "Roll"]);
    assert!(
        run.status != 0 && run.err.contains("there is a file src/ferries/printer/Roll.java already"),
        "{}",
        run.err
    );
    assert_eq!(ferry.read("src/ferries/printer/Roll.java"), other);
}

/// A variable may have the name of the file, which is that of its type.
#[test]
fn only_a_type_moves_its_file() {
    let ferry =
        Ferry::with(&[("tide.java", "class tide {\n    int low(int tide) {\n        return tide;\n    }\n}\n")]);
    let run = ferry.run(&["rename", "tide.java:2:17", "depth"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert_eq!(ferry.read("tide.java"), "class tide {\n    int low(int depth) {\n        return depth;\n    }\n}\n");
}

/// What a fix leaves out is what the compiler can do without.
#[test]
fn unused_imports_and_variables_are_told_and_fixed() {
    let ferry = program();
    let only = ["--only", "unused-import,unused-variable,unused-member"];
    let told = [
        "src/ferries/desk/Desk.java:5:8: warning: \"java.util.ArrayList\" is imported but never used [unused-import]",
        "src/ferries/desk/Desk.java:12:17: warning: nothing uses the private field \"refused\" [unused-member]",
        "src/ferries/desk/Desk.java:28:13: warning: \"fare\" is assigned but never used [unused-variable]",
    ];
    assert_eq!(ferry.findings(&only), told);
    assert_eq!(ferry.run(&["fix"]).status, 0);
    assert!(!ferry.read(FILES[0]).contains("ArrayList"));
}
