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
        ("src/main.rs:1:5", "line", "\"line\" is taken where \"height\" is used"),
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

/// A module of the file that takes an item by its name calls it by the new one.
#[test]
fn an_item_that_is_brought_in_has_its_new_name_there() {
    let source = "fn low() -> u8 {\n    3\n}\n\nmod quay {\n    use super::low;\n\n    pub fn depth() -> u8 {\n        low()\n    }\n}\n";
    let ferry = Ferry::with(&[("src/main.rs", source)]);
    let run = ferry.run(&["rename", "src/main.rs:1:4", "ebb"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert_eq!(ferry.read("src/main.rs"), source.replace("low", "ebb"));
}

/// A library, of which files name items in every way: with `use`, by paths, through others that hand them on.
const LIBRARY: [(&str, &str); 6] = [
    ("Cargo.toml", "[package]\nname = \"tide-library\"\n"),
    (
        "src/lib.rs",
        "mod height;\npub mod table;\n\npub use height::Height;\npub use table::*;\n\npub fn low() -> Height {\n    crate::height::Height(3)\n}\n",
    ),
    (
        "src/height.rs",
        "pub struct Height(pub u32);\n\npub fn metres(height: &Height) -> u32 {\n    height.0 / 100\n}\n",
    ),
    (
        "src/table/mod.rs",
        "mod day;\nuse crate::height::{self, Height, metres as whole};\nuse super::low;\n\npub struct Depth {\n    pub metres: u32,\n}\n\npub fn highest() -> Height {\n    let _ = (whole(&low()), day::of(3));\n    height::Height(4)\n}\n",
    ),
    (
        "src/table/day.rs",
        "pub fn of(day: u32) -> super::super::Height {\n    use super::*;\n    let metres = day;\n    Height(metres + highest().0)\n}\n",
    ),
    (
        "tests/tides.rs",
        "use tide_library::{Depth, Height, highest};\n\n#[test]\nfn rises() {\n    let depth = Depth { metres: 4 };\n    let Height(height) = highest();\n    assert_eq!(height, depth.metres, \"{}\", tide_library::table::highest().0);\n}\n",
    ),
];

fn library_after(place: &str, new: &str) -> Result<Vec<(&'static str, String)>, String> {
    let ferry = Ferry::with(&LIBRARY);
    let run = ferry.run(&["rename", place, new]);
    let after = LIBRARY.iter().map(|(path, _)| (*path, ferry.read(path))).collect();
    if run.status == 0 { Ok(after) } else { Err(run.err) }
}

fn library_with(change: impl Fn(&str, &str) -> String) -> Result<Vec<(&'static str, String)>, String> {
    Ok(LIBRARY.iter().map(|(path, text)| (*path, change(path, text))).collect())
}

#[test]
fn items_are_renamed_in_every_file_of_their_crates() {
    let all = library_with(|_, text| text.replace("Height", "Level"));
    for place in ["src/height.rs:1:12", "src/lib.rs:4:17", "src/table/mod.rs:11:13", "tests/tides.rs:6:9"] {
        assert_eq!(library_after(place, "Level"), all, "{place}");
    }
    let function = library_with(|path, text| match path {
        "src/height.rs" => text.replace("metres", "in_metres"),
        _ => text.replace("metres as", "in_metres as"),
    });
    for place in ["src/height.rs:3:8", "src/table/mod.rs:2:35"] {
        assert_eq!(library_after(place, "in_metres"), function, "{place}");
    }
    let highest = library_with(|_, text| text.replace("highest", "top"));
    for place in ["src/table/mod.rs:9:8", "src/table/day.rs:4:21", "tests/tides.rs:7:65"] {
        assert_eq!(library_after(place, "top"), highest, "{place}");
    }
}

#[test]
fn an_item_is_not_renamed_where_a_use_or_the_new_name_is_not_clear() {
    for (place, new, why) in [
        ("src/table/mod.rs:9:8", "low", "\"low\" is taken where \"highest\" is used"),
        ("src/lib.rs:7:8", "table", "\"table\" is taken where \"low\" is used"),
        ("src/height.rs:1:12", "Depth", "\"Depth\" is taken where \"Height\" is used"),
        ("src/lib.rs:2:9", "height", "\"height\" is taken where \"table\" is used"),
    ] {
        let told = library_after(place, new).expect_err(place);
        assert!(told.contains(why), "{place} {new}: {told}");
    }
    let exported = "#[unsafe(no_mangle)]\npub extern \"C\" fn low() -> u8 {\n    3\n}\n";
    let foreign = "extern \"C\" {\n    fn low() -> u8;\n}\n";
    let derived = "pub trait Low {}\nmod quay {\n    use super::Low;\n    #[derive(Low)]\n    struct Ebb;\n}\n";
    let twice = "pub mod low {\n    pub fn low() {}\n}\npub use low::low;\nmod quay {\n    use crate::low;\n}\n";
    let adrift = "pub fn low() {}\n";
    for (files, place, why) in [
        (vec![("src/lib.rs", exported)], "src/lib.rs:2:19", "others than Rust find \"low\""),
        (vec![("src/lib.rs", foreign)], "src/lib.rs:2:8", "others than Rust find \"low\""),
        (vec![("src/lib.rs", derived)], "src/lib.rs:1:11", "it is not known whether \"Low\" is meant here"),
        (vec![("src/lib.rs", twice)], "src/lib.rs:2:12", "it is not known whether \"low\" is meant here"),
        (
            vec![("src/lib.rs", adrift), ("src/part.rs", "fn sail() { low() }\n")],
            "src/lib.rs:1:8",
            "it is not known whether \"low\" is meant here",
        ),
    ] {
        let run = Ferry::with(&files).run(&["rename", place, "ebb"]);
        assert!(run.status != 0 && run.err.contains(why), "{place}: {}\n{}", run.err, run.out);
    }
}

/// Every item that has another name and then its own again is in files that are as they were.
#[test]
fn a_renaming_there_and_back_changes_nothing() {
    let before = library_with(|_, text| text.to_string());
    let mut there = 0;
    for (file, text) in &LIBRARY[1..] {
        for (line, content) in text.lines().enumerate() {
            let declared = ["fn ", "struct "].iter().find_map(|word| Some(content.find(word)? + word.len()));
            let Some(at) = declared else { continue };
            let place = format!("{file}:{}:{}", line + 1, at + 1);
            let ferry = Ferry::with(&LIBRARY);
            if ferry.run(&["rename", &place, "harbour"]).status != 0 {
                continue;
            }
            there += 1;
            let old = content[at..].split(['(', ' ']).next().expect("a name");
            let back = ferry.run(&["rename", &place, old]);
            assert_eq!(back.status, 0, "{place}: {}", back.err);
            let after: Vec<(&str, String)> = LIBRARY.iter().map(|(path, _)| (*path, ferry.read(path))).collect();
            assert_eq!(Ok(after), before, "{place}");
        }
    }
    assert!(there >= 6, "{there}");
}

/// A file that no crate has may be included in one of its own package, and not in those of others.
#[test]
fn a_stray_file_of_another_package_is_nothing_to_an_item() {
    let stray = "record! {\n    pub low: u8\n}\n";
    for (folder, is_renamed) in [("quay", false), ("tide", true)] {
        let ferry = Ferry::with(&[
            ("quay/Cargo.toml", "[package]\nname = \"quay\"\n"),
            ("quay/src/lib.rs", "pub fn low() {}\n"),
            ("tide/Cargo.toml", "[package]\nname = \"tide\"\n"),
            (&format!("{folder}/stray.rs"), stray),
        ]);
        let run = ferry.run(&["rename", "quay/src/lib.rs:1:8", "ebb"]);
        assert_eq!(run.status == 0, is_renamed, "{folder}: {}", run.err);
        assert_eq!(ferry.read(&format!("{folder}/stray.rs")), stray);
    }
}

/// A library with an enumeration whose variants are named in every way.
const VARIANTS: [(&str, &str); 3] = [
    ("Cargo.toml", "[package]\nname = \"tide-library\"\n"),
    (
        "src/lib.rs",
        "pub mod state;\npub use state::State::{self, Ebb as Falling};\npub type Water = state::State;\n\nfn turn(water: Water) -> Water {\n    match water {\n        Water::Ebb => state::State::Flood(3),\n        State::Flood(_) => Falling,\n    }\n}\n",
    ),
    (
        "src/state.rs",
        "#[derive(Clone, Debug)]\npub enum State {\n    Ebb,\n    Flood(u8),\n}\n\nimpl State {\n    pub fn falls(&self) -> bool {\n        use self::State::*;\n        let is_ebb = matches!(self, Self::Ebb);\n        match self {\n            Ebb => is_ebb,\n            Flood(_) => false,\n        }\n    }\n}\n\nstruct Ebb;\n\nfn of() -> Ebb {\n    Ebb\n}\n",
    ),
];

fn renamed(files: &[(&str, &str)], place: &str, new: &str, options: &[&str]) -> Result<Ferry, String> {
    let ferry = Ferry::with(files);
    let run = ferry.run(&[&["rename", place, new], options].concat());
    if run.status == 0 { Ok(ferry) } else { Err(run.err) }
}

#[test]
fn a_variant_is_renamed_by_every_way_to_it() {
    for place in ["src/state.rs:4:5", "src/state.rs:13:13", "src/lib.rs:7:37", "src/lib.rs:8:16"] {
        let ferry = renamed(&VARIANTS, place, "Rise", &[]).expect(place);
        for (path, text) in &VARIANTS[1..] {
            assert_eq!(ferry.read(path), text.replace("Flood", "Rise"), "{place} {path}");
        }
    }
    let built = |ferry: &Ferry| {
        let mut compiler = Command::new("rustc");
        compiler.args(["--edition", "2021", "--crate-type", "lib", "--emit", "metadata", "--cap-lints", "allow"]);
        let run = compiler.args(["src/lib.rs", "-o", "out"]).current_dir(ferry.path("")).output().expect("rustc runs");
        assert!(run.status.success(), "{}", String::from_utf8_lossy(&run.stderr));
    };
    built(&Ferry::with(&VARIANTS));
    built(&renamed(&VARIANTS, "src/state.rs:4:5", "Rise", &[]).expect("it is renamed"));
}

#[test]
fn a_variant_is_not_renamed_where_something_else_may_be_meant() {
    let state = |from: &str, to: &str| {
        let source = VARIANTS[2].1.replacen(from, to, 1);
        renamed(&[VARIANTS[0], VARIANTS[1], ("src/state.rs", &source)], "src/state.rs:4:5", "Rise", &[])
    };
    let why = |outcome: Result<Ferry, String>| outcome.map(|_| ()).expect_err("it is not renamed");
    // A structure is called so, and in one function all variants are brought in.
    let told = renamed(&VARIANTS, "src/state.rs:3:5", "Low", &[]).map(|_| ()).expect_err("two are called so");
    assert!(told.contains("it is not known whether \"Ebb\" is meant here"), "{told}");
    let told = why(state("Clone, Debug", "Clone, Serialize"));
    assert!(told.contains("what derives \"Serialize\" may use the name \"Flood\""), "{told}");
    let told = why(state("pub fn falls", "pub const Rise: u8 = 3;\n    pub fn falls"));
    assert!(told.contains("\"Rise\" is taken where \"Flood\" is used"), "{told}");
    let told = why(state("Flood(u8),", "Flood(u8),\n    Rise,"));
    assert!(told.contains("\"Rise\" is taken where \"Flood\" is used"), "{told}");
    let source = VARIANTS[2].1.replace("Clone, Debug", "Clone, Serialize");
    let files = [VARIANTS[0], VARIANTS[1], ("src/state.rs", source.as_str())];
    assert!(renamed(&files, "src/state.rs:4:5", "Rise", &["--all-members"]).is_ok());
}

/// A module is in a file of its name, and those in it are in a folder of that name: they go with it, and come back.
#[test]
fn a_module_is_renamed_with_its_files() {
    let files = [
        ("Cargo.toml", "[package]\nname = \"tide-library\"\n"),
        (
            "src/lib.rs",
            "pub mod tides;\nuse crate::tides::low;\n\nfn of() {\n    tides::rise();\n    low::fall();\n}\n",
        ),
        ("src/tides.rs", "pub mod low;\npub fn rise() {}\n"),
        (
            "src/tides/low.rs",
            "mod neap;\nuse super::super::{tides::{self, rise}};\npub(in crate::tides) fn fall() {\n    tides::rise();\n}\n",
        ),
        ("src/tides/low/neap.rs", "pub fn is() {}\n"),
        ("tests/board.rs", "use tide_library::tides as all;\n\n#[test]\nfn rises() {\n    all::rise();\n}\n"),
    ];
    let moved =
        ["Cargo.toml", "src/lib.rs", "src/water.rs", "src/water/low.rs", "src/water/low/neap.rs", "tests/board.rs"];
    for place in ["src/lib.rs:1:9", "src/lib.rs:5:5", "tests/board.rs:1:19", "src/tides/low.rs:3:15"] {
        let ferry = renamed(&files, place, "water", &[]).expect(place);
        for ((_, text), path) in files.iter().zip(moved) {
            assert_eq!(ferry.read(path), text.replace("tides", "water"), "{place} {path}");
        }
        assert!(!ferry.path("src/tides").exists() && !ferry.path("src/tides.rs").exists(), "{place}");
        assert_eq!(ferry.run(&["fix", "--undo"]).status, 0);
        for (path, text) in files {
            assert_eq!(ferry.read(path), text, "{place} {path}");
        }
        assert!(!ferry.path("src/water").exists(), "{place}");
    }
}

#[test]
fn a_module_is_not_renamed_where_its_files_cannot_be() {
    let base = [("src/lib.rs", "mod tides;\n"), ("src/tides/mod.rs", "pub fn rise() {}\n")];
    let with = |more: &[(&str, &str)]| {
        renamed(&[&base[..], more].concat(), "src/lib.rs:1:5", "water", &[]).map(|_| ()).err().unwrap_or_default()
    };
    assert_eq!(with(&[]), "");
    // Where attributes choose, only the one in a file has a file.
    let chosen = "#[cfg(unix)]\nmod tides;\n#[cfg(not(unix))]\nmod tides {}\n";
    let ferry = renamed(&[("src/lib.rs", chosen), base[1]], "src/lib.rs:2:5", "water", &[]).expect("it is renamed");
    assert_eq!(ferry.read("src/lib.rs"), chosen.replace("tides", "water"));
    assert_eq!(ferry.read("src/water/mod.rs"), base[1].1);
    let told = with(&[("src/water/mod.rs", "")]);
    assert!(told.contains("there is \"src/water\" already"), "{told}");
    let told = with(&[("src/tides/table.csv", "3;4\n")]);
    assert!(told.contains("a file is in the folder of \"tides\" and no part of it"), "{told}");
    let told = with(&[("tests/board.rs", "#[path = \"../src/tides/mod.rs\"]\nmod all;\n")]);
    assert!(told.contains("this may be the path of \"tides\""), "{told}");
    let told = with(&[("src/main.rs", "mod tides;\nfn tides() {}\nfn main() {}\n")]);
    assert!(told.contains("two things are called \"tides\""), "{told}");
}

/// What attributes of the language say is no use of a name, and what `matches!` is given is known.
#[test]
fn attributes_and_patterns_in_macros_are_understood() {
    let source = "#[cfg(feature = \"tides\")]\nmod tides {}\n\nenum State {\n    Ebb,\n}\n\nfn of(state: State) -> bool {\n    matches!(state, State::Ebb if true)\n}\n";
    let files = [("src/lib.rs", source)];
    let after = |place, new| renamed(&files, place, new, &[]).expect(place).read("src/lib.rs");
    assert_eq!(after("src/lib.rs:2:5", "water"), source.replace("mod tides", "mod water"));
    assert_eq!(after("src/lib.rs:5:5", "Low"), source.replace("Ebb", "Low"));
    let told = after("src/lib.rs:8:7", "water");
    assert_eq!(told, source.replace("(state", "(water"));
}
