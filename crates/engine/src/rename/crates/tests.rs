//! What words mean in the modules of small crates.

use std::path::PathBuf;
use std::sync::Arc;

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use super::lookup::{Lookup, Meaning};
use super::modules::Modules;
use crate::rename::source::{Source, View};

pub(super) fn source((module, text): &(&str, &str)) -> Source {
    let text = Text::new((*text).to_string());
    let language = Language::of_file_name(module).expect("a file with code");
    Source {
        path: PathBuf::from(module),
        shown: Arc::from(*module),
        module: (*module).to_string(),
        language,
        before: Vec::new(),
        tree: language.parse(&text),
        text,
        read_only: None,
        page: None,
    }
}

/// What paths mean in the first module of a file, each as the line of an item, the path of a module, or how it is not known.
fn meanings(files: &[(&str, &str)], file: &str, paths: &[&str]) -> Vec<String> {
    let sources: Vec<Source> = files.iter().map(source).collect();
    let views: Vec<View<'_>> = sources.iter().map(View::of).collect();
    let modules = Modules::of(&views, |_| Some("tides".to_string()));
    let lookup = Lookup::new(&views, &modules);
    let home = files.iter().position(|(name, _)| *name == file).expect("a file of the list");
    let module = modules.around(home, sources[home].tree.root())[0];
    let shown = |meaning: &Meaning| match meaning {
        Meaning::Item(file, id) => {
            let span = views[*file].first_place(*id);
            format!("{}:{}", sources[*file].module, sources[*file].text.place(span.start).line)
        }
        Meaning::Module(module) => sources[modules.all[*module].file].module.clone(),
        Meaning::Elsewhere => "elsewhere".to_string(),
        Meaning::Unknown => "unknown".to_string(),
    };
    let words = |path: &str| path.split("::").map(str::to_string).collect::<Vec<_>>();
    paths.iter().map(|path| lookup.path(module, &words(path)).iter().map(shown).collect::<Vec<_>>().join(" ")).collect()
}

#[test]
fn modules_are_files_folders_and_braces() {
    let files = [
        (
            "src/lib.rs",
            "mod low;\nmod high;\nmod spring {\n    pub mod neap;\n    pub fn tide() {}\n}\n#[path = \"odd.rs\"]\nmod ebb;\n",
        ),
        ("src/low.rs", "pub mod water;\npub fn tide() {}\n"),
        ("src/low/water.rs", "pub fn tide() {}\n"),
        ("src/high/mod.rs", "pub mod water;\npub fn tide() {}\n"),
        ("src/high/water.rs", "pub fn tide() {}\n"),
        ("src/spring/neap.rs", "pub fn tide() {}\n"),
        ("src/odd.rs", "pub fn tide() {}\n"),
    ];
    let paths = [
        "low::tide",
        "low::water::tide",
        "crate::high::tide",
        "self::high::water::tide",
        "spring::tide",
        "spring::neap::tide",
        "ebb::tide",
        "flood::tide",
    ];
    let found = meanings(&files, "src/lib.rs", &paths);
    assert_eq!(
        found,
        [
            "src/low.rs:2",
            "src/low/water.rs:1",
            "src/high/mod.rs:2",
            "src/high/water.rs:1",
            "src/lib.rs:5",
            "src/spring/neap.rs:1",
            "src/odd.rs:1",
            "elsewhere"
        ]
    );
    assert_eq!(
        meanings(&files, "src/low/water.rs", &["super::tide", "super::super::ebb"]),
        ["src/low.rs:2", "src/odd.rs"]
    );
}

#[test]
fn imports_bring_names_under_others_and_all_of_a_module() {
    let files = [
        ("src/lib.rs", "pub mod low;\npub mod high;\npub use low::{tide as ebb, Depth};\npub use high::*;\n"),
        ("src/low.rs", "use super::*;\npub fn tide() {}\npub enum Depth {\n    Flat,\n}\n"),
        ("src/high.rs", "pub use crate::low::*;\npub fn flood() {}\n"),
        ("tests/board.rs", "use tides::{self as all, ebb};\nextern crate tides as same;\n"),
    ];
    assert_eq!(
        meanings(&files, "src/lib.rs", &["ebb", "Depth", "Depth::Flat", "flood", "tide", "nothing"]),
        ["src/low.rs:2", "src/low.rs:3", "src/low.rs:4", "src/high.rs:2", "src/low.rs:2", "elsewhere"]
    );
    assert_eq!(
        meanings(
            &files,
            "tests/board.rs",
            &["ebb", "all::flood", "same::low::Depth", "::tides::high", "std::mem::swap"]
        ),
        ["src/low.rs:2", "src/high.rs:2", "src/low.rs:3", "src/high.rs", "elsewhere"]
    );
}

#[test]
fn variants_are_in_types_in_their_other_names_and_in_imports_of_all() {
    let files = [
        (
            "src/lib.rs",
            "mod low;\nuse low::Depth::*;\npub type Level = low::Depth;\ntype Water = Level;\ntype Ebb = Ebb::Low;\n",
        ),
        ("src/low.rs", "pub enum Depth {\n    Flat,\n    Deep(u8),\n}\npub struct Quay;\n"),
    ];
    assert_eq!(
        meanings(
            &files,
            "src/lib.rs",
            &[
                "Flat",
                "Level::Deep",
                "low::Depth::Flat",
                "low::Depth::new",
                "low::Quay::Flat",
                "Water::Flat",
                "Ebb::Low"
            ]
        ),
        ["src/low.rs:2", "src/low.rs:3", "src/low.rs:2", "elsewhere", "elsewhere", "unknown", "unknown"]
    );
}

#[test]
fn what_macros_may_import_is_not_known() {
    let files = [
        (
            "src/lib.rs",
            "cfg_if! {\n    if #[cfg(unix)] {\n        mod low;\n        use low as tides;\n    }\n}\nmod high;\n",
        ),
        ("src/low.rs", "pub fn tide() {}\n"),
        ("src/high.rs", "use super::tides::tide;\n"),
    ];
    assert_eq!(
        meanings(&files, "src/lib.rs", &["low::tide", "tides::tide", "core::mem"]),
        ["src/low.rs:1", "unknown", "elsewhere"]
    );
    assert_eq!(meanings(&files, "src/high.rs", &["super::tides::tide"]), ["unknown"]);
}

/// Modules that import all of each other, in a row that no crate has.
#[test]
fn circles_and_long_rows_of_imports_come_to_an_end() {
    let count = 400;
    let mut files: Vec<(String, String)> = (0..count)
        .map(|at| {
            (format!("src/m{at}.rs"), format!("pub use super::m{}::*;\npub use super::m{}::*;\n", at + 1, at + 2))
        })
        .collect();
    let declared: String = (0..count).map(|at| format!("pub mod m{at};\n")).collect();
    files.push(("src/lib.rs".to_string(), declared));
    files[count - 1].1 = "pub use super::m0::*;\npub use super::m1::*;\n".to_string();
    let files: Vec<(&str, &str)> = files.iter().map(|(name, text)| (name.as_str(), text.as_str())).collect();
    let found = meanings(&files, "src/lib.rs", &["m0::tide"]);
    assert!(found[0].split(' ').all(|one| one == "unknown"), "{found:?}");
}
