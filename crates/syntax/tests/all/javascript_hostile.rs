//! Strings that nobody means well with, for JavaScript and TypeScript: no panic, a sound tree, linear time, one clear fault.

use proptest::prelude::*;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Problem, Tree};

use crate::random::Random;
use crate::shape::assert_sound;

const LANGUAGES: &[Language] = &[Language::JavaScript, Language::TypeScript, Language::Tsx];

fn parse(language: Language, source: &str) -> Tree {
    let text = Text::new(source.to_string());
    let tree = language.parse(&text);
    assert_sound(&tree, source);
    tree
}

/// Pieces that meet in odd places more often than random letters would.
const PIECES: &[&str] = &[
    "function ",
    "class ",
    "if (",
    "else ",
    "{",
    "}",
    "(",
    ")",
    "[",
    "]",
    "<",
    ">",
    "</",
    "/>",
    "=>",
    "=",
    "`",
    "${",
    "'",
    "\"",
    "\\",
    "/",
    "/*",
    "*/",
    "//",
    "\n",
    "\r\n",
    "\u{2028}",
    "x",
    "1",
    "0x",
    ".",
    "...",
    "?.",
    "??",
    ":",
    ";",
    ",",
    "async ",
    "await ",
    "yield ",
    "import ",
    "export ",
    "default ",
    "type ",
    "as ",
    "is ",
    "infer ",
    "extends ",
    "enum ",
    "new ",
    "#a",
    "@",
    "!",
    "in ",
    "of ",
    "for (",
    "let ",
    "get ",
    "static ",
    "\u{feff}",
    "é",
    "\0",
    "<!--",
    "-->",
    "<T>(",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 500, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_bytes_that_are_text_give_a_sound_tree(bytes in proptest::collection::vec(any::<u8>(), 0..400)) {
        for language in LANGUAGES {
            if let Ok(text) = language.decode(bytes.clone()) {
                assert_sound(&language.parse(&text), text.source());
            }
        }
    }

    #[test]
    fn any_pieces_give_a_sound_tree(picks in proptest::collection::vec(0..PIECES.len(), 0..120)) {
        let source: String = picks.iter().map(|pick| PIECES[*pick]).collect();
        for language in LANGUAGES {
            parse(*language, &source);
            assert_sound(&language.parse_expression(&source), &source);
        }
    }
}

#[test]
fn the_name_of_a_tag_ends_where_the_text_does() {
    for source in ["<a.a::", "<a:", "<a.", "<a.a></a.a::", "<a.b /* c */ .d></a.b.d>"] {
        for language in [Language::JavaScript, Language::Tsx] {
            let tree = parse(language, source);
            assert_eq!(tree.faults().is_empty(), source.ends_with('>'), "{source}");
        }
    }
}

#[test]
fn a_template_without_an_end_is_one_fault() {
    for source in ["`", "`a", "`a\u{e9}", "`a\\`", "`}", "`a${b}\u{e9}", "x = `${`"] {
        let faults = parse(Language::TypeScript, source).faults().to_vec();
        assert_eq!(faults.len(), 1, "{source}: {faults:?}");
    }
}

const SAMPLE: &str = include_str!("samples/booking.tsx");

#[test]
fn code_cut_and_changed_gives_sound_trees() {
    let mut random = Random::new(3);
    for _ in 0..400 {
        let mut changed: Vec<char> = SAMPLE.chars().collect();
        changed.truncate(random.below(changed.len()));
        for _ in 0..random.below(4) {
            let at = random.below(changed.len());
            changed.splice(at..at, PIECES[random.below(PIECES.len())].chars());
        }
        let source: String = changed.into_iter().collect();
        LANGUAGES.iter().for_each(|language| drop(parse(*language, &source)));
    }
}

#[test]
fn the_sample_is_understood() {
    assert_eq!(parse(Language::Tsx, SAMPLE).faults(), []);
}

#[test]
fn deep_nesting_is_left_out_with_one_fault() {
    for (open, close) in [
        ("(", ")"),
        ("[", "]"),
        ("{a:", "}"),
        ("f(", ")"),
        ("-", ""),
        ("!", ""),
        ("x => ", ""),
        ("(x) => ", ""),
        ("x = ", ""),
        ("2 ** ", ""),
        ("new ", ""),
        ("`${", "}`"),
        ("function () { return ", "}"),
        ("class { x = ", "}"),
        ("(x = ", ") => 1"),
    ] {
        for language in LANGUAGES {
            let source = format!("x = {}1{};\ny = 2;\n", open.repeat(50_000), close.repeat(50_000));
            let tree = parse(*language, &source);
            let too_deep = tree.faults().iter().filter(|fault| matches!(fault.problem, Problem::TooDeep(_))).count();
            assert_eq!(too_deep, 1, "{open}: {:?}", tree.faults().first());
        }
    }
}

#[test]
fn deep_types_tags_and_blocks_are_left_out() {
    let types = format!("type A = {}B{};", "X<".repeat(50_000), ">".repeat(50_000));
    let choices = format!("type A = {}B{};", "(".repeat(50_000), ")".repeat(50_000));
    let tags = format!("x = {}{};", "<a>".repeat(50_000), "</a>".repeat(50_000));
    let blocks = format!("{}{}", "{".repeat(50_000), "}".repeat(50_000));
    let conditions = "if (a) ".repeat(50_000);
    for source in [types, choices, tags, blocks, conditions] {
        let tree = parse(Language::Tsx, &source);
        assert!(tree.faults().iter().any(|fault| matches!(fault.problem, Problem::TooDeep(_))), "{}", &source[..20]);
    }
}

#[test]
fn long_chains_are_no_nesting() {
    for source in [
        format!("x = 1{};", " + 1".repeat(50_000)),
        format!("x = y{};", ".z".repeat(50_000)),
        format!("x = y{};", "()".repeat(50_000)),
        format!("x = 1{};", " && 1".repeat(50_000)),
        format!("x = {}1;", "a ? b : ".repeat(50_000)),
        format!("if (a) b(); {}", "else if (a) b(); ".repeat(20_000)),
        format!("x = [{}];", "1, ".repeat(50_000)),
        format!("x = `{}`;", "a${b}".repeat(20_000)),
        "a;".repeat(50_000),
    ] {
        assert_eq!(parse(Language::JavaScript, &source).faults(), [], "{}", &source[..30]);
    }
    let types = format!("type A = {}never;", "B extends C ? D : ".repeat(20_000));
    assert_eq!(parse(Language::TypeScript, &types).faults(), []);
}

#[test]
fn what_may_be_tried_in_vain_is_tried_once() {
    // Each could take twice as long for every level if it were tried anew there.
    for source in [
        format!("{}1{}", "(a, ".repeat(200), ")".repeat(200)),
        format!("{}1{}", "(a = ".repeat(200), ")".repeat(200)),
        format!("x = {}1", "a < b<".repeat(200)),
        format!("x = {}1", "a ? (b) : c => ".repeat(200)),
        format!("x = {}1", "async(a, ".repeat(200)),
        "f<a,".repeat(50_000),
        "(a?:".repeat(50_000),
        format!("type A = {}", "({a} ".repeat(50_000)),
    ] {
        parse(Language::TypeScript, &source);
    }
}

#[test]
fn one_mistake_is_one_fault_and_what_follows_is_read() {
    for source in [
        "const tide = ;\nconst quay = 2;\n",
        "function sail( {\n  return 1;\n}\nsail();\n",
        "const a = [1, 2;\nconst b = 3;\n",
        "if (tide {\n  sail();\n}\nmoor();\n",
        "class Boat {\n  sail( { }\n}\nmoor();\n",
        "const a = `x ${ } y`;\nmoor();\n",
        "const a = 'open;\nmoor();\n",
        "import { a from 'b';\nmoor();\n",
        "const a = <div><p></div>;\nmoor();\n",
        "x = )\ny = 2\n",
    ] {
        let tree = parse(Language::Tsx, source);
        let told: Vec<String> = tree.faults().iter().map(|fault| fault.problem.to_string()).collect();
        assert_eq!(told.len(), 1, "{source}{told:?}");
        let last = tree.root().children().last().expect("a statement");
        assert_ne!(last.kind(), Kind::Error, "{source}");
    }
}
