//! Infrastructure files: what they are made of, what is wrong with some, verdicts as another reader has them, hostile texts.

use std::path::{Path, PathBuf};

use proptest::prelude::*;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Tree};

use crate::listed::{below, faults, parsed, parsed_source, told};
use crate::shape::shape;

fn config(source: &str) -> (Text, Tree) {
    parsed_source(Language::Hcl, source.to_string())
}

#[test]
fn files_have_their_parts() {
    for (source, expected) in [
        ("", "file"),
        ("# tides\n\na = 1 // low\n/* high */\n", "file(assignment(name number))"),
        (
            "resource \"quay\" north {\n  depth = 3.5\n  rule { days = 2 }\n}\n",
            "file(config-block(name string name block(assignment(name number) config-block(name block(assignment(name number))))))",
        ),
        (
            "a = b.c[0].d[*].e.0",
            "file(assignment(name subscript(member(splat(member(subscript(member(name name) number) name)) name) number)))",
        ),
        ("a = -1 + 2 * 3", "file(assignment(name binary(unary(number) binary(number number))))"),
        ("a = b && c && d || !e", "file(assignment(name logical(logical(name name name) unary(name))))"),
        ("a = b == c ? 1 : null", "file(assignment(name conditional(comparison(name name) number null)))"),
        ("a = f(1, b...)\n", "file(assignment(name call(name arguments(number name))))"),
        ("a = p::q::f()", "file(assignment(name call(name arguments)))"),
        ("a = [\n  1,\n  [],\n]\n", "file(assignment(name list(number list)))"),
        (
            "a = {\n  b = 1\n  \"c\" : 2, (d) = 3\n}\n",
            "file(assignment(name dictionary(pair(name number) pair(string number) pair(group(name) number))))",
        ),
        (
            "a = [for q in r : q.s if q.t]",
            "file(assignment(name comprehension(comprehension-clause(name name) member(name name) comprehension-clause(member(name name)))))",
        ),
        (
            "a = {\n  for k, v in r :\n  k => v...\n}\n",
            "file(assignment(name comprehension(comprehension-clause(name name name) pair(name name))))",
        ),
        (
            "a = \"b ${c} $${d} %{ if e }f%{ endif }\"",
            "file(assignment(name format-string(interpolation(name) template-directive(name) template-directive)))",
        ),
        (
            "a = \"${b(\"c ${d}\")}\"",
            "file(assignment(name format-string(interpolation(call(name arguments(format-string(interpolation(name))))))))",
        ),
        (
            "a = <<-EOT\n  low ${b}\n  EOT\nc = 1\n",
            "file(assignment(name here-document(interpolation(name))) assignment(name number))",
        ),
    ] {
        let (text, tree) = config(source);
        assert_eq!((faults(&text, &tree), shape(tree.root()).as_str()), (Vec::new(), expected), "{source}");
    }
}

/// One mistake is one fault, at its place, and what is around it is understood.
#[test]
fn mistakes_are_told_one_by_one() {
    for (source, expected, kept) in [
        ("a = \nb = 1\n", "1:5 expected a value, found the end of the line", 1),
        ("a = 1 2\nb = 1\n", "1:7 expected the end of the line, found a number", 1),
        ("a = [1, 2\nb = 1\n", "1:5 '[' is never closed", 1),
        ("a = \"low\nb = 1\n", "1:5 the string is never closed", 2),
        ("a = \"\\q\"\nb = 1\n", "1:6 there is no such escape", 2),
        ("a 1\nb = 1\n", "1:3 expected '=' or '{', found a number", 1),
        ("a { x = 1, y = 2 }\nb = 1\n", "1:10 a block of one line holds one attribute: break the line behind '{'", 1),
        ("a {\n  x = \n}\nb = 1\n", "2:7 expected a value, found the end of the line", 1),
        ("}\nb = 1\n", "1:1 '}' closes nothing", 1),
        ("b = 1\na {\n", "2:3 '{' is never closed", 1),
        ("b = 1\na = <<EOT\nlow\n", "2:7 the line that ends this here-document is missing", 2),
        ("b = 1\na = { c 1 }\n", "2:9 expected '=', found a number", 1),
        ("b = 1\n/* low", "2:1 the comment is never closed", 1),
    ] {
        let (text, tree) = config(source);
        let assigned = tree.root().children().filter(|node| node.kind() == Kind::Assignment).count();
        assert_eq!((faults(&text, &tree), assigned), (vec![expected.to_string()], kept), "{source}");
    }
}

/// Whether a file is what the language allows.
const REFERENCE: &str = "
import sys, hcl2
for name in open(sys.argv[1]).read().splitlines():
    try:
        with open(name, encoding='utf-8') as file:
            hcl2.loads(file.read() + '\\n')
        print('ok')
    except Exception:
        print('error')
";

/// Files in packages of Python that are installed for this alone; nothing runs.
fn files() -> Vec<PathBuf> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/reference/python_modules");
    let missing = format!("nothing is installed in {}", folder.display());
    below(vec![folder], &["tf", "tfvars", "hcl"], &missing)
}

/// The reference takes a here-document whose word is followed by another one, in its own text, for unclosed.
const NOT_UNDERSTOOD: &str = "<<YAML";

#[test]
fn real_files_are_accepted_where_the_reference_accepts_them() {
    let files = files();
    if files.is_empty() {
        return;
    }
    let mut differ = Vec::new();
    for (file, theirs) in files.iter().zip(told("python3", &["-c", REFERENCE], &files)) {
        let (text, tree) = parsed(Language::Hcl, file);
        let ours = if tree.faults().is_empty() { "ok" } else { "error" };
        let is_known = theirs == "error" && text.source().contains(NOT_UNDERSTOOD);
        if ours != theirs && !is_known {
            differ.push(format!("{}: {ours}, not {theirs}: {:?}", file.display(), faults(&text, &tree).first()));
        }
    }
    assert!(files.len() > 200, "{} files", files.len());
    assert!(differ.is_empty(), "{} of {}:\n{}", differ.len(), files.len(), differ.join("\n"));
}

/// Each would take minutes, or much of the stack, if anything grew faster than the text.
#[test]
fn hostile_texts_are_read_to_their_end() {
    let repeated = |piece: &str| piece.repeat(100_000);
    let sources = [
        repeated("a {\n"),
        repeated("a {"),
        repeated("}"),
        repeated("a = ["),
        format!("a = {}", repeated("[")),
        format!("a = {}", repeated("{b=")),
        format!("a = {}", repeated("f(")),
        format!("a = {}", repeated("-")),
        format!("a = {}", repeated("b ? ")),
        format!("a = {}1", repeated("1 + ")),
        format!("a = {}1", repeated("b && ")),
        format!("a = b{}", repeated(".c")),
        format!("a = b{}", repeated("[0]")),
        format!("a = {}", repeated("\"${")),
        format!("a = \"{}\"", repeated("${b}")),
        format!("a = {}", repeated("<<E\n")),
        format!("a = <<E\n{}", repeated("x\n")),
        format!("a = <<E\n{}", repeated("${")),
        format!("a = {{for {}", repeated("for ")),
        repeated("\"a\n"),
        repeated("/*"),
        repeated("a \"b\" "),
        repeated("a = 1\n"),
        "1".repeat(5_000_000),
    ];
    for source in sources {
        config(&source);
    }
}

const PIECES: &[&str] = &[
    "a", "b = ", "1", "\"c\"", " ", "\n", "{", "}", "[", "]", "(", ")", "\"", "${", "%{", "%{ if ", "~}", "<<E\n",
    "\nE\n", "=", "=>", ":", ",", ".", "...", "*", "?", "!", "-", "&&", "||", "==", "for ", "in ", "if ", "#", "//",
    "/*", "*/", "\\", "é", "::", "null", "0.5",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 1500, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_text_gives_a_sound_tree(source in "\\PC{0,80}", pieces in prop::collection::vec(prop::sample::select(PIECES), 0..40)) {
        for source in [source, pieces.concat()] {
            config(&source);
        }
    }

    /// A mistake goes no further than its line.
    #[test]
    fn entries_stay_what_they_are_before_any_line(pieces in prop::collection::vec(prop::sample::select(PIECES), 0..12)) {
        let (_, tree) = config(&format!("quay \"north\" {{\n  depth = 3\n}}\ntide = [1, 2]\n{}", pieces.concat()));
        let first: Vec<String> = tree.root().children().take(2).map(shape).collect();
        prop_assert_eq!(first, ["config-block(name string block(assignment(name number)))", "assignment(name list(number number))"]);
    }
}
