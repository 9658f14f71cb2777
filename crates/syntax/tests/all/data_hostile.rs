//! TOML and YAML that nobody means well with: a sound tree in time that grows with the length alone; and what a mistake leaves whole.

use proptest::prelude::*;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Tree};

use crate::shape::{assert_kinds, assert_sound, shape};

fn parse(language: Language, source: &str) -> Tree {
    let tree = language.parse(&Text::new(source.to_string()));
    assert_sound(&tree, source);
    assert_kinds(language, &tree);
    tree
}

/// The faults of a text, each with its place.
fn faults(language: Language, source: &str) -> Vec<String> {
    let text = Text::new(source.to_string());
    let place = |at| text.place(at);
    let tree = parse(language, source);
    let told = |start| format!("{}:{}", place(start).line, place(start).column);
    tree.faults().iter().map(|fault| format!("{} {}", told(fault.span.start), fault.problem)).collect()
}

#[test]
fn documents_have_their_parts() {
    for (language, source, expected) in [
        (Language::Toml, "", "file(dictionary)"),
        (
            Language::Toml,
            "a = 1\nb.c = [1, 2]\n",
            "file(dictionary(pair(name number) pair(dotted-key(name name) list(number number))))",
        ),
        (
            Language::Toml,
            "[[quay]]\nsince = 2027-03-01\nopen = { from = 07:00:00 }\n",
            "file(dictionary(table(name pair(name date-time) pair(name dictionary(pair(name date-time))))))",
        ),
        (Language::Yaml, "", "file"),
        (
            Language::Yaml,
            "quay: &low !!map\n  depth: 3\n",
            "file(document(dictionary(pair(string anchor type-tag dictionary(pair(string number))))))",
        ),
        (
            Language::Yaml,
            "- *low\n-\n- {a: ~, b}\n",
            "file(document(list(alias null dictionary(pair(string null) pair(string null)))))",
        ),
        (Language::Yaml, "---\n|\n  tide\n...\n---\n2\n", "file(document(string) document(number))"),
    ] {
        let tree = parse(language, source);
        assert_eq!((tree.faults().len(), shape(tree.root()).as_str()), (0, expected), "{source}");
    }
}

/// One mistake is one fault, at its place, and the entries around it are understood.
#[test]
fn mistakes_are_told_one_by_one() {
    for (language, source, expected, kept) in [
        (Language::Toml, "a = \nb = 2\n", "1:5 expected a value, found the end of the line", 1),
        (Language::Toml, "a = low\nb = 2\n", "1:5 a word is no value: a string is in quotes", 2),
        (Language::Toml, "a = [1, 2\nb = 2\n", "1:5 '[' is never closed", 1),
        (Language::Toml, "a = {x = 1,}\nb = 2\n", "1:12 no comma is after the last entry of an inline table", 3),
        (Language::Toml, "a = 1 b = 2\nc = 3\n", "1:7 expected the end of the line, found a name", 2),
        (Language::Toml, "[a\nb = 2\n", "1:3 expected ']', found the end of the line", 1),
        (Language::Toml, "a = \"x\nb = 2\n", "1:5 the string is never closed", 2),
        (Language::Toml, "a = 2027-02-30\nb = 2\n", "1:5 there is no such date or time", 2),
        (
            Language::Toml,
            "a = 01\nb = 2\n",
            "1:5 a number has digits with single underscores between them, no leading zero, and digits around its point",
            2,
        ),
        (
            Language::Yaml,
            "a: 1\n b: 2\nc: 3\n",
            "2:2 keys of one mapping are indented alike: this line goes on with the value above",
            1,
        ),
        (
            Language::Yaml,
            "a: b: c\nd: 1\n",
            "1:5 a value with ':' in it has quotes around it, and a mapping begins on the line below its key",
            1,
        ),
        (Language::Yaml, "a: [1, 2\nb: 3\nc: 4\n", "1:4 '[' is never closed", 2),
        (Language::Yaml, "a: 'x\nb: 3\n", "1:4 the string is never closed", 1),
        (Language::Yaml, "a:\n\tb: 3\nc: 4\n", "2:2 a tab is no indentation", 2),
        (Language::Yaml, "a: \"x\\q\"\nb: 3\n", "1:6 there is no such escape", 2),
        (Language::Yaml, "a: {x: 1 y: 2}\nb: 3\n", "1:11 a comma is missing before this", 2),
        (Language::Yaml, "a: 1\nquay\nb: 3\n", "2:1 this is no key: ':' and whitespace are behind one", 2),
        (Language::Yaml, "a: @tide\nb: 3\n", "1:4 no value begins with this character: put quotes around it", 1),
        (Language::Yaml, "a: !q!x 1\nb: 3\n", "1:4 the handle of this tag is declared nowhere in the document", 1),
        (Language::Yaml, "a: &x *y\nb: 3\n", "1:7 an alias has neither a tag nor an anchor", 1),
    ] {
        assert_eq!(faults(language, source), [expected], "{source}");
        let tree = parse(language, source);
        assert_eq!(
            tree.nodes().filter(|node| node.kind() == Kind::Pair).count(),
            kept,
            "{source}: {}",
            shape(tree.root())
        );
    }
}

/// How many nodes and tokens of a text are looked at does not matter here: what does is that all of it is read, once.
#[test]
fn hostile_texts_are_read_to_their_end() {
    let deep = 100_000;
    let lines = |line: &str| format!("{line}\n").repeat(deep);
    let stairs: String = (0..3_000).map(|depth| format!("{}a:\n", " ".repeat(depth))).collect();
    let texts = [
        "[".repeat(deep),
        "{".repeat(deep),
        "- ".repeat(deep),
        "? ".repeat(deep),
        ": ".repeat(deep),
        "a: ".repeat(deep),
        "[a, ".repeat(deep),
        "{a: ".repeat(deep),
        "&a ".repeat(deep),
        "!a ".repeat(deep),
        lines("&a"),
        lines("- a"),
        lines("a"),
        lines("a: b"),
        lines("'"),
        lines("\""),
        lines("|"),
        lines("\t"),
        lines("---"),
        lines("..."),
        lines("%YAML 1.2"),
        lines("[a]"),
        lines("[[a]]"),
        lines("a = ["),
        lines("a.b = {"),
        lines("a = \"\"\""),
        stairs,
        format!("a: {}", "1".repeat(10_000_000)),
        format!("a = \"{}\"", "1".repeat(10_000_000)),
        format!("{}: b", "k".repeat(1_000_000)),
        format!("a = [{}]", "1,".repeat(1_000_000)),
        format!("a: |\n{}", " x\n".repeat(500_000)),
        format!("a: |\n{}", "  \n".repeat(500_000)),
        format!("a: >9\n{}", " ".repeat(1_000_000)),
        "\u{feff}\u{feff}a: b".into(),
        "a: b\u{85}c: d\u{2028}e: f\r\rg: h".into(),
        "a = 1\rb = 2\r\n".into(),
        "a: \"\\ud83c\"\nb = '\u{1}'\n".into(),
        "a.".repeat(deep) + "b = 1",
    ];
    for source in texts {
        for language in [Language::Toml, Language::Yaml] {
            parse(language, &source);
        }
    }
    // As deep as it is looked into, it is understood.
    let nested = "[".repeat(250) + &"]".repeat(250);
    assert!(parse(Language::Yaml, &nested).faults().is_empty());
    assert!(parse(Language::Toml, &format!("a = {nested}")).faults().is_empty());
}

const PIECES: &[&str] = &[
    "- ",
    "? ",
    ": ",
    "a",
    "b: c",
    "\n",
    "\n  ",
    "\n\t",
    " ",
    "[",
    "]",
    "{",
    "}",
    ",",
    "'",
    "\"",
    "\\",
    "|",
    ">",
    "|2-",
    "&x ",
    "*x",
    "!!str ",
    "!t!",
    "#",
    " # c",
    "---",
    "...",
    "%TAG ! x",
    "=",
    ".",
    "[[",
    "]]",
    "\"\"\"",
    "'''",
    "2027-03-01",
    "1_0",
    "true",
    "\r\n",
    "\r",
    "\u{feff}",
    "é",
    "\u{1}",
    "\n---\n",
    "\n...\n",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 1500, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_text_gives_a_sound_tree(source in "\\PC{0,80}", pieces in prop::collection::vec(prop::sample::select(PIECES), 0..40)) {
        for source in [source, pieces.concat()] {
            for language in [Language::Toml, Language::Yaml] {
                parse(language, &source);
            }
        }
    }

    /// What stands behind the entries of a file is no matter to those before it.
    #[test]
    fn entries_stay_what_they_are_before_any_other(pieces in prop::collection::vec(prop::sample::select(PIECES), 0..12)) {
        let before = "quay: north\ndepth: 3\nboats: [low, high]\n";
        let tree = parse(Language::Yaml, &format!("{before}z: {}", pieces.concat()));
        let first = tree.nodes().find(|node| node.kind() == Kind::Dictionary).expect("a mapping");
        let shapes: Vec<String> = first.children().take(3).map(shape).collect();
        prop_assert_eq!(shapes, ["pair(string string)", "pair(string number)", "pair(string list(string string))"]);
    }
}
