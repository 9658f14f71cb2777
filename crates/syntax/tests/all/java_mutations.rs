//! Java that is nearly right: the verdict is that of the compiler's own parser.

use std::path::PathBuf;

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Kind;

use crate::changed::{Choice, changed, pieces};
use crate::java_corpus::{library, verdicts};
use crate::random::Random;

/// How many changed members are compared.
const CASES: usize = 15_000;

/// Tokens that are put in odd places.
const TOKENS: &[&str] = &[
    "(",
    ")",
    "[",
    "]",
    "{",
    "}",
    "<",
    ">",
    "=",
    "==",
    "::",
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
    "&&",
    "|",
    "?",
    "@",
    "@A",
    "-",
    "->",
    "'a'",
    "\"b\"",
    "1",
    "1.5",
    "x",
    "abstract",
    "assert",
    "boolean",
    "break",
    "case",
    "catch",
    "class",
    "continue",
    "default",
    "do",
    "else",
    "enum",
    "extends",
    "final",
    "finally",
    "for",
    "if",
    "implements",
    "import",
    "instanceof",
    "int",
    "interface",
    "new",
    "null",
    "package",
    "private",
    "record",
    "return",
    "static",
    "super",
    "switch",
    "synchronized",
    "this",
    "throw",
    "throws",
    "try",
    "void",
    "while",
    "yield",
    "[]",
    "<>",
    "x()",
    "int[]",
    "+=",
    ">>",
];

/// What is read otherwise here: the compiler's parser leaves `void` as the type of a parameter, an arrow among operands, and what is assigned
/// to, to later steps, looks at how large a number is, refuses brackets behind names where types have them, and goes on behind labels that are none.
fn is_read_otherwise(ours: &str, theirs: &str) -> bool {
    ours.starts_with("only a variable can be assigned")
        || ours.starts_with("this word is the name of no type")
        || theirs.contains("legacy array notation")
        || ours == "this is no statement"
        || ours.ends_with("found '_'")
        || theirs.contains("restricted identifier 'yield'")
        || ours.ends_with("found 'void'")
        || ours.ends_with("found '->'")
        || theirs.contains("integer number too large")
}

#[test]
fn changed_members_have_the_verdict_of_the_compilers_own_parser() {
    let files = library();
    if files.is_empty() {
        return;
    }
    let members = pieces(Language::Java, &files, &CHOICE);
    let mut random = Random::new(9);
    let folder = tempfile::tempdir().expect("a folder");
    let mut sources = Vec::new();
    for index in 0..CASES {
        let own = &members[random.below(members.len())];
        let source = format!("class A {{\n{}\n}}\n", changed(Language::Java, own, TOKENS, &mut random));
        let path = folder.path().join(format!("{index}.java"));
        std::fs::write(&path, &source).expect("a file");
        sources.push((path, source));
    }
    let paths: Vec<PathBuf> = sources.iter().map(|(path, _)| path.clone()).collect();
    let (mut refused, mut differences) = (0, Vec::new());
    for ((_, source), theirs) in sources.iter().zip(verdicts(&paths)) {
        let accepted = theirs.starts_with("ok");
        refused += usize::from(!accepted);
        let tree = Language::Java.parse(&Text::new(source.clone()));
        let ours = tree.faults().first().map(|fault| fault.problem.to_string());
        if accepted != ours.is_none() && !is_read_otherwise(ours.as_deref().unwrap_or_default(), &theirs) {
            let theirs = if accepted { "accepted" } else { &theirs };
            differences.push(format!("--- there {theirs}, here {ours:?}\n{source}"));
        }
    }
    assert!(refused > CASES / 5, "the changes do too little");
    assert!(differences.is_empty(), "{} differences:\n{}", differences.len(), differences.join("\n"));
}

/// Members of types.
const CHOICE: Choice = Choice {
    step: 11,
    most: 12,
    spans: |tree| {
        let is_member = |kind: Kind| matches!(kind, Kind::Function | Kind::Field | Kind::Class | Kind::Enum);
        tree.nodes().filter(|node| is_member(node.kind())).map(|node| node.span()).collect()
    },
    is_telling: |text| (25..900).contains(&text.len()) && !text.contains("//") && !text.contains("/*"),
};
