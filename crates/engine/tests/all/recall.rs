//! Which of the mistakes that people make are found with the default settings.
//!
//! Each sample is a mistake and its right twin; a title names the rule that finds it, or says why nothing does. Whatever is found in a
//! twin is wrong.

use std::collections::BTreeSet;

use sieve_engine::settings::Overrides;
use sieve_rules::catalogue;

use crate::folder::Folder;

/// The samples of each language, and the name of a file that says nothing of its own.
const LANGUAGES: &[(&str, &str, &str)] = &[
    ("Python", "board.py", include_str!("../recall/python.txt")),
    ("JavaScript and TypeScript", "board.js", include_str!("../recall/javascript.txt")),
    ("shell", "board.sh", include_str!("../recall/shell.txt")),
    ("Java", "Board.java", include_str!("../recall/java.txt")),
    ("C#", "Board.cs", include_str!("../recall/csharp.txt")),
    ("Go", "board.go", include_str!("../recall/go.txt")),
    ("Rust", "board.rs", include_str!("../recall/rust.txt")),
];

/// A mistake, and the same without it.
struct Sample<'s> {
    title: &'s str,
    /// The rule that finds it, or why none does.
    expected: Result<&'s str, &'s str>,
    wrong: Vec<(&'s str, &'s str)>,
    right: Vec<(&'s str, &'s str)>,
}

fn samples<'s>(source: &'s str, name: &'s str) -> Vec<Sample<'s>> {
    let one = |sample: &'s str| {
        let (head, code) = sample.split_once('\n').expect("a title and code");
        let (title, expected) = head.split_once(" | ").expect("a title and what is expected");
        let (wrong, right) = code.split_once("--\n").expect("a mistake and its twin");
        let expected = expected.strip_prefix("missed: ").map_or(Ok(expected), Err);
        Sample { title, expected, wrong: files(wrong, name), right: files(right, name) }
    };
    source.strip_prefix("## ").expect("a sample").split("\n## ").map(one).collect()
}

/// The files of a sample: each below a line with its name, or one.
fn files<'s>(code: &'s str, name: &'s str) -> Vec<(&'s str, &'s str)> {
    match code.strip_prefix("@@ ") {
        None => vec![(name, code)],
        Some(files) => files.split("\n@@ ").map(|file| file.split_once('\n').expect("a name and code")).collect(),
    }
}

fn found(files: &[(&str, &str)]) -> BTreeSet<&'static str> {
    let ended: Vec<(&str, String)> =
        files.iter().map(|(name, code)| (*name, format!("{}\n", code.trim_end()))).collect();
    let ended: Vec<(&str, &str)> = ended.iter().map(|(name, code)| (*name, code.as_str())).collect();
    let outcome = Folder::with(&ended).sift(&[], Overrides::default(), false);
    assert!(outcome.errors.is_empty(), "{:?}", outcome.errors);
    outcome.findings.iter().map(|finding| catalogue::rule(finding.rule).name).collect()
}

#[test]
fn mistakes_are_found_and_their_right_twins_are_left_alone() {
    let mut troubles = Vec::new();
    for (language, name, source) in LANGUAGES {
        let samples = samples(source, name);
        let (mut caught, mut missed, mut wrong) = (0, 0, 0);
        for sample in &samples {
            let in_mistake = found(&sample.wrong);
            let in_twin = found(&sample.right);
            match sample.expected {
                Ok(rule) if in_mistake.contains(rule) => caught += 1,
                Ok(rule) => troubles.push(format!("{language}: {}: {rule} is silent; {in_mistake:?}", sample.title)),
                Err(_) if in_mistake.is_empty() => missed += 1,
                Err(_) => troubles.push(format!("{language}: {}: found by {in_mistake:?}", sample.title)),
            }
            if !in_twin.is_empty() {
                wrong += 1;
                troubles.push(format!("{language}: {}: {in_twin:?} in the right twin", sample.title));
            }
        }
        println!("{language}: {} samples, {caught} caught, {missed} missed, {wrong} wrong", samples.len());
    }
    assert!(troubles.is_empty(), "{} troubles:\n{}", troubles.len(), troubles.join("\n"));
}
