//! Go that is nearly right: the verdict is that of the language's own parser.

use std::path::PathBuf;

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use crate::changed::{Choice, changed, pieces};
use crate::go::{library, verdicts};
use crate::random::Random;

/// How many changed declarations are compared.
const CASES: usize = 6_000;

/// Tokens that are put in odd places.
const TOKENS: &[&str] = &[
    "(",
    ")",
    "[",
    "]",
    "{",
    "}",
    "<",
    "<-",
    "=",
    ":=",
    ":",
    ";",
    ",",
    ".",
    "...",
    "!",
    "*",
    "/",
    "+",
    "++",
    "&",
    "&^",
    "|",
    "~",
    "`",
    "'",
    "\"",
    "\n",
    "x",
    "1",
    "'a'",
    "func",
    "go",
    "defer",
    "return",
    "if",
    "else",
    "for",
    "range",
    "switch",
    "select",
    "case",
    "default",
    "type",
    "struct",
    "interface",
    "map",
    "chan",
    "var",
    "const",
    "import",
    "+=",
    "==",
    "x{",
    "[]int",
    "x.(type)",
    "break",
    "goto",
];

/// What is read otherwise here: what the specification forbids and the reference leaves to the compiler, a length that is left open where no
/// elements follow, a field in parentheses, and a constraint or a guard that the grammar has elsewhere.
fn is_read_otherwise(source: &str, problem: &str) -> bool {
    problem.contains("leaves the length") || problem.contains("no parentheses") || source.contains("package _")
}

#[test]
fn changed_declarations_have_the_verdict_of_the_languages_own_parser() {
    let files = library();
    if files.is_empty() {
        return;
    }
    let declarations = pieces(Language::Go, &files, &CHOICE);
    let mut random = Random::new(9);
    let folder = tempfile::tempdir().expect("a folder");
    let mut sources = Vec::new();
    for index in 0..CASES {
        let own = &declarations[random.below(declarations.len())];
        let source = format!("package a\n\n{}", changed(Language::Go, own, TOKENS, &mut random));
        let path = folder.path().join(format!("{index}.go"));
        std::fs::write(&path, &source).expect("a file");
        sources.push((path, source));
    }
    let paths: Vec<PathBuf> = sources.iter().map(|(path, _)| path.clone()).collect();
    let (mut refused, mut differences) = (0, Vec::new());
    for ((_, source), theirs) in sources.iter().zip(verdicts(&paths)) {
        let accepted = theirs.starts_with("ok");
        refused += usize::from(!accepted);
        let tree = Language::Go.parse(&Text::new(source.clone()));
        let ours = tree.faults().first().map(|fault| fault.problem.to_string());
        if accepted != ours.is_none() && !is_read_otherwise(source, ours.as_deref().unwrap_or_default()) {
            let theirs = theirs.rsplit('/').next().unwrap_or_default();
            let theirs = if accepted { "accepted" } else { theirs };
            differences.push(format!("--- there {theirs}, here {ours:?}\n{source}"));
        }
    }
    assert!(refused > CASES / 5, "the changes do too little");
    assert!(differences.is_empty(), "{} differences:\n{}", differences.len(), differences.join("\n"));
}

/// What is declared at the top of files, behind the package.
const CHOICE: Choice = Choice {
    step: 7,
    most: 10,
    spans: |tree| tree.root().children().skip(1).map(|node| node.span()).collect(),
    is_telling: |text| (15..900).contains(&text.len()) && text.lines().all(|line| line.len() < 160),
};
