//! Names of Rust: what they represent by cases, and by the compiler: packages in which everything that can be has another name still build.

use std::path::{Path, PathBuf};
use std::process::Command;

use sieve_meaning::names::{BindingId, DeclarationKind, Names, ScopeKind};
use sieve_meaning::names_of;
use sieve_meaning::renaming::{Clash, Form, may_become, places};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

fn parsed(source: &str) -> (Text, Tree) {
    crate::uses::parsed(Language::Rust, source)
}

fn uses(source: &str) -> Vec<String> {
    crate::uses::shown(Language::Rust, source)
}

/// The same for the statements of a function, which begin in the second line.
fn of_body(source: &str) -> Vec<String> {
    uses(&format!("fn f(low: Tide) {{\n{source}\n}}\n")).split_off(1)
}

#[test]
fn a_variable_is_seen_from_the_end_of_its_statement_on() {
    assert_eq!(of_body("let low = low + 1;\nlet low = low + 2;\nlow"), ["low:1", "low:2", "low:3"]);
    assert_eq!(of_body("let a = 1;\n{ let a = a; a }\na"), ["a:2", "a:3", "a:2"]);
    assert_eq!(of_body("let Some(a) = b else {\nreturn a };\na"), ["Some:builtin", "b:-", "a:-", "a:2"]);
    assert_eq!(
        of_body("let (a, ref b) = low;\nlet g = |a, c| a + b + c;\ng(a)"),
        ["low:1", "a:3", "b:2", "c:3", "g:3", "a:2"]
    );
    assert_eq!(
        of_body("for a in a {\na }\nwhile let Some(a) = low {\na }\na"),
        ["a:-", "a:2", "Some:builtin", "low:1", "a:4", "a:-"]
    );
}

#[test]
fn variables_of_patterns_are_seen_where_the_pattern_fits() {
    assert_eq!(
        of_body("if let Some(a) = low && a.b() {\na } else {\na }"),
        ["Some:builtin", "low:1", "a:2", "a:2", "a:-"]
    );
    assert_eq!(
        of_body("match low {\nTide::Low(a) | Tide::High { a, .. } if a => a,\nNONE => 1,\na => a, }"),
        ["low:1", "Tide:-", "Low:-", "Tide:-", "High:-", "a:3", "a:3", "NONE:-", "a:5"]
    );
    assert_eq!(
        of_body("let Tide { high, level: b } = low;\nTide { high, level: b }"),
        ["Tide:-", "low:1", "Tide:-", "high:2", "b:2"]
    );
}

#[test]
fn items_are_seen_in_all_of_their_module_and_hide_variables() {
    assert_eq!(
        of_body("g(A);\nlet a = 1;\nfn g(b: u8) { a + b; low }\nconst A: u8 = 1;"),
        ["g:4", "A:5", "u8:builtin", "a:-", "b:4", "low:-", "u8:builtin"]
    );
    assert_eq!(
        uses(
            "struct Quay<T>(T);\nimpl<T> Quay<T> {\nfn new(of: T) -> Self { Quay(of) } }\nenum Tide { Low }\nconst T: Tide = Tide::Low;\n"
        ),
        ["T:1", "Quay:1", "T:2", "T:2", "Quay:1", "of:3", "Tide:4", "Tide:4", "Low:4"]
    );
    let module = "fn low() {}\nmod deep {\nUSE\nfn f() { low(); super::low() } }\n";
    assert_eq!(uses(&module.replace("USE", "")), ["low:-", "low:1"]);
    assert_eq!(uses(&module.replace("USE", "use super::*;")), ["low:1", "low:1"]);
    assert_eq!(uses(&module.replace("USE", "use super::low;")), ["low:1", "low:3", "low:1"]);
    let constant = of_body("const A: usize = 1;\nlet b = Row::<A>::new();");
    assert_eq!(constant, ["usize:builtin", "Row:-", "A:2"], "a constant in a type");
    assert_eq!(
        uses("mod quay { pub fn low() {} }\nfn f() { quay::low(); quay::high(); self::f() }\n"),
        ["quay:1", "low:1", "quay:1", "high:-", "f:2"]
    );
}

#[test]
fn words_in_macros_are_sure_only_where_the_macro_is_known() {
    let known = "println!(\"{low} {{low}} {:>a$} {d}\", low.high + b::c, d = low);";
    assert_eq!(of_body(known), ["println:-", "low:1", "a:-", "low:1", "b:-", "c:-", "low:1"]);
    assert_eq!(of_body("info!(\"{low}\", low, low.x);"), ["info:-", "low:1?", "low:1?", "low:1?", "x:-?"]);
    assert_eq!(of_body("assert!(low.all(|low| low));"), ["assert:-", "low:1?", "all:-?", "low:1?", "low:1?"]);
}

/// What a macro says of a type is not known before it is used.
#[test]
fn what_macros_may_mean_is_not_renamed() {
    let source = "macro_rules! deep { () => { T::deep(low) }; }\nfn f<T>(low: T) { deep!(); low }\n";
    let (text, tree) = parsed(source);
    let names = names_of(Language::Rust, &text, &tree);
    let of = |wanted: &str| {
        let (id, _) = names.bindings_with_ids().find(|(_, one)| names.text(one.name) == wanted).expect("a name");
        may_become(&names, id, "high")
    };
    assert_eq!((of("T"), of("low")), (Err(Clash::Unclear), Ok(())));
}

/// Packages of the registry that need no other one, with the edition they are written in.
const PACKAGES: &[(&str, &str)] = &[
    ("regex-syntax", "2021"),
    ("memchr", "2021"),
    ("smallvec", "2018"),
    ("itoa", "2018"),
    ("strsim", "2015"),
    ("winnow", "2021"),
    ("rustc-hash", "2021"),
    ("percent-encoding", "2018"),
    ("fastrand", "2018"),
    ("either", "2018"),
    ("base64", "2021"),
    ("heck", "2021"),
];

/// The newest folder of a package in the registry of the machine.
fn package(name: &str) -> Option<PathBuf> {
    let home = std::env::var_os("CARGO_HOME").map(PathBuf::from);
    let home = home.or_else(|| Some(PathBuf::from(std::env::var_os("HOME")?).join(".cargo")))?;
    let registries = std::fs::read_dir(home.join("registry/src")).into_iter().flatten().flatten();
    let folders = registries.flat_map(|registry| std::fs::read_dir(registry.path()).into_iter().flatten().flatten());
    let is_it = |path: &PathBuf| {
        let folder = path.file_name().and_then(|folder| folder.to_str()).unwrap_or_default();
        folder.strip_prefix(name).is_some_and(|rest| {
            rest.strip_prefix('-').is_some_and(|version| version.starts_with(|first: char| first.is_ascii_digit()))
        })
    };
    folders.map(|folder| folder.path()).filter(is_it).max()
}

/// What the compiler says of a package.
fn builds(root: &Path, edition: &str) -> Result<(), String> {
    let folder = tempfile::tempdir().expect("a folder");
    let ran = Command::new("rustc")
        .args([
            "--edition",
            edition,
            "--crate-type",
            "lib",
            "--crate-name",
            "quay",
            "--emit",
            "metadata",
            "--cap-lints",
            "allow",
        ])
        .args([
            "--cfg",
            "feature=\"std\"",
            "--cfg",
            "feature=\"alloc\"",
            "--cfg",
            "feature=\"default\"",
            "--cfg",
            "feature=\"unicode\"",
        ])
        .arg(root.join("src/lib.rs"))
        .arg("--out-dir")
        .arg(folder.path())
        .output()
        .expect("rustc runs");
    if ran.status.success() { Ok(()) } else { Err(String::from_utf8_lossy(&ran.stderr).into_owned()) }
}

/// Whether a binding is a variable or a parameter, which nothing outside of its function sees.
fn is_local(names: &Names<'_>, id: BindingId) -> bool {
    let binding = names.binding(id);
    let is_inner =
        matches!(names.scope(binding.scope).kind, ScopeKind::Function | ScopeKind::Block | ScopeKind::TypeParameters);
    is_inner && binding.declarations.iter().all(|one| one.kind != DeclarationKind::Import)
}

/// A source in which every local name that can be has another one, with how many those are.
fn renamed(source: &str) -> (String, usize, usize) {
    let (text, tree) = parsed(source);
    let names = names_of(Language::Rust, &text, &tree);
    let mut edits: Vec<(u32, u32, String)> = Vec::new();
    let (mut changed, mut all) = (0, 0);
    for (id, binding) in names.bindings_with_ids().filter(|(id, _)| is_local(&names, *id)) {
        let old = names.text(binding.name);
        let first = binding.declarations[0].node;
        let new = format!("{old}_{}", first.0);
        all += 1;
        if may_become(&names, id, &new).is_err() || old.starts_with("r#") {
            continue;
        }
        changed += 1;
        for place in places(&tree, &names, id) {
            let written = match place.form {
                Form::Key => format!("{old}: {new}"),
                Form::KeyBefore => format!("{old}: "),
                Form::Imported | Form::Brought => format!("{new} as {old}"),
                Form::Plain | Form::Exported => new.clone(),
            };
            edits.push((place.span.start, place.span.end, written));
        }
    }
    let mut result = source.to_string();
    edits.sort();
    edits.dedup();
    for (start, end, written) in edits.into_iter().rev() {
        result.replace_range(start as usize..end as usize, &written);
    }
    (result, changed, all)
}

/// A copy of a package in which every local name that can be has another one still builds. Gives how many those are, of how many; nothing
/// for a package that does not build alone.
fn still_builds(package: &Path, edition: &str) -> Option<(usize, usize)> {
    builds(package, edition).ok()?;
    let copy = tempfile::tempdir().expect("a folder");
    let (mut changed, mut all) = (0, 0);
    for file in crate::uses::files_below(package) {
        let way = file.strip_prefix(package).expect("it is below");
        let to = copy.path().join(way);
        std::fs::create_dir_all(to.parent().expect("a folder")).expect("made");
        if !way.starts_with("src") || way.extension().is_none_or(|ending| ending != "rs") {
            std::fs::copy(&file, to).expect("copied");
            continue;
        }
        let (source, of_file, in_all) = renamed(&std::fs::read_to_string(&file).expect("a source"));
        changed += of_file;
        all += in_all;
        std::fs::write(to, source).expect("written");
    }
    let said = builds(copy.path(), edition);
    assert!(said.is_ok(), "{} does not build any more:\n{}", package.display(), said.unwrap_err());
    Some((changed, all))
}

#[test]
fn packages_in_which_every_variable_has_another_name_still_build() {
    let (mut built, mut changed, mut all) = (0, 0, 0);
    for (name, edition) in PACKAGES {
        let Some((of_package, in_all)) = package(name).and_then(|package| still_builds(&package, edition)) else {
            continue;
        };
        (built, changed, all) = (built + 1, changed + of_package, all + in_all);
    }
    println!("{built} packages, {changed} of {all} names");
    assert!(built >= 5 && changed > 3000, "{built} packages, {changed} of {all} names");
}
