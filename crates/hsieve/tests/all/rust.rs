//! Rust: the program on a crate: findings, fixes, waivers and the baseline.

use std::process::Command;

use sieve_syntax::language::Language;

use crate::ferry::{Ferry, repository};
use crate::places::rename_each;
use crate::whole_way::{Case, is_reported_waived_and_recorded};

const LEVEL: &str = "//! Levels.\n\n/// Whether no boat can leave.\npub fn is_low(tide: u8) -> bool {\n    if !tide.is_power_of_two() {\n        true\n    } else {\n        false\n    }\n}\n\n/// What to pay.\nfn fare(child: bool) -> u8 {\n    if child { 4 } else { 4 }\n}\n";

const SAME: &str = "src/lib.rs:14:5: warning: both branches are the same: the condition has no effect [same-branches]";

#[test]
fn a_crate_is_sifted_waived_and_recorded() {
    let ferry = Ferry::with(&[("src/lib.rs", LEVEL), ("Cargo.toml", "[package]\nname = \"tides\"\n")]);
    let case = Case { file: "src/lib.rs", source: LEVEL, line: 14, finding: SAME };
    is_reported_waived_and_recorded(&ferry, &case);
}

#[test]
fn fixes_keep_what_a_crate_means() {
    let spaced = LEVEL.replace("true\n", "true  \n");
    let ferry = Ferry::with(&[("src/lib.rs", &spaced)]);
    let fixed = ferry.run(&["fix", "--mesh", "fine", "--only", "trailing-space"]);
    assert_eq!(fixed.status, 0, "{}", fixed.err);
    assert_eq!(ferry.read("src/lib.rs"), LEVEL);
}

/// A mistake is told at its place, and the rest of the file is sifted.
#[test]
fn a_broken_crate_tells_where() {
    let ferry = Ferry::with(&[(
        "src/lib.rs",
        "fn low( {}\n\nfn fare(child: bool) -> u8 {\n    if child { 4 } else { 4 }\n}\n",
    )]);
    assert_eq!(
        ferry.findings(&[]),
        [
            "src/lib.rs:1:9: error: expected a pattern, found '{' [broken-syntax]",
            "src/lib.rs:4:5: warning: both branches are the same: the condition has no effect [same-branches]",
        ]
    );
}

/// A program that says what the library of the demo knows.
const BOARD: &str = r#"mod height;
mod table;

use height::{Height, Stage};
use table::TideTable;

const DRAUGHT: i32 = 140;

fn line(day: u32, table: &TideTable) -> String {
    let width = 6;
    match table.minute(day) {
        Some(minute) if minute < 720 => format!("{day:>width$}: {}:{:02}", minute / 60, minute % 60),
        Some(late) => format!("{day:>width$}: late, {late}"),
        None => String::new(),
    }
}

mod words {
    use super::Stage;

    pub fn of(stage: Stage) -> &'static str {
        if let Stage::Low = stage { "low" } else { "high" }
    }
}

fn main() {
    let mut table = TideTable::default();
    for (day, (minute, height)) in [(3, (710, 212)), (4, (760, 90))] {
        let height = Height(height);
        table.note(day, minute, height);
    }
    let days = [3, 4, 5];
    let lines: Vec<String> = days.iter().map(|day| line(*day, &table)).filter(|line| !line.is_empty()).collect();
    println!("{}", lines.join("\n"));
    let Some(highest) = table.highest() else { return };
    let stage = highest.stage(Height(DRAUGHT));
    println!("{} {:.2} {}", words::of(stage), highest.metres(), table.is_spring(3, 4));
}
"#;

const FILES: [&str; 3] = ["src/main.rs", "src/height.rs", "src/table.rs"];

fn program() -> Ferry {
    let ferry = Ferry::with(&[(FILES[0], BOARD)]);
    for name in &FILES[1..] {
        ferry
            .write(name, std::fs::read(repository().join("demo/tide-library").join(name)).expect("a file of the demo"));
    }
    ferry
}

/// What the program puts out; what the compiler says where it cannot be built.
fn runs(ferry: &Ferry) -> Result<String, String> {
    let folder = tempfile::tempdir().expect("a folder");
    let program = folder.path().join("board");
    let text = |bytes: &[u8]| String::from_utf8_lossy(bytes).into_owned();
    let mut compiler = Command::new("rustc");
    compiler.args(["--edition", "2024", "--cap-lints", "allow", "src/main.rs", "-o"]).arg(&program);
    let built = compiler.current_dir(ferry.path("")).output().expect("rustc runs");
    if !built.status.success() {
        return Err(text(&built.stderr));
    }
    let ran = Command::new(program).output().expect("it runs");
    Ok(text(&ran.stdout))
}

/// Every name of a program is renamed, each alone: it still builds and puts out the same, or it is said why it is not renamed.
#[test]
fn a_program_goes_on_as_before_after_each_renaming() {
    let before = runs(&program()).expect("the program builds");
    assert_eq!(before, "     3: 11:50\n     4: late, 760\nhigh 2.12 true\n");
    let (mut renamed, mut refused) = (0, 0);
    rename_each(program, Language::Rust, &FILES, 1, |ferry, told| {
        let Some(told) = told else {
            refused += 1;
            return;
        };
        assert_eq!(runs(&ferry).as_ref(), Ok(&before), "{told}");
        renamed += 1;
    });
    println!("{renamed} renamed, {refused} refused");
    assert!(renamed >= 70, "{renamed} renamed, {refused} refused");
}

#[test]
fn what_other_files_may_mean_is_not_renamed() {
    for (place, new, why) in [
        ("src/height.rs:5:12", "Depth", "other files mention \"Height\""),
        ("src/main.rs:1:5", "depth", "a file has the name \"height\""),
        ("src/main.rs:29:22", "Depth", "\"Height\" is declared elsewhere"),
        ("src/main.rs:9:9", "table", "\"table\" is taken where \"day\" is used"),
        ("src/main.rs:9:9", "fn", "\"fn\" cannot be a name in Rust"),
    ] {
        let run = program().run(&["rename", place, new]);
        assert!(run.status != 0 && run.err.contains(why), "{place} {new}: {}\n{}", run.err, run.out);
    }
    let ferry = program();
    assert_eq!(ferry.run(&["rename", "src/height.rs:13:5", "Flat"]).status, 0);
    assert_eq!(ferry.read("src/height.rs").matches("Flat").count(), 2, "a variant, through its type");
}

/// A module of the file that takes an item by its name keeps that name for itself.
#[test]
fn an_item_that_is_brought_in_keeps_its_name_there() {
    let source = "fn low() -> u8 {\n    3\n}\n\nmod quay {\n    use super::low;\n\n    pub fn depth() -> u8 {\n        low()\n    }\n}\n";
    let ferry = Ferry::with(&[("src/main.rs", source)]);
    let run = ferry.run(&["rename", "src/main.rs:1:4", "ebb"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let renamed = source.replace("fn low()", "fn ebb()").replace("super::low;", "super::ebb as low;");
    assert_eq!(ferry.read("src/main.rs"), renamed);
}
