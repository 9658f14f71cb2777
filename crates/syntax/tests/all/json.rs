//! JSON: what it is made of, verdicts and values as the language's own readers have them, hostile texts.

use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

use proptest::prelude::*;
use serde_json::Value;
use sieve_syntax::json::{Dialect, number_value, parse, string_value};
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

use crate::random::Random;
use crate::shape::{assert_sound, shape};

fn tree(source: &str, dialect: Dialect) -> (Text, Tree) {
    let text = Text::new(source.to_string());
    let tree = parse(&text, dialect);
    assert_sound(&tree, text.source());
    (text, tree)
}

fn faults(source: &str, dialect: Dialect) -> Vec<String> {
    let (text, tree) = tree(source, dialect);
    let place = |at| text.lines().place(text.source(), at);
    tree.faults()
        .iter()
        .map(|fault| format!("{}:{} {}", place(fault.span.start).line, place(fault.span.start).column, fault.problem))
        .collect()
}

#[test]
fn documents_have_their_parts() {
    for (source, expected) in [
        ("{}", "file(dictionary)"),
        ("[1, -2.5e3, true, null, \"a\"]", "file(list(number number boolean null string))"),
        (
            "{\"quay\": {\"depth\": 3}, \"boats\": []}",
            "file(dictionary(pair(string dictionary(pair(string number))) pair(string list)))",
        ),
        ("\u{feff} 7\r\n", "file(number)"),
    ] {
        let (_, tree) = tree(source, Dialect::Strict);
        assert_eq!((tree.faults().len(), shape(tree.root()).as_str()), (0, expected), "{source}");
    }
    let commented = "// tides\n{\"a\": [1, /* two */ 3,], }\n";
    assert_eq!(faults(commented, Dialect::Commented), [""; 0]);
    assert_eq!(
        faults(commented, Dialect::Strict),
        [
            "1:1 JSON has no comments",
            "2:22 no comma is after the last element",
            "2:24 no comma is after the last element"
        ]
    );
}

/// One mistake is one fault, at its place, and what is around it is understood.
#[test]
fn mistakes_are_told_one_by_one() {
    for (source, expected, kept) in [
        ("{\"a\": 1 \"b\": 2}", "1:9 expected ',', found a string", 2),
        ("{\"a\": 1,, \"b\": 2}", "1:9 expected a value, found ','", 2),
        ("{\"a\": 1, \"b\": 2,}", "1:16 no comma is after the last element", 2),
        ("{a: 1, \"b\": 2}", "1:2 a key is a string in double quotes", 2),
        ("{'a': 1, \"b\": 2}", "1:2 strings are in double quotes", 2),
        ("{\"a\": low, \"b\": 2}", "1:7 a word is no value: a string is in double quotes", 2),
        ("{\"a\" 1, \"b\": 2}", "1:6 expected ':', found a number", 1),
        ("{\"a\": , \"b\": 2}", "1:7 expected a value, found ','", 1),
        (
            "{\"a\": 01, \"b\": 2}",
            "1:7 a number has digits, perhaps a fraction and an exponent, and no leading zero",
            2,
        ),
        ("{\"a\": \"x\\q\", \"b\": 2}", "1:9 there is no such escape", 2),
        ("{\"a\": \"x\\u12\", \"b\": 2}", "1:9 \\u is followed by four hexadecimal digits", 2),
        ("{\"a\": \"x\ty\", \"b\": 2}", "1:9 a control character in a string is written as an escape", 2),
        ("{\"a\": \"x\n, \"b\": 2}", "1:7 the string is never closed", 2),
        ("{\"a\": 1, \"b\": 2", "1:1 '{' is never closed", 2),
        ("{\"a\": 1, \"b\": [2}", "1:17 '}' does not close '['", 2),
        ("{\"a\": 1, \"b\": 2} 3", "1:18 expected the end of the file, found a number", 2),
        ("/* {\"a\": 1", "1:1 the comment is never closed", 0),
    ] {
        let found = faults(source, Dialect::Commented);
        // What is strict alone is tried as such.
        let found = if found.is_empty() { faults(source, Dialect::Strict) } else { found };
        assert_eq!(found.first().map(String::as_str), Some(expected), "{source}: {found:?}");
        assert!(found.len() == 1 || kept == 0 || source.contains('\n') || source.ends_with('2'), "{source}: {found:?}");
        let (_, tree) = tree(source, Dialect::Commented);
        assert_eq!(tree.nodes().filter(|node| node.kind() == Kind::Pair).count(), kept, "{source}");
    }
    assert_eq!(faults("", Dialect::Strict), ["1:1 expected a value, found the end of the file"]);
    assert_eq!(faults("]", Dialect::Strict), ["1:1 expected a value, found ']'"]);
}

/// Reads names of files, and says of each whether it is JSON.
const REFERENCE: &str = "
const fs = require('fs');
for (const name of fs.readFileSync(0, 'utf8').split('\\n').filter(Boolean)) {
  try { JSON.parse(fs.readFileSync(name, 'utf8')); console.log('accepted'); }
  catch (error) { console.log(error instanceof SyntaxError ? 'refused' : error.message); }
}";

/// What the reference says of each file.
fn verdicts(files: &[PathBuf]) -> Vec<String> {
    let folder = tempfile::tempdir().expect("a folder");
    let list = folder.path().join("list");
    let names: String = files.iter().map(|file| format!("{}\n", file.display())).collect();
    std::fs::write(&list, names).expect("a file");
    let input = std::fs::File::open(&list).expect("a file");
    let output = Command::new("node").args(["-e", REFERENCE]).stdin(Stdio::from(input)).output().expect("node runs");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    String::from_utf8_lossy(&output.stdout).lines().map(str::to_owned).collect()
}

/// The files of packages: what people and programs wrote.
fn corpus() -> Vec<PathBuf> {
    let tests = Path::new(env!("CARGO_MANIFEST_DIR")).parent().expect("the folder of all crates");
    let mut files = Vec::new();
    let mut waiting: Vec<PathBuf> =
        ["syntax/tests/reference", "hsieve/tests/forms", "hsieve/tests/page", "hsieve/tests/protocol"]
            .map(|folder| tests.join(folder).join("node_modules"))
            .into();
    while let Some(folder) = waiting.pop() {
        for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
            let path = entry.path();
            let kind = entry.file_type().expect("a type");
            if kind.is_dir() {
                waiting.push(path);
            } else if kind.is_file() && path.extension().is_some_and(|ending| ending == "json" || ending == "map") {
                files.push(path);
            }
        }
    }
    files.sort();
    files
}

/// The value of a node, with numbers as a reader of doubles has them; nothing where it cannot be told.
fn value(text: &Text, node: NodeRef<'_>) -> Option<Value> {
    let written = text.slice(node.span());
    Some(match node.kind() {
        Kind::Dictionary => {
            let pair = |pair: NodeRef<'_>| {
                let key = string_value(text.slice(pair.child(Role::Key)?.span()))?;
                Some((key, value(text, pair.child(Role::Value)?)?))
            };
            // Of equal keys the last counts.
            node.children().map(pair).collect::<Option<Vec<_>>>()?.into_iter().collect()
        }
        Kind::List => node.children().map(|element| value(text, element)).collect::<Option<Vec<_>>>()?.into(),
        Kind::String => string_value(written)?.into(),
        Kind::Number => number_value(written)?.as_real()?.into(),
        Kind::Boolean => (written == "true").into(),
        Kind::Null => Value::Null,
        _ => return None,
    })
}

/// Whether two values are the same, as far as the other reader is exact: to the last places of a number, less where they are tiny.
fn are_same(one: &Value, other: &Value) -> bool {
    match (one, other) {
        (Value::Number(one), Value::Number(other)) => {
            let (one, other) = (one.as_f64().unwrap_or(f64::NAN), other.as_f64().unwrap_or(f64::NAN));
            one == other || (one - other).abs() <= one.abs() * 1e-14 || one.abs().max(other.abs()) < 1e-290
        }
        (Value::Array(one), Value::Array(other)) => {
            one.len() == other.len() && one.iter().zip(other).all(|(one, other)| are_same(one, other))
        }
        (Value::Object(one), Value::Object(other)) => {
            let is_there = |(key, value): (&String, &Value)| other.get(key).is_some_and(|other| are_same(value, other));
            one.len() == other.len() && one.iter().all(is_there)
        }
        _ => one == other,
    }
}

/// Whether both readers say the same of a text: whether it is JSON, and what it comes to.
fn assert_same(source: &str, what: &str) -> bool {
    let (text, tree) = tree(source, Dialect::Strict);
    match serde_json::from_str::<Value>(source) {
        Ok(expected) => {
            assert!(tree.faults().is_empty(), "{what}: {:?}", tree.faults());
            let found = tree.root().children().next().and_then(|node| value(&text, node));
            assert!(found.as_ref().is_some_and(|found| are_same(found, &expected)), "{what}: {found:?} {expected:?}");
            true
        }
        Err(error) => {
            // The other reader sets a bound to nesting of its own, and to what it takes for text.
            let is_own = error.to_string().contains("recursion limit")
                || error.to_string().contains("surrogate")
                || error.to_string().contains("number out of range")
                || error.to_string().contains("hex escape");
            assert!(is_own || !tree.faults().is_empty(), "{what}: {error}");
            false
        }
    }
}

#[test]
fn verdicts_and_values_over_packages_are_those_of_other_readers() {
    let has_node = Command::new("node").arg("--version").output().is_ok_and(|output| output.status.success());
    let files = corpus();
    if !has_node || files.len() < 200 {
        assert!(std::env::var_os("CI").is_none(), "node, and the packages of the references");
        return eprintln!("node, and the packages of the references");
    }
    let (mut accepted, mut bytes) = (0, 0);
    for (path, verdict) in files.iter().zip(verdicts(&files)) {
        let Ok(source) = String::from_utf8(std::fs::read(path).expect("a file")) else { continue };
        let (_, tree) = tree(&source, Dialect::Strict);
        let is_right = tree.faults().is_empty();
        // A byte-order mark may be ignored (RFC 8259, 8.1), and is here.
        if !source.starts_with('\u{feff}') {
            assert_eq!(
                if is_right { "accepted" } else { "refused" },
                verdict,
                "{}: {:?}",
                path.display(),
                tree.faults()
            );
            accepted += usize::from(assert_same(&source, &path.display().to_string()));
        }
        bytes += source.len();
    }
    assert!(accepted > 200 && bytes > 1_000_000, "{accepted} files, {bytes} bytes");
}

#[test]
fn verdicts_and_values_of_changed_files_are_those_of_another_reader() {
    let mut random = Random::new(11);
    let pieces = [
        "{", "}", "[", "]", ",", ":", "\"", "\\", "0", "-", ".", "e", "1", "null", "true", "a", "'", "//", "\n", "\t",
        "\u{1}", "ü",
    ];
    let small = |path: &PathBuf| std::fs::metadata(path).is_ok_and(|data| data.len() < 6000);
    let files: Vec<PathBuf> = corpus().into_iter().filter(small).take(150).collect();
    let samples = [
        "{\"quay\": [1, 2.5e-3, -0, {\"a\": null}], \"boats\": \"a\\n\\\"b\", \"x\": true}",
        "[]",
        "\"\"",
        "[[1],[2,[3]]]",
    ];
    let sources = files.iter().filter_map(|path| std::fs::read_to_string(path).ok());
    let (mut right, mut wrong) = (0, 0);
    for source in sources.chain(samples.map(str::to_owned)).filter(|source| !source.starts_with('\u{feff}')) {
        for _ in 0..60 {
            let mut changed: Vec<char> = source.chars().collect();
            for _ in 0..=random.below(2) {
                let at = random.below(changed.len() + 1);
                let piece = pieces[random.below(pieces.len())].chars();
                match random.below(3) {
                    0 => drop(changed.splice(at..at, piece)),
                    1 => drop(changed.splice(at..changed.len().min(at + 1), piece)),
                    _ => changed.truncate(at.max(1)),
                }
            }
            let changed: String = changed.into_iter().collect();
            match assert_same(&changed, &changed) {
                true => right += 1,
                false => wrong += 1,
            }
        }
    }
    assert!(right > 20 && wrong > 200, "{right} and {wrong}");
}

/// Texts that nobody means well with end in a sound tree, in time that grows with their length alone.
#[test]
fn hostile_texts_are_read_to_their_end() {
    let deep = 100_000;
    let texts = [
        "[".repeat(deep),
        "{\"a\":".repeat(deep),
        "[".repeat(deep) + &"]".repeat(deep),
        "}".repeat(deep),
        ",".repeat(deep),
        "\"\u{1}".repeat(deep),
        format!("\"{}\"", "\u{1}".repeat(deep)),
        "\"\\".repeat(deep),
        "'\n".repeat(deep),
        "/*".repeat(deep),
        "/".repeat(deep),
        "1".repeat(10_000_000),
        format!("[{}]", "1,".repeat(1_000_000)),
        "\u{feff}\u{feff}".into(),
        "\u{85}\u{2028}\u{a0}".into(),
        "[1\r2\r\n3]".into(),
    ];
    for source in texts {
        for dialect in [Dialect::Strict, Dialect::Commented] {
            tree(&source, dialect);
        }
    }
    // As deep as it is looked into, it is understood.
    let (_, tree) = tree(&("[".repeat(250) + &"]".repeat(250)), Dialect::Strict);
    assert!(tree.faults().is_empty());
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_text_gives_a_sound_tree(source in "\\PC*", pieces in prop::collection::vec(prop::sample::select(vec![
        "{", "}", "[", "]", ",", ":", "\"", "'", "\\", "/*", "*/", "//", "\n", "\r", " ", "1", "-", "e", "true", "a", "ü", "\u{1}",
    ]), 0..60)) {
        for text in [source, pieces.concat()] {
            for dialect in [Dialect::Strict, Dialect::Commented] {
                tree(&text, dialect);
            }
        }
    }

    /// What another writer writes is read as what it was.
    #[test]
    fn what_is_written_is_read(strings in prop::collection::vec(any::<String>(), 0..6), numbers in prop::collection::vec(any::<f64>(), 0..6)) {
        let document = serde_json::json!({ "strings": strings, "numbers": numbers, "nested": [{ "a": [] }, {}] });
        for source in [document.to_string(), serde_json::to_string_pretty(&document).expect("JSON")] {
            let (text, tree) = tree(&source, Dialect::Strict);
            prop_assert!(tree.faults().is_empty());
            let found = tree.root().children().next().and_then(|node| value(&text, node));
            // Numbers are those that were written, to the bit.
            prop_assert_eq!(found.as_ref(), Some(&document));
        }
    }
}
