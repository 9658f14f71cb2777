//! Fields and functions of types are renamed with their uses, where it is known whose they are, and refused where they are not.

use std::path::{Path, PathBuf};
use std::process::Command;

use sieve_syntax::language::Language;

use crate::ferry::Ferry;
use crate::members::{refusal, renamed};
use crate::places::rename_each;

const MANIFEST: (&str, &str) = ("Cargo.toml", "[package]\nname = \"tide-library\"\n");

/// Tides with what they have themselves, by a trait, and behind another type.
const TIDES: &str = "use std::ops::Deref;

pub mod board;

#[derive(Clone, Debug, Default)]
pub struct Tide {
    pub depth: u32,
    pub next: Option<Box<Tide>>,
}

pub struct Spring<T> {
    tide: Tide,
    pub moons: Vec<T>,
}

pub enum Water {
    Ebb { tide: Tide },
    Flood(Tide, u32),
}

pub trait Rises {
    fn level(&self) -> u32;
    fn twice(&self) -> u32 {
        self.level() * 2
    }
}

impl Tide {
    pub const MOST: u32 = 9;

    pub fn new(depth: u32) -> Self {
        Self { depth, next: None }
    }

    pub fn low(&self, hour: u32) -> u32 {
        self.depth + hour
    }

    pub fn after(&self) -> Result<&Tide, String> {
        self.next.as_deref().ok_or_else(String::new)
    }
}

impl Rises for Tide {
    fn level(&self) -> u32 {
        self.low(0) + Self::MOST
    }
}

impl<T> Deref for Spring<T> {
    type Target = Tide;
    fn deref(&self) -> &Tide {
        &self.tide
    }
}

impl<T> Spring<T> {
    pub fn over(tide: Tide, moons: Vec<T>) -> Spring<T> {
        Spring { tide, moons }
    }
}
";

/// Values of them in another file: results, elements, fields, what patterns and closures take, and words in macros.
const BOARD: &str = "use std::cell::RefCell;
use std::collections::HashMap;
use std::rc::Rc;

use super::{Rises, Spring, Tide as Height, Water};

pub struct Quay {
    tides: Vec<Height>,
    by_name: HashMap<String, Rc<RefCell<Height>>>,
}

struct Gauge {
    depth: f32,
}

impl Gauge {
    fn low(&self, hour: u32) -> u32 {
        hour + self.depth as u32
    }
}

fn first<T>(all: &[T]) -> &T {
    &all[0]
}

pub fn sum(quay: &Quay, water: Water, spring: Spring<Height>) -> Result<u32, String> {
    let made = Height::new(3);
    let mut total = made.low(1) + quay.tides[0].low(2) + spring.low(3) + made.after()?.low(4);
    for (hour, tide) in quay.tides.iter().enumerate() {
        total += tide.low(hour as u32);
    }
    total += quay.tides.iter().map(|one| one.low(5)).sum::<u32>();
    if let Some(found) = quay.by_name.get(\"north\") {
        total += found.borrow().low(6);
    }
    total += match &water {
        Water::Ebb { tide } => tide.low(7),
        Water::Flood(tide, _) => tide.low(8),
    };
    let Height { depth, next: _ } = &made;
    let gauge = Gauge { depth: 0.5 };
    let same = Height { depth: *depth, ..made.clone() };
    let again: Vec<Height> = vec![Height { depth: 4, next: None }];
    assert_eq!(same.low(9), again[0].low(9), \"{} {}\", made.depth, gauge.depth);
    total += Height::low(&same, 10) + spring.moons.first().map_or(0, |moon| moon.low(11)) + same.twice();
    Ok(total + gauge.low(12) + first(&quay.by_name.keys().collect::<Vec<_>>()).len() as u32)
}
";

fn files() -> [(&'static str, &'static str); 3] {
    [MANIFEST, ("src/lib.rs", TIDES), ("src/board.rs", BOARD)]
}

/// The place of a name: after the beginning of a piece of code that is there once.
fn place(before: &str, name: &str) -> String {
    let (file, text) = if TIDES.contains(before) { ("src/lib.rs", TIDES) } else { ("src/board.rs", BOARD) };
    let at = text.find(before).expect("the code") + before.find(name).expect("the name");
    let line = text[..at].rfind('\n').map_or(0, |end| end + 1);
    format!("{file}:{}:{}", text[..at].matches('\n').count() + 1, text[line..at].chars().count() + 1)
}

/// Whether the library is one that the compiler takes.
fn builds(files: &[(&str, String)]) -> Result<(), String> {
    let files: Vec<(&str, &str)> = files.iter().map(|(name, text)| (*name, text.as_str())).collect();
    let ferry = Ferry::with(&files);
    compiles(&ferry.path("src/lib.rs"), "2021", &[])
}

fn compiles(root: &Path, edition: &str, configured: &[&str]) -> Result<(), String> {
    let folder = tempfile::tempdir().expect("a folder");
    let mut compiler = Command::new("rustc");
    compiler.args(["--edition", edition, "--crate-type", "lib", "--emit", "metadata", "--cap-lints", "allow"]);
    configured.iter().for_each(|feature| {
        compiler.args(["--cfg", &format!("feature=\"{feature}\"")]);
    });
    let ran = compiler.arg(root).arg("--out-dir").arg(folder.path()).output().expect("rustc runs");
    if ran.status.success() { Ok(()) } else { Err(String::from_utf8_lossy(&ran.stderr).into_owned()) }
}

/// The files with changes in the two that hold code.
fn with(tides: impl Fn(&str) -> String, board: impl Fn(&str) -> String) -> Vec<String> {
    vec![MANIFEST.1.to_string(), tides(TIDES), board(BOARD)]
}

#[test]
fn a_function_of_a_type_is_renamed_wherever_the_type_of_its_object_is_known() {
    let wanted = with(
        |tides| tides.replace("low(", "ebb("),
        |board| {
            let renamed = board.replace("low(", "ebb(").replace("fn ebb(&self, hour", "fn low(&self, hour");
            renamed.replace("gauge.ebb(12)", "gauge.low(12)")
        },
    );
    for (before, name) in [
        ("pub fn low", "low"),
        ("made.low(1)", "low"),
        ("one.low(5)", "low"),
        ("again[0].low", "low"),
        ("Height::low", "low"),
    ] {
        assert_eq!(renamed(&files(), &place(before, name), "ebb", &[]), wanted, "{before}");
    }
    assert_eq!(
        renamed(&files(), &place("fn low(&self, hour: u32) -> u32 {\n        hour", "low"), "ebb", &[])[2]
            .matches("ebb(")
            .count(),
        2,
        "the other one"
    );
    let built: Vec<(&str, String)> = files().iter().map(|(name, _)| *name).zip(wanted).collect();
    assert_eq!(builds(&built), Ok(()));
}

#[test]
fn a_field_is_renamed_behind_dots_in_patterns_and_where_its_type_is_made() {
    let wanted = with(
        |tides| {
            let renamed = tides.replace("pub depth", "pub metres").replace("self.depth", "self.metres");
            renamed.replace("Self { depth,", "Self { metres: depth,")
        },
        |board| {
            let renamed = board.replace("Height { depth:", "Height { metres:").replace("made.depth", "made.metres");
            renamed.replace("Height { depth,", "Height { metres: depth,")
        },
    );
    for (before, name) in [
        ("pub depth", "depth"),
        ("self.depth + hour", "depth"),
        ("Height { depth: *", "depth"),
        ("made.depth", "depth"),
    ] {
        assert_eq!(renamed(&files(), &place(before, name), "metres", &[]), wanted, "{before}");
    }
    let of_variant = renamed(&files(), &place("Ebb { tide:", "tide"), "water", &[]);
    assert!(of_variant[1].contains("Ebb { water: Tide }") && of_variant[2].contains("Water::Ebb { water: tide }"));
    let built: Vec<(&str, String)> = files().iter().map(|(name, _)| *name).zip(wanted).collect();
    assert_eq!(builds(&built), Ok(()));
}

#[test]
fn what_a_trait_declares_is_renamed_with_all_that_have_it() {
    let why = refusal(&files(), &place("fn level(&self) -> u32;", "level"), "height", &[]);
    assert!(why.contains("declared by a trait and by what has it; --family"), "{why}");
    let all = renamed(&files(), &place("fn level(&self) -> u32;", "level"), "height", &["--family"]);
    assert_eq!(all[1], TIDES.replace("level", "height"));
    // One that only the trait has is alone.
    let alone = renamed(&files(), &place("fn twice", "twice"), "double", &[]);
    assert!(alone[1].contains("fn double(&self)") && alone[2].contains("same.double()"));
    let why = refusal(&files(), &place("fn deref", "deref"), "target", &["--family"]);
    assert!(why.contains("\"deref\" is required by a trait outside of the project"), "{why}");
}

#[test]
fn what_is_not_known_refuses_unless_all_members_are_meant() {
    let low = place("pub fn low", "low");
    let open = "use super::Tide;\n\nfn first<T>(all: Vec<T>) -> T {\n    all.into_iter().next().unwrap()\n}\n\npub fn low(all: Vec<Tide>) -> u32 {\n    let one = first(all);\n    one.low(1)\n}\n";
    let own = TIDES.replace("pub mod board", "pub mod open");
    let files = [MANIFEST, ("src/lib.rs", own.as_str()), ("src/open.rs", open)];
    let why = refusal(&files, &low, "ebb", &[]);
    assert!(why.contains("it is not known whose member \"low\" is here; --all-members"), "{why}");
    assert!(why.contains("src/open.rs:9:9"), "{why}");
    let after = renamed(&files, &low, "ebb", &["--all-members"]);
    assert_eq!(after[2], open.replace("one.low", "one.ebb"));
    let twice = format!("{open}\nstruct Gauge;\n\nimpl Gauge {{\n    fn low(&self) {{}}\n}}\n");
    let files = [MANIFEST, ("src/lib.rs", own.as_str()), ("src/open.rs", &twice)];
    let why = refusal(&files, &low, "ebb", &["--all-members"]);
    assert!(why.contains("another type has a member \"low\" too"), "{why}");
}

#[test]
fn a_member_is_not_renamed_where_others_may_find_it_or_the_new_name_is_taken() {
    for (before, name, new, why) in [
        ("pub fn low", "low", "new", "\"new\" is taken where \"low\" is used"),
        ("pub fn low", "low", "twice", "\"twice\" is taken where \"low\" is used"),
        ("pub depth", "depth", "next", "\"next\" is taken where \"depth\" is used"),
        ("pub moons", "moons", "depth", "\"depth\" is taken where \"moons\" is used"),
        ("iter().enumerate", "enumerate", "each", "\"enumerate\" is declared outside of the project"),
        ("pub fn low", "low", "clone", "\"clone\" is taken where \"low\" is used"),
    ] {
        let told = refusal(&files(), &place(before, name), new, &[]);
        assert!(told.contains(why), "{before} {new}: {told}");
    }
    let derived = TIDES.replace("Clone, Debug", "Clone, Serialize");
    let files = [MANIFEST, ("src/lib.rs", derived.as_str()), ("src/board.rs", BOARD)];
    let told = refusal(&files, &place("pub depth", "depth"), "metres", &[]);
    assert!(told.contains("what derives \"Serialize\" may use the name \"depth\""), "{told}");
    let read = TIDES.replace("impl Tide {", "#[script_methods]\nimpl Tide {");
    let files = [MANIFEST, ("src/lib.rs", read.as_str()), ("src/board.rs", BOARD)];
    let told = refusal(&files, "src/lib.rs:36:12", "ebb", &[]);
    assert!(told.contains("what reads this attribute may use the name \"low\""), "{told}");
}

/// Functions that attributes choose one of are one.
#[test]
fn all_that_attributes_choose_from_is_renamed() {
    let source = "pub struct Quay;\n\nimpl Quay {\n    #[cfg(unix)]\n    fn low(&self) {}\n    #[cfg(not(unix))]\n    fn low(&self) {}\n\n    pub fn moor(&self) {\n        self.low();\n    }\n}\n";
    assert_eq!(renamed(&[("src/lib.rs", source)], "src/lib.rs:5:8", "ebb", &[]), [source.replace("low", "ebb")]);
}

/// The newest folder of a package in the registry of the machine, which the build of the tests has filled.
fn package(name: &str) -> PathBuf {
    let home = std::env::var_os("CARGO_HOME").map(PathBuf::from);
    let home = home.or_else(|| Some(PathBuf::from(std::env::var_os("HOME")?).join(".cargo"))).expect("a home");
    let inner = |folder: PathBuf| std::fs::read_dir(folder).into_iter().flatten().flatten().map(|entry| entry.path());
    let is_it = |path: &PathBuf| {
        let rest = path.file_name().and_then(|name| name.to_str()).and_then(|folder| folder.strip_prefix(name));
        rest.is_some_and(|rest| rest.starts_with('-') && rest[1..].starts_with(|first: char| first.is_ascii_digit()))
    };
    let found = inner(home.join("registry/src")).flat_map(inner).filter(is_it).max();
    found.unwrap_or_else(|| panic!("{name} is not in the registry"))
}

fn files_in(folder: &Path, root: &Path, found: &mut Vec<(String, String)>) {
    let mut entries: Vec<PathBuf> =
        std::fs::read_dir(folder).expect("a folder").flatten().map(|entry| entry.path()).collect();
    entries.sort();
    for path in entries {
        if path.is_dir() {
            files_in(&path, root, found);
        } else if path.extension().is_some_and(|ending| ending == "rs") {
            let name = path.strip_prefix(root).expect("below it").to_str().expect("a name").replace('\\', "/");
            found.push((name, std::fs::read_to_string(&path).expect("code")));
        }
    }
}

fn differences() -> Ferry {
    let root = package("similar");
    let mut found = vec![("Cargo.toml".to_string(), "[package]\nname = \"similar\"\n".to_string())];
    files_in(&root.join("src"), &root, &mut found);
    let files: Vec<(&str, &str)> = found.iter().map(|(name, text)| (name.as_str(), text.as_str())).collect();
    Ferry::with(&files)
}

/// Names of real code are renamed, each alone: it still builds, or it is said why it is not renamed.
#[test]
fn a_real_package_builds_after_each_renaming() {
    let check = |ferry: &Ferry| compiles(&ferry.path("src/lib.rs"), "2024", &["text", "inline"]);
    assert_eq!(check(&differences()), Ok(()));
    let (mut renamed, mut refused) = (0, 0);
    rename_each(
        differences,
        Language::Rust,
        &["src/types.rs", "src/text/mod.rs", "src/common.rs"],
        23,
        |ferry, told| {
            let Some(told) = told else {
                refused += 1;
                return;
            };
            assert_eq!(check(&ferry), Ok(()), "{told}");
            renamed += 1;
        },
    );
    println!("{renamed} renamed, {refused} refused");
    assert!(renamed >= 10 && renamed >= refused, "{renamed} renamed, {refused} refused");
}

/// Long rows of calls and values, types that name each other, and closures in closures are given up on, or followed.
#[test]
fn long_rows_come_to_an_end() {
    let tide =
        "struct Tide;\nimpl Tide {\n    fn next(&self) -> &Tide {\n        self\n    }\n    fn low(&self) {}\n}\n";
    let values: String = (0..3000).map(|at| format!("    let v{} = v{at};\n", at + 1)).collect();
    let types: String = (0..300).map(|at| format!("type T{} = T{at};\n", at + 1)).collect();
    let sources = [
        format!("{tide}fn of(tide: &Tide) {{\n    tide{}.low();\n}}\n", "\n.next()".repeat(4000)),
        format!("{tide}fn of(v0: &Tide) {{\n{values}    v3000.low();\n}}\n"),
        format!("{tide}{types}type T0 = T300;\nfn of(tide: &T300) {{\n    tide.low();\n}}\n"),
        format!(
            "{tide}fn of(all: &[Tide]) {{\n    {}one.low(){};\n}}\n",
            "all.iter().map(|one|\n".repeat(40),
            ")\n".repeat(40)
        ),
    ];
    for source in &sources[..3] {
        let why = refusal(&[("src/lib.rs", source)], "src/lib.rs:6:8", "ebb", &[]);
        assert!(why.contains("it is not known whose member \"low\" is here"), "{why}");
    }
    for source in &sources {
        let after = renamed(&[("src/lib.rs", source)], "src/lib.rs:6:8", "ebb", &["--all-members"]);
        assert_eq!(after, [source.replace("low", "ebb")]);
    }
    let doubled: String = (0..90).map(|at| format!("    let v{} = (v{at}, v{at});\n", at + 1)).collect();
    let aliases: String = (1..30).map(|at| format!("type P{at}<T> = P{}<P{}<(T, T)>>;\n", at - 1, at - 1)).collect();
    let source = format!("{tide}fn of(v0: &Tide) {{\n{doubled}    v90.0.low();\n}}\n");
    assert_eq!(
        renamed(&[("src/lib.rs", &source)], "src/lib.rs:6:8", "ebb", &[])[0].matches("ebb").count(),
        1,
        "of a tuple"
    );
    let source = format!("{tide}type P0<T> = (T, T);\n{aliases}fn of(all: P29<Tide>) {{\n    all.0.low();\n}}\n");
    let why = refusal(&[("src/lib.rs", &source)], "src/lib.rs:6:8", "ebb", &[]);
    assert!(why.contains("it is not known whose member \"low\" is here"), "{why}");
    let many = format!("{tide}fn of(tide: &Tide) {{\n    say!({});\n}}\n", "tide.low(), Tide::low,\n".repeat(2000));
    assert_eq!(renamed(&[("src/lib.rs", &many)], "src/lib.rs:6:8", "ebb", &[])[0].matches("ebb").count(), 4001);
}
