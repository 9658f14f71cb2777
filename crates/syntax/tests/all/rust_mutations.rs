//! Rust that is nearly right: the verdict is that of a general parser of the language.

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind, Tree};

use crate::changed::{Choice, changed, pieces};
use crate::random::Random;
use crate::rust_corpus::{reference, sources};

/// How many changed items are compared.
const CASES: usize = 100_000;

/// The packages whose items are changed: those that every build of this workspace needs, so that the changes are the same everywhere.
const PACKAGES: &[&str] = &[
    "/aho-corasick-1",
    "/clap_builder-4",
    "/crossbeam-epoch-0",
    "/ignore-0",
    "/jiff-0",
    "/memchr-2",
    "/proptest-1",
    "/rayon-1",
    "/regex-automata-0",
    "/rustix-1",
    "/serde_json-1",
    "/syn-3",
    "/toml_edit-0",
];

/// Tokens that are put in odd places.
const TOKENS: &[&str] = &[
    "(", ")", "[", "]", "{", "}", "<", ">", "=", "==", "::", ":", ";", ",", ".", "..", "..=", "...", "!", "*", "/",
    "+", "&", "&&", "|", "||", "?", "@", "#", "'a", "'b'", "\"c\"", "1", "1.5", "x", "_", "->", "=>", "-", "as",
    "async", "break", "const", "crate", "dyn", "else", "enum", "extern", "fn", "for", "if", "impl", "in", "let",
    "loop", "match", "mod", "move", "mut", "pub", "ref", "return", "self", "Self", "static", "struct", "super",
    "trait", "type", "unsafe", "use", "where", "while", "x!()", "x {}", "#[a]", "union", "+=", ">>",
];

/// What the reference leaves to the compiler, which refuses it: names behind any macro, `_` for a parameter, signs that are cut otherwise by the
/// compiler, `crate` alone, variables without a type, `const` before a bound or a closure, and what `unsafe` may be said of.
fn is_left_to_the_compiler(source: &str, ours: &str) -> bool {
    [
        "the exponent of this number",
        "expected a value, found '..",
        "expected '!' and what the macro is given",
        "expected '::'",
        "expected ':'",
        "expected ';' or '}', found '!'",
    ]
    .iter()
    .any(|start| ours.starts_with(start))
        || ["found '_'", "found '+='", "found '::'", "found '#'", "found '...'"].iter().any(|end| ours.ends_with(end))
        || ["[unsafe", "const|", "const?", "const impl"].iter().any(|part| source.contains(part))
}

/// What is accepted here and refused there: traits in parentheses without a word before them, imports of what is called `async` and
/// parameters without names, as the first edition has them, members by numbers of any size, and what later versions may allow.
fn is_accepted_by_the_compiler(source: &str, tree: &Tree, theirs: &str) -> bool {
    let is_sugar = |node: NodeRef<'_>| {
        node.kind() == Kind::TypeArguments && tree.token_kind(node.token_range().start) == TokenKind::ParenOpen
    };
    let imports_async =
        |import: NodeRef<'_>| import.kind() == Kind::Import && source[import.span().range()].contains("async");
    let is_nameless = |node: NodeRef<'_>| {
        node.kind() == Kind::Parameter
            && node.parent().and_then(|parameters| parameters.parent()).is_some_and(|of| of.kind() == Kind::Function)
            && node.children().all(|child| child.role() == Role::Type)
    };
    theirs.starts_with("number too large")
        || tree.nodes().any(is_nameless)
        || theirs.starts_with("expected one of: identifier, `self`") && tree.nodes().any(imports_async)
        || theirs.contains("not allowed")
        || theirs.ends_with("found keyword `where`")
        || source.contains("where=")
        || theirs.contains("precise capturing syntax")
        || source.contains("static|")
        || source.contains("> const::")
        || source.contains("impl const::")
        || tree.nodes().any(is_sugar)
}

#[test]
fn changed_items_have_the_verdict_of_a_general_parser() {
    let mut files = sources();
    files.retain(|file| PACKAGES.iter().any(|package| file.to_string_lossy().contains(package)));
    if files.is_empty() {
        return;
    }
    let items = pieces(Language::Rust, &files, &CHOICE);
    let mut random = Random::new(9);
    let (mut refused, mut differences) = (0, Vec::new());
    for _ in 0..CASES {
        let source = changed(Language::Rust, &items[random.below(items.len())], TOKENS, &mut random);
        let theirs = reference(&source).err();
        refused += usize::from(theirs.is_some());
        let tree = Language::Rust.parse(&Text::new(source.clone()));
        let ours = tree.faults().first().map(|fault| fault.problem.to_string());
        let is_otherwise = ours.as_deref().is_some_and(|ours| is_left_to_the_compiler(&source, ours))
            || theirs.as_deref().is_some_and(|theirs| is_accepted_by_the_compiler(&source, &tree, theirs));
        if theirs.is_some() != ours.is_some() && !is_otherwise {
            differences.push(format!("--- there {theirs:?}, here {ours:?}\n{source}"));
        }
    }
    assert!(refused > CASES / 5, "the changes do too little");
    assert!(differences.is_empty(), "{} differences:\n{}", differences.len(), differences.join("\n"));
}

/// Items at the top of files.
const CHOICE: Choice = Choice {
    step: 2,
    most: 10,
    spans: |tree| tree.root().children().map(|node| node.span()).collect(),
    is_telling: |text| (15..900).contains(&text.len()) && !text.contains("//"),
};
