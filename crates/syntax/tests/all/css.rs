//! Style sheets: what they are made of, what is wrong with some, counts as two other readers have them, hostile texts.

use proptest::prelude::*;
use sieve_syntax::css;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Tree};

use crate::listed::{faults, files, parsed, parsed_source, told};
use crate::shape::{assert_sound, shape};

fn sheet(source: &str) -> (Text, Tree) {
    parsed_source(Language::Css, source.to_string())
}

#[test]
fn sheets_have_their_parts() {
    for (source, expected) in [
        ("", "file"),
        ("<!-- -->\n/* tides */", "file"),
        (
            "a, .quay > b::before {}",
            "file(style-rule(selector-list(selector(type-selector) selector(class-selector type-selector pseudo-selector(name))) block))",
        ),
        (
            "#map[data-tide~='low' i]:not(.x, |y) { margin: 0 auto }",
            "file(style-rule(selector-list(selector(id-selector attribute-selector(name string) \
             pseudo-selector(name arguments(selector-list(selector(class-selector) selector(type-selector)))))) \
             block(style-declaration(name style-value(number name)))))",
        ),
        (
            "@media (min-width: 40em) and print { a { color: #fff !important } }",
            "file(at-rule(at-keyword prelude(group(name dimension) name name) block(style-rule(selector-list(selector(type-selector)) \
             block(style-declaration(name style-value(hash-value important-flag)))))))",
        ),
        ("@import url(tide.css) screen;", "file(at-rule(at-keyword prelude(url name)))"),
        (
            "a { --gap: { x: 1 }; width: calc(100% - var(--gap, 2px)) }",
            "file(style-rule(selector-list(selector(type-selector)) block(style-declaration(name style-value(block(name number))) \
             style-declaration(name style-value(call(name arguments(percentage call(name arguments(name dimension)))))))))",
        ),
        (
            "a { &:hover { x: 1 } b:hover c { y: 2 } z: 3; @media print { w: 4 } }",
            "file(style-rule(selector-list(selector(type-selector)) block(\
             style-rule(selector-list(selector(nesting-selector pseudo-selector(name))) block(style-declaration(name style-value(number)))) \
             style-rule(selector-list(selector(type-selector pseudo-selector(name) type-selector)) block(style-declaration(name style-value(number)))) \
             style-declaration(name style-value(number)) \
             at-rule(at-keyword prelude(name) block(style-declaration(name style-value(number)))))))",
        ),
        (
            "@keyframes ebb { from { top: 0 } 50.5% { top: 1px } }",
            "file(at-rule(at-keyword prelude(name) block(\
             style-rule(selector-list(selector(type-selector)) block(style-declaration(name style-value(number)))) \
             style-rule(selector-list(selector(percentage)) block(style-declaration(name style-value(dimension)))))))",
        ),
    ] {
        let (text, tree) = sheet(source);
        assert_eq!((faults(&text, &tree), shape(tree.root()).as_str()), (Vec::new(), expected), "{source}");
    }
}

/// Old ways to speak to one browser alone are no mistakes.
#[test]
fn ways_to_speak_to_one_browser_are_understood() {
    for source in [
        "a { *zoom: 1; _height: 1px }",
        "a { filter: progid:DXImageTransform.Microsoft.gradient(startColorstr='#80000000', endColorstr='#80000000'); }",
        "a >>> b, a /deep/ c {}",
        "@media \\0screen { a { x: 1\\9 } }",
    ] {
        let (text, tree) = sheet(source);
        assert_eq!(faults(&text, &tree), Vec::<String>::new(), "{source}");
    }
}

/// One mistake is one fault, at its place, and what is around it is understood.
#[test]
fn mistakes_are_told_one_by_one() {
    for (source, expected, rules) in [
        ("a { color red; x: 1 }\nb {}", "1:11 expected ':', found a name", 2),
        ("a { color: red\n  width: 1px }\nb {}", "2:8 a semicolon is missing before this declaration", 2),
        ("a { color: ; }\nb {}", "1:12 expected a value, found ';'", 2),
        ("a {\n// tide\n  x: 1; }\nb {}", "2:1 a comment is written between /* and */", 2),
        ("// tide\na {}\nb {}", "1:1 a comment is written between /* and */", 2),
        ("a,, c {}\nb {}", "1:3 expected a selector, found ','", 2),
        ("a > {}\nb {}", "1:5 expected a selector, found '{'", 2),
        (". quay {}\nb {}", "1:3 expected the name of a class, found a name", 2),
        ("a: hover {}\nb {}", "1:4 expected the name of a pseudo-class, found a name", 2),
        ("a[x {}\nb {}", "1:2 '[' is never closed", 2),
        ("a { x: 'low\n }\nb {}", "1:8 the string is never closed", 2),
        ("a { x: f(1; }\nb {}", "1:9 '(' is never closed", 2),
        ("a { x: 1 }}\nb {}", "1:11 '}' closes nothing", 2),
        ("a { x: url(low tide) }\nb {}", "1:8 an address with whitespace in it is a string in quotes", 2),
        ("b {}\na { x: 1", "2:3 '{' is never closed", 2),
        ("b {}\na { x: 1 } /* tide", "2:12 the comment is never closed", 2),
        ("a {} b", "1:7 expected '{', found the end of the file", 2),
        ("a { x: 1 ) ; y: 2 }\nb {}", "1:10 ')' closes nothing", 2),
    ] {
        let (text, tree) = sheet(source);
        let found = tree.nodes().filter(|node| node.kind() == Kind::StyleRule).count();
        assert_eq!((faults(&text, &tree), found), (vec![expected.to_string()], rules), "{source}");
    }
}

#[test]
fn declarations_may_be_alone() {
    let text = Text::new("color: red; margin: 0".into());
    let tree = css::parse_declarations(&text);
    assert_sound(&tree, text.source());
    let expected = "file(style-declaration(name style-value(name)) style-declaration(name style-value(number)))";
    assert_eq!((tree.faults().len(), shape(tree.root()).as_str()), (0, expected));
}

/// How many declarations, at-rules and style rules a sheet has, or that it is wrong.
const REFERENCE: &str = "
import { readFileSync } from 'node:fs';
import { parse, walk } from 'css-tree';
for (const name of readFileSync(process.argv.at(-1), 'utf8').split('\\n').filter(Boolean)) {
  const errors = [], counts = { Declaration: 0, Atrule: 0, Rule: 0 };
  const tree = parse(readFileSync(name, 'utf8').replace(/^\\ufeff/, ''), { onParseError: error => errors.push(error) });
  walk(tree, function (node) { if (node.type in counts && this.atrulePrelude === null) counts[node.type]++; });
  console.log(errors.length > 0 ? 'error' : Object.values(counts).join(' '));
}";

fn counts(tree: &Tree) -> String {
    let count = |kind: Kind| tree.nodes().filter(|node| node.kind() == kind).count();
    format!("{} {} {}", count(Kind::StyleDeclaration), count(Kind::AtRule), count(Kind::StyleRule))
}

/// What the reference does not understand: filters of one old browser, and rules in rules that begin with the name of an element.
const NOT_UNDERSTOOD: &[&str] = &["progid:", "pre code.hljs {"];

#[test]
fn real_sheets_have_the_counts_that_the_reference_has() {
    let files = files("css");
    if files.is_empty() {
        return;
    }
    assert!(files.len() > 300, "{} files", files.len());
    let mut differ = Vec::new();
    for (file, theirs) in files.iter().zip(told("node", &["--input-type=module", "-e", REFERENCE], &files)) {
        let (text, tree) = parsed(Language::Css, file);
        let ours = if tree.faults().is_empty() { counts(&tree) } else { "error".into() };
        let is_known = theirs == "error" && NOT_UNDERSTOOD.iter().any(|part| text.source().contains(part));
        if ours != theirs && !is_known {
            differ.push(format!("{}: {ours}, not {theirs}: {:?}", file.display(), faults(&text, &tree).first()));
        }
    }
    assert!(differ.is_empty(), "{} of {}:\n{}", differ.len(), files.len(), differ.join("\n"));
}

/// How many rules and at-rules are at the top of a sheet, as the syntax alone has them.
const SECOND: &str = "
import sys, tinycss2
for name in open(sys.argv[1]).read().splitlines():
    with open(name, encoding='utf-8') as file:
        rules = tinycss2.parse_stylesheet(file.read().lstrip('\\ufeff'), skip_comments=True, skip_whitespace=True)
    print(*(sum(rule.type == kind for rule in rules) for kind in ('qualified-rule', 'at-rule')))
";

#[test]
fn a_second_reader_has_the_same_rules_at_the_top() {
    let files = files("css");
    if files.is_empty() {
        return;
    }
    let mut differ = Vec::new();
    for (file, theirs) in files.iter().zip(told("python3", &["-c", SECOND], &files)) {
        let (_, tree) = parsed(Language::Css, file);
        let count = |kind: Kind| tree.root().children().filter(|node| node.kind() == kind).count();
        let ours = format!("{} {}", count(Kind::StyleRule), count(Kind::AtRule));
        if tree.faults().is_empty() && ours != theirs {
            differ.push(format!("{}: {ours}, not {theirs}", file.display()));
        }
    }
    assert!(differ.is_empty(), "{} of {}:\n{}", differ.len(), files.len(), differ.join("\n"));
}

/// Each would take minutes, or much of the stack, if anything grew faster than the text.
#[test]
fn hostile_texts_are_read_to_their_end() {
    let deep = 100_000;
    let repeated = |piece: &str| piece.repeat(deep);
    let sources = [
        repeated("a{"),
        repeated("("),
        repeated("a{x:("),
        repeated("{"),
        repeated("}"),
        repeated(":is("),
        repeated(":is(a"),
        repeated("a:"),
        repeated("a:b "),
        repeated("a,"),
        repeated("[a"),
        repeated("a{b:c\n"),
        repeated("a{b "),
        repeated("@a"),
        repeated("@a{"),
        repeated("@a("),
        repeated("url("),
        repeated("/*"),
        repeated("'"),
        repeated("'\n"),
        repeated("\\"),
        repeated("\\\n"),
        repeated("-"),
        repeated("<!--"),
        repeated("!"),
        format!("a{{{}", repeated("x:y!")),
        format!("a{{x:{}", repeated("y\nz:")),
        format!("a{{{}", repeated("x{")),
        format!("a{{{}", repeated("x:y\n{")),
        "1".repeat(5_000_000),
        "é".repeat(2_000_000),
    ];
    for source in sources {
        sheet(&source);
    }
}

const PIECES: &[&str] = &[
    "a",
    ".b",
    "#c",
    ":d",
    "::e",
    "[f=g]",
    ":not(",
    ":is(",
    "{",
    "}",
    "(",
    ")",
    "[",
    "]",
    ";",
    ":",
    ",",
    ">",
    "+",
    "~",
    "*",
    "|",
    "&",
    "@media ",
    "@x",
    "!important",
    "url(",
    "'",
    "\"",
    "/*",
    "*/",
    "//",
    "\\",
    "\n",
    " ",
    "1px",
    "50%",
    "#fff",
    "--x:",
    "<!--",
    "-->",
    "é",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 1500, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_text_gives_a_sound_tree(source in "\\PC{0,80}", pieces in prop::collection::vec(prop::sample::select(PIECES), 0..40)) {
        for source in [source, pieces.concat()] {
            sheet(&source);
            let text = Text::new(source);
            assert_sound(&css::parse_declarations(&text), text.source());
        }
    }

    /// A mistake goes no further than the block it is in.
    #[test]
    fn rules_stay_what_they_are_behind_any_declaration(pieces in prop::collection::vec(prop::sample::select(&["a", ":", " ", "1px", "!", "b", ",", "#", "@", "é"][..]), 0..12)) {
        let (_, tree) = sheet(&format!("a {{ {}; }}\nb {{ x: 1 }}\n", pieces.concat()));
        let last = tree.root().children().last().map(shape).unwrap_or_default();
        prop_assert_eq!(last, "style-rule(selector-list(selector(type-selector)) block(style-declaration(name style-value(number))))");
    }
}
