//! Words in strings and comments that may stand for code.

use rustc_hash::FxHashSet;
use sieve_syntax::text::Marks;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use crate::interface::{File, word_hash};

/// Calls that look for names in the strings they are given, or run them as code.
const EVALUATE: &[&str] = &[
    "eval",
    "exec",
    "compile",
    "timeit",
    "repeat",
    "Timer",
    "run",
    "runctx",
    "cast",
    "TypeVar",
    "NewType",
    "ForwardRef",
    "getattr",
    "setattr",
    "delattr",
    "hasattr",
    "patch",
    "object",
    "import_module",
    "import_string",
    "__import__",
    "usefixtures",
    "fixture",
    "parametrize",
    "lazy_fixture",
    "getfixturevalue",
    "numexpr",
    "query",
    "assign",
];

/// Hashes of the words that a string or a comment of the file may use as names: in what is run or looked up, in examples that are
/// run, in types, and in comments that document.
pub(crate) fn evaluated_words(file: File<'_>) -> FxHashSet<u64> {
    let mut words = FxHashSet::default();
    let tokens = 0..file.tree.tokens().len() as TokenId;
    for token in tokens {
        let kind = file.tree.token_kind(token);
        if matches!(kind, TokenKind::String | TokenKind::FormatText | TokenKind::Comment) {
            add_from_token(file, kind, file.text.slice(file.tree.token_span(token)), &mut words);
        }
    }
    // Only where files export everything are imports bound to names that strings may ask for.
    if file.language.spec().exports_everything {
        file.tree.nodes_of(Kind::Call).for_each(|call| add_from_call(file, call, &mut words));
    }
    words
}

/// Calls that read the variables around them through the strings that they are given: queries of tables, and code that is run.
const READ_AROUND: &[&str] = &["eval", "exec", "query", "evaluate", "timeit", "repeat"];

/// Arguments that do, by name.
const READ_AROUND_BY_NAME: &[&str] = &["where", "expr"];

/// How such calls are written.
static MAY_READ_AROUND: Marks =
    Marks::new(&["eval(", "exec(", "query(", "evaluate(", "timeit(", "repeat(", "where=", "expr="]);

/// Hashes of the words in strings through which the variables around a call may be read.
pub(crate) fn words_read_around(file: File<'_>) -> FxHashSet<u64> {
    let mut words = FxHashSet::default();
    // Few files call any of them.
    if !file.language.spec().exports_everything || !MAY_READ_AROUND.are_in(file.text.source()) {
        return words;
    }
    for call in file.tree.nodes_of(Kind::Call) {
        let (Some(callee), Some(arguments)) = (call.child(Role::Callee), call.child(Role::Arguments)) else { continue };
        let name = callee.child(Role::Name).unwrap_or(callee);
        let reads_all = READ_AROUND.contains(&file.node_text(name));
        for argument in arguments.children() {
            let named = argument.child_of(Kind::KeywordArgument, Role::Name);
            if !reads_all && !named.is_some_and(|name| READ_AROUND_BY_NAME.contains(&file.node_text(name))) {
                continue;
            }
            let strings = argument.descendants().chain([argument]);
            strings
                .filter(|node| matches!(node.kind(), Kind::String | Kind::FormatString))
                .for_each(|string| add_words(file.node_text(string), &mut words));
        }
    }
    words
}

fn add_from_token(file: File<'_>, kind: TokenKind, text: &str, words: &mut FxHashSet<u64>) {
    let spec = file.language.spec();
    if kind == TokenKind::Comment {
        let documents = spec.doc_comment.is_some_and(|mark| text.starts_with(mark));
        let gives_type = spec.exports_everything && text.trim_start_matches('#').trim_start().starts_with("type:");
        if documents || gives_type {
            add_words(text, words);
        }
    } else if spec.exports_everything && text.contains(">>>") {
        let is_example = |line: &&str| line.starts_with(">>>") || line.starts_with("...");
        text.lines().map(str::trim_start).filter(is_example).for_each(|line| add_words(line, words));
    }
}

fn add_from_call(file: File<'_>, call: NodeRef<'_>, words: &mut FxHashSet<u64>) {
    let (Some(callee), Some(arguments)) = (call.child(Role::Callee), call.child(Role::Arguments)) else { return };
    let name = callee.child(Role::Name).unwrap_or(callee);
    let evaluates = EVALUATE.contains(&file.node_text(name));
    for argument in arguments.children() {
        let value = argument.child_of(Kind::KeywordArgument, Role::Value).unwrap_or(argument);
        let strings = value.descendants().take(if evaluates { usize::MAX } else { 0 }).chain([value]);
        for string in strings.filter(|node| matches!(node.kind(), Kind::String | Kind::FormatString)) {
            let text = file.node_text(string);
            // Some libraries refer to a class that is defined elsewhere by its name.
            let names_class = || {
                let word = text.trim_matches(['"', '\'']);
                word.starts_with(|first: char| first.is_uppercase()) && word.chars().all(is_part)
            };
            if evaluates || names_class() {
                add_words(text, words);
            }
        }
    }
}

fn add_words(text: &str, words: &mut FxHashSet<u64>) {
    words.extend(text.split(|character| !is_part(character)).filter(|word| !word.is_empty()).map(word_hash));
}

fn is_part(character: char) -> bool {
    character == '_' || character.is_alphanumeric()
}
