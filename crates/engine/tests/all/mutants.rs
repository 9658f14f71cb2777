//! Real code with something broken in it, sifted and fixed with every rule: no panic, no file made worse, no fix that has to be
//! discarded, and nothing left to do for a second run. By default a few, of this repository's own sources; `SIEVE_MUTANTS` says how
//! many, and takes in the machine's Python library and scripts.

use std::collections::BTreeMap;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::path::{Path, PathBuf};

use sieve_engine::fix::{FixedText, fix_text};
use sieve_engine::settings::Overrides;
use sieve_rules::{Mesh, catalogue};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use crate::bench::Bench;
use crate::random::Random;

const DEFAULT_COUNT: usize = 4_000;

/// Longer files are cut into pieces of whole lines of about this size in bytes.
const PIECE: usize = 3_000;

/// What is put in at a place: what shapes lines, odd whitespace, openers and closers, words that change what follows.
const INSERTED: &[&str] = &[
    "\r",
    "\n",
    "\r\n",
    "\x0c",
    "\x0b",
    "\t",
    " ",
    "    ",
    "\u{a0}",
    "\u{feff}",
    "\u{2028}",
    "\u{3000}",
    "\0",
    "(",
    ")",
    "[",
    "]",
    "{",
    "}",
    "'",
    "\"",
    "`",
    "${",
    "#",
    "//",
    "/*",
    "*/",
    "\\",
    ";",
    ",",
    ":",
    "=",
    "|",
    "&&",
    "<<E\n",
    "$(",
    "if ",
    "else",
    "def ",
    "return ",
    "function ",
    "async ",
    "=>",
    "<a>",
    "'''",
    "f'{",
    "1",
    "x",
    "\n\n\n",
    "  \n",
];

fn collect(folder: &Path, found: &mut Vec<PathBuf>) {
    let Ok(entries) = std::fs::read_dir(folder) else { return };
    let mut paths: Vec<PathBuf> = entries.flatten().map(|entry| entry.path()).collect();
    paths.sort();
    for path in paths {
        if path.is_dir() {
            collect(&path, found);
        } else {
            found.push(path);
        }
    }
}

/// Sources to change: all examples of the rules and the sample code base, and perhaps this machine's Python library and scripts.
fn sources(with_machine: bool) -> Vec<(Language, String)> {
    let mut found = Vec::new();
    for (_, rule) in catalogue::rules() {
        for examples in rule.examples {
            let wrong = examples.wrong.iter().map(|wrong| wrong.code);
            let codes = wrong.chain(examples.right.iter().copied());
            found.extend(codes.map(|code| (examples.language, code.to_string())));
        }
    }
    let mut files = Vec::new();
    collect(&Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo"), &mut files);
    collect(&Path::new(env!("CARGO_MANIFEST_DIR")).join("../syntax/tests/all/samples"), &mut files);
    if with_machine {
        collect_machine(&mut files);
    }
    for path in files {
        let ending = path.extension().and_then(|ending| ending.to_str()).unwrap_or("sh");
        let Some(language) = Language::of_extension(ending) else { continue };
        let Ok(text) = std::fs::read_to_string(&path) else { continue };
        let mut piece = String::new();
        for line in text.split_inclusive('\n') {
            piece.push_str(line);
            if piece.len() > PIECE {
                found.push((language, std::mem::take(&mut piece)));
            }
        }
        found.push((language, piece));
    }
    found.retain(|(_, source)| !source.is_empty());
    found
}

fn collect_machine(files: &mut Vec<PathBuf>) {
    collect(Path::new("/usr/lib/git-core"), files);
    let print = "import os; print(os.path.dirname(os.__file__))";
    let Ok(output) = std::process::Command::new("python3").args(["-c", print]).output() else { return };
    let library = PathBuf::from(String::from_utf8_lossy(&output.stdout).trim());
    for package in ["json", "email", "http", "importlib", "unittest"] {
        collect(&library.join(package), files);
    }
}

fn mutate(source: &str, random: &mut Random) -> String {
    let mut mutant = source.to_string();
    for _ in 0..=random.below(3) {
        let mut at = random.below(mutant.len() + 1);
        while !mutant.is_char_boundary(at) {
            at -= 1;
        }
        match random.below(6) {
            0 => {
                let length: usize = mutant[at..].chars().take(1 + random.below(8)).map(char::len_utf8).sum();
                mutant.replace_range(at..at + length, "");
            }
            1 => mutant.truncate(at),
            2 => mutant = mutant.replace('\n', if random.below(2) == 0 { "\r\n" } else { "\r" }),
            _ => mutant.insert_str(at, INSERTED[random.below(INSERTED.len())]),
        }
        if mutant.is_empty() {
            mutant.push('\n');
        }
    }
    mutant
}

fn fixed(bench: &Bench, language: Language, source: &str) -> FixedText {
    let text = Text::new(source.to_string());
    bench.with_subject_in(language, |subject| fix_text(&text, subject, sieve_engine::today(), false, &|_, _| {}))
}

fn faults(language: Language, source: &str) -> usize {
    language.parse(&Text::new(source.to_string())).faults().len()
}

/// What is wrong with how a mutant fares; nothing if all is well.
fn trouble(bench: &Bench, language: Language, mutant: &str) -> Option<String> {
    let once = match catch_unwind(AssertUnwindSafe(|| fixed(bench, language, mutant))) {
        Ok(once) => once,
        Err(_) => return Some("panic".to_string()),
    };
    if let Some(blame) = once.blamed.first() {
        return Some(format!("blame: {}", blame.describe(&sieve_rules::RuleSet::built_in())));
    }
    if faults(language, &once.source) > faults(language, mutant) {
        return Some(format!("worse:\n{}", once.source));
    }
    let twice = fixed(bench, language, &once.source);
    let rules: Vec<&str> = twice.applied.keys().map(|rule| catalogue::rule(*rule).name).collect();
    (twice.source != once.source).then(|| format!("not idle: {}\n{}", rules.join(", "), once.source))
}

#[test]
fn mutants_are_sifted_and_fixed_without_harm() {
    let asked = std::env::var("SIEVE_MUTANTS").ok().and_then(|count| count.parse().ok());
    let count = asked.unwrap_or(DEFAULT_COUNT);
    let seed = std::env::var("SIEVE_MUTANTS_SEED").ok().and_then(|seed| seed.parse().ok()).unwrap_or(7);
    let sources = sources(asked.is_some());
    let mut random = Random::new(seed);
    let mutants: Vec<(Language, String)> = (0..count)
        .map(|_| {
            let (language, source) = &sources[random.below(sources.len())];
            (*language, mutate(source, &mut random))
        })
        .collect();
    let workers = std::thread::available_parallelism().map_or(1, |cores| cores.get());
    let share = mutants.len().div_ceil(workers).max(1);
    let troubles: Vec<String> = std::thread::scope(|scope| {
        let work = |mutants: &[(Language, String)]| {
            let bench = Bench::new(Overrides { mesh: Some(Mesh::Fine), ..Overrides::default() });
            let one = |(language, mutant): &(Language, String)| {
                trouble(&bench, *language, mutant).map(|trouble| format!("--- {language:?}: {trouble}\n{mutant:?}"))
            };
            mutants.iter().filter_map(one).collect::<Vec<String>>()
        };
        let handles: Vec<_> = mutants.chunks(share).map(|part| scope.spawn(move || work(part))).collect();
        handles.into_iter().flat_map(|handle| handle.join().expect("a worker ends")).collect()
    });
    eprintln!("{} mutants, {} of them in trouble", mutants.len(), troubles.len());
    assert!(troubles.is_empty(), "{}", by_kind(&troubles));
}

/// How often each kind of trouble came, and the shortest mutant of each.
fn by_kind(troubles: &[String]) -> String {
    let mut kinds: BTreeMap<&str, Vec<&String>> = BTreeMap::new();
    for trouble in troubles {
        kinds.entry(trouble.lines().next().unwrap_or_default()).or_default().push(trouble);
    }
    let mut kinds: Vec<(&str, Vec<&String>)> = kinds.into_iter().collect();
    kinds.sort_by_key(|(_, all)| std::cmp::Reverse(all.len()));
    let shortest = |all: &[&String]| all.iter().min_by_key(|trouble| trouble.len()).map(|trouble| trouble.to_string());
    let parts = kinds.iter().map(|(_, all)| format!("{} times {}", all.len(), shortest(all).unwrap_or_default()));
    parts.collect::<Vec<_>>().join("\n")
}
