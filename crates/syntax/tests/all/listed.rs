//! Files to compare on, and what a program of another language says of each.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use std::process::Command;

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use crate::shape::{assert_kinds, assert_sound};

const FOLDER: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/reference");

/// Files with an ending among all packages that are installed, and of the system's documents, without those made by programs to be small.
/// Nothing at all, and a word about it, where no packages are.
pub fn files(ending: &str) -> Vec<PathBuf> {
    let mut found = Vec::new();
    collect(&Path::new(FOLDER).join("node_modules"), ending, &mut found);
    assert!(!found.is_empty() || std::env::var_os("CI").is_none(), "`npm install` was not run in {FOLDER}");
    if found.is_empty() {
        eprintln!("0 references: `npm install` was not run in {FOLDER}; nothing was compared");
    }
    collect(Path::new("/usr/share"), ending, &mut found);
    found.sort();
    found
}

/// Larger files take the references minutes.
const LARGEST: u64 = 200_000;

fn collect(folder: &Path, ending: &str, found: &mut Vec<PathBuf>) {
    let Ok(entries) = std::fs::read_dir(folder) else { return };
    for entry in entries.flatten() {
        let (path, sort) = (entry.path(), entry.file_type());
        let name = entry.file_name().to_string_lossy().into_owned();
        if sort.as_ref().is_ok_and(std::fs::FileType::is_dir) {
            collect(&path, ending, found);
        } else if sort.is_ok_and(|sort| sort.is_file())
            && path.extension().is_some_and(|own| own == ending)
            && !name.contains(".min.")
            && std::fs::read(&path)
                .is_ok_and(|bytes| (bytes.len() as u64) < LARGEST && std::str::from_utf8(&bytes).is_ok())
        {
            found.push(path);
        }
    }
}

/// Files with one of some endings below folders, in order. Where there are none, a word about what is missing; in the gate that fails.
pub fn below(folders: Vec<PathBuf>, endings: &[&str], missing: &str) -> Vec<PathBuf> {
    let mut found = Vec::new();
    let mut waiting = folders;
    while let Some(folder) = waiting.pop() {
        for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
            let (path, kind) = (entry.path(), entry.file_type().expect("a kind"));
            let has_ending = || path.extension().is_some_and(|own| endings.iter().any(|ending| own == *ending));
            if kind.is_dir() {
                waiting.push(path);
            } else if kind.is_file() && has_ending() {
                found.push(path);
            }
        }
    }
    assert!(!found.is_empty() || std::env::var_os("CI").is_none(), "{missing}");
    if found.is_empty() {
        eprintln!("0 files to compare on: {missing}");
    }
    found.sort();
    found
}

/// What a program prints, a line for each file: the files' names are given in a list, whose name is its last argument.
pub fn told(program: &str, arguments: &[&str], files: &[PathBuf]) -> Vec<String> {
    let folder = tempfile::tempdir().expect("a folder");
    let list = folder.path().join("list");
    let names: String = files.iter().map(|file| format!("{}\n", file.display())).collect();
    std::fs::write(&list, names).expect("a file");
    let output = Command::new(program).args(arguments).arg(&list).current_dir(FOLDER).output();
    let output = output.unwrap_or_else(|error| panic!("{program}: {error}"));
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let lines: Vec<String> = String::from_utf8_lossy(&output.stdout).lines().map(str::to_owned).collect();
    assert_eq!(lines.len(), files.len(), "one line a file");
    lines
}

/// The text of a file with its tree, which is sound.
pub fn parsed(language: Language, file: &Path) -> (Text, Tree) {
    let source = std::fs::read_to_string(file).expect("a file");
    parsed_source(language, source)
}

/// A text with its tree, which is sound.
pub fn parsed_source(language: Language, source: String) -> (Text, Tree) {
    let text = Text::new(source);
    let tree = language.parse(&text);
    assert_sound(&tree, text.source());
    assert_kinds(language, &tree);
    (text, tree)
}

/// Counts of what a file is made of, by names.
pub type Counts = BTreeMap<&'static str, usize>;

/// What is counted differently: the name first, then both counts.
pub fn unequal(own: &Counts, other: &Counts) -> Vec<String> {
    let names: BTreeSet<_> = own.keys().chain(other.keys()).collect();
    let differs = |name: &&&str| own.get(**name) != other.get(**name);
    let told = |name: &&str| format!("{name} {:?} {:?}", own.get(name), other.get(name));
    names.into_iter().filter(differs).map(told).collect()
}

/// The faults of a tree, each with its place.
pub fn faults(text: &Text, tree: &Tree) -> Vec<String> {
    let place = |at| text.lines().place(text.source(), at);
    let one = |fault: &sieve_syntax::tree::Fault| {
        let place = place(fault.span.start);
        format!("{}:{} {}", place.line, place.column, fault.problem)
    };
    tree.faults().iter().map(one).collect()
}
