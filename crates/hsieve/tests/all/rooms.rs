//! The order of the rooms: which module may use which, as `docs/architecture.md` lists them.

use std::collections::{BTreeMap, BTreeSet};
use std::fs;
use std::path::{Path, PathBuf};

use sieve_syntax::language::Language;

/// Folders in which files may use each other in a circle: a grammar refers to itself.
const GRAMMARS: &str = "parser";

fn crates() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).parent().expect("the folder of all crates").to_path_buf()
}

/// The tables that say what holds in which language. `syntax` and `meaning` are made of languages, and not listed here.
const TABLES: &[&str] = &[
    "rules/src/interface/traits.rs",
    "rules/src/interface/styles.rs",
    "rules/src/spacing/mod.rs",
    "engine/src/rename/traits.rs",
    "engine/src/workspace/modules/mod.rs",
    // JSON with comments is read as an expression of JavaScript.
    "engine/src/workspace/modules/commented.rs",
];

/// What may come before the name of a language in the facts of a rule: lists of languages, and the language of examples.
const IN_FACTS: &[&str] = &["    language: Language::", " languages: &["];

/// The modules of each crate, the lowest first, as the page says.
fn listed() -> Vec<(String, Vec<String>)> {
    let page = fs::read_to_string(crates().join("../docs/architecture.md")).expect("the page is there");
    let block = page.split("```rooms\n").nth(1).and_then(|rest| rest.split("```").next()).expect("it lists the rooms");
    let line = |line: &str| {
        let (name, modules) = line.split_once(": ").expect("a crate and its modules");
        (name.to_string(), modules.split(' ').map(str::to_string).collect())
    };
    block.lines().map(line).collect()
}

/// The files and folders directly in a folder of sources, by the names of their modules.
fn modules_in(folder: &Path) -> BTreeMap<String, Vec<PathBuf>> {
    let mut found: BTreeMap<String, Vec<PathBuf>> = BTreeMap::new();
    for entry in fs::read_dir(folder).expect("a folder of sources").map(|entry| entry.expect("an entry").path()) {
        let name = entry.file_stem().and_then(|stem| stem.to_str()).expect("a name").to_string();
        if !matches!(name.as_str(), "lib" | "main" | "mod") {
            found.entry(name).or_default().extend(sources(&entry));
        }
    }
    found
}

/// A file, or all files below a folder.
fn sources(path: &Path) -> Vec<PathBuf> {
    if path.is_file() {
        return if path.extension().is_some_and(|ending| ending == "rs") {
            vec![path.to_path_buf()]
        } else {
            Vec::new()
        };
    }
    fs::read_dir(path).expect("a folder").flat_map(|entry| sources(&entry.expect("an entry").path())).collect()
}

/// The code of a file without its comments and its own tests.
fn code_of(path: &Path) -> String {
    let text = fs::read_to_string(path).expect("a source");
    let code = text.split("#[cfg(test)]\nmod tests").next().unwrap_or_default();
    code.lines().map(|line| line.split("//").next().unwrap_or_default()).collect::<Vec<_>>().join("\n")
}

/// The first names of all paths in some code that begin with a prefix, those in braces included.
fn used(code: &str, prefix: &str) -> BTreeSet<String> {
    let mut found = BTreeSet::new();
    for (at, _) in code.match_indices(prefix) {
        if code[..at].ends_with(|before: char| before.is_alphanumeric() || before == '_' || before == ':') {
            continue;
        }
        let rest = &code[at + prefix.len()..];
        let Some(inner) = rest.strip_prefix('{') else {
            found.insert(first_name(rest));
            continue;
        };
        let mut depth = 0;
        let parts = inner.split(|character: char| {
            match character {
                '{' => depth += 1,
                '}' => depth -= 1,
                _ => {}
            }
            depth < 0 || depth == 0 && character == ','
        });
        let end = inner.find(';').unwrap_or(inner.len());
        for part in parts.take_while(|part| part.as_ptr() as usize - inner.as_ptr() as usize <= end) {
            found.insert(first_name(part.trim_start()));
        }
    }
    found.remove("");
    found
}

fn first_name(path: &str) -> String {
    path.chars().take_while(|character| character.is_alphanumeric() || *character == '_').collect()
}

#[test]
fn modules_use_only_those_before_them() {
    let mut wrong = Vec::new();
    for (name, order) in listed() {
        let modules = modules_in(&crates().join(&name).join("src"));
        let there: BTreeSet<&String> = modules.keys().collect();
        assert_eq!(there, order.iter().collect(), "the page lists the modules of {name}");
        for (module, files) in &modules {
            let own = order.iter().position(|known| known == module);
            for file in files {
                let place = |other: &String| order.iter().position(|known| known == other);
                let later = used(&code_of(file), "crate::").into_iter().filter(|other| place(other) > own);
                wrong.extend(later.map(|other| format!("{}: {module} uses {other}", file.display())));
            }
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

#[test]
fn files_of_a_folder_use_each_other_in_no_circle() {
    let mut wrong = Vec::new();
    for (name, _) in listed() {
        let mut folders = vec![crates().join(&name).join("src")];
        while let Some(folder) = folders.pop() {
            let inner = fs::read_dir(&folder).expect("a folder").map(|entry| entry.expect("an entry").path());
            folders.extend(inner.filter(|path| path.is_dir()));
            let modules = modules_in(&folder);
            let uses = |module: &String| -> BTreeSet<String> {
                let own = modules[module].iter().filter(|file| file.parent() == Some(&folder));
                let named = own.flat_map(|file| used(&code_of(file), "super::"));
                named.filter(|other| other != module && modules.contains_key(other)).collect()
            };
            let uses: BTreeMap<String, BTreeSet<String>> =
                modules.keys().map(|module| (module.clone(), uses(module))).collect();
            if folder.file_name().is_none_or(|folder| folder != GRAMMARS) {
                wrong.extend(circle(&uses).map(|module| format!("{}: {module}", folder.display())));
            }
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// A module that comes back to itself; leaves are taken away until only those are left.
fn circle(uses: &BTreeMap<String, BTreeSet<String>>) -> Option<&String> {
    let mut left: BTreeSet<&String> = uses.keys().collect();
    loop {
        let before = left.len();
        let kept: BTreeSet<&String> =
            left.iter().filter(|module| uses[**module].iter().any(|other| left.contains(other))).copied().collect();
        left = kept;
        if left.len() == before {
            return left.first().copied();
        }
    }
}

#[test]
fn only_tables_name_languages() {
    let spellings = Language::ALL.iter().map(|language| format!("Language::{language:?}"));
    let names: Vec<String> = spellings.collect();
    let mut wrong = Vec::new();
    for file in ["rules", "engine", "hsieve"].iter().flat_map(|name| sources(&crates().join(name).join("src"))) {
        let shown = file.strip_prefix(crates()).expect("a file of a crate").display().to_string();
        if TABLES.contains(&shown.as_str()) {
            continue;
        }
        let mut in_list = false;
        for line in code_of(&file).lines() {
            in_list = in_list && !line.contains(']') || line.trim_end().ends_with("languages: &[");
            let is_fact = in_list || IN_FACTS.iter().any(|start| line.contains(start));
            if !is_fact && names.iter().any(|name| line.contains(name.as_str())) {
                wrong.push(format!("{shown}: {}", line.trim()));
            }
        }
    }
    assert!(wrong.is_empty(), "a table should say it:\n{}", wrong.join("\n"));
}

/// What is known of the names of a language is in its folder, and in these.
const TABLES_OF_MEANING: &[&str] = &["table.rs", "folder_module/mod.rs"];

/// Languages whose folders in `meaning` were added to those that were there first.
const ADDED: &[(&str, Language)] =
    &[("go", Language::Go), ("rust", Language::Rust), ("java", Language::Java), ("csharp", Language::CSharp)];

#[test]
fn a_language_is_named_in_its_own_folder_and_in_tables() {
    let folder = crates().join("meaning/src");
    let mut wrong = Vec::new();
    for file in sources(&folder) {
        let shown = file.strip_prefix(&folder).expect("a file of the folder").display().to_string();
        let code = code_of(&file);
        for (own, language) in ADDED {
            let name = format!("Language::{language:?}");
            let names_it = code.match_indices(&name).any(|(at, _)| first_name(&code[at + name.len()..]).is_empty());
            if names_it && !shown.starts_with(&format!("{own}/")) && !TABLES_OF_MEANING.contains(&shown.as_str()) {
                wrong.push(format!("{shown} names {language:?}"));
            }
        }
    }
    assert!(wrong.is_empty(), "a table should say it:\n{}", wrong.join("\n"));
}

#[test]
fn paths_in_code_are_read_whatever_their_form() {
    let code = "use crate::files::{self, FileError};\nuse crate::{run::Request, join::{Index, Facts}};\nlet a = crate::git::Git;";
    let expected = ["files", "git", "join", "run"].map(str::to_string);
    assert_eq!(used(code, "crate::"), BTreeSet::from(expected));
    let names = |pairs: &[(&str, &str)]| -> BTreeMap<String, BTreeSet<String>> {
        pairs.iter().map(|(one, other)| (one.to_string(), BTreeSet::from([other.to_string()]))).collect()
    };
    assert!(circle(&names(&[("a", "b"), ("b", "a"), ("c", "a")])).is_some());
    assert!(circle(&names(&[("a", "b"), ("b", "x"), ("c", "a")])).is_none());
}
