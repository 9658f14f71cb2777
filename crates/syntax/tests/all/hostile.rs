//! Strings that nobody means well with: no panic, a sound tree, one clear fault.

use proptest::prelude::*;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, Problem, Tree};

use crate::random::Random;
use crate::shape::assert_sound;

fn parse(source: &str) -> Tree {
    let text = Text::new(source.to_string());
    let tree = Language::Python.parse(&text);
    assert_sound(&tree, source);
    tree
}

/// Pieces that meet in odd places more often than random letters would.
const PIECES: &[&str] = &[
    "def ", "class ", "if ", "else", ":", "\n", "    ", "\t", "(", ")", "[", "]", "{", "}", "f'", "'", "\"\"\"", "\\",
    "\r\n", "# x", "match ", "case ", "x", "1", "0x", ".", "*", "**", "=", ":=", "lambda ", "await ", "async ",
    "import ", "from ", "except", "try", "with ", "as ", "\u{feff}", "é", "\0", "\u{c}", "!", "r", "b'", "@", "->",
    ",", "not ", "in ", "yield ",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 600, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_bytes_that_are_text_give_a_sound_tree(bytes in proptest::collection::vec(any::<u8>(), 0..400)) {
        if let Ok(text) = Language::Python.decode(bytes.clone()) {
            prop_assert_eq!(text.encode(), Some(bytes));
            assert_sound(&Language::Python.parse(&text), text.source());
        }
    }

    #[test]
    fn any_characters_give_a_sound_tree(source in "\\PC{0,200}") {
        parse(&source);
    }

    #[test]
    fn any_pieces_give_a_sound_tree(picks in proptest::collection::vec(0..PIECES.len(), 0..120)) {
        let source: String = picks.iter().map(|pick| PIECES[*pick]).collect();
        parse(&source);
        assert_sound(&Language::Python.parse_expression(&source), &source);
    }
}

#[test]
fn real_files_cut_and_changed_give_sound_trees() {
    let source = include_str!("../../../../demo/booking/fares.py");
    let mut random = Random::new(3);
    for _ in 0..400 {
        let mut changed: Vec<char> = source.chars().collect();
        changed.truncate(random.below(changed.len()));
        for _ in 0..random.below(4) {
            let at = random.below(changed.len());
            changed.splice(at..at, PIECES[random.below(PIECES.len())].chars());
        }
        parse(&changed.into_iter().collect::<String>());
    }
}

#[test]
fn deep_nesting_is_left_out_with_one_fault() {
    for (open, close) in [
        ("(", ")"),
        ("[", "]"),
        ("{", "}"),
        ("f(", ")"),
        ("-", ""),
        ("not ", ""),
        ("lambda: ", ""),
        ("x if y else ", ""),
        ("2 ** ", ""),
    ] {
        let source = format!("x = {}1{}\ny = 2\n", open.repeat(100_000), close.repeat(100_000));
        let tree = parse(&source);
        assert_eq!(tree.faults().len(), 1, "{open}");
        assert!(matches!(tree.faults()[0].problem, Problem::TooDeep(_)), "{open}: {}", tree.faults()[0].problem);
        assert!(
            tree.nodes().any(|node| node.kind() == Kind::Assignment && node.span().len() == 5),
            "{open}: goes on after it"
        );
    }
}

#[test]
fn brackets_without_end_are_one_fault() {
    let tree = parse(&"(".repeat(100_000));
    assert_eq!(tree.faults().len(), 1);
}

#[test]
fn deep_blocks_are_left_out_with_one_fault_a_line_at_most() {
    let source: String = (0..2000).map(|depth| format!("{}if x:\n", " ".repeat(depth))).collect();
    let tree = parse(&source);
    assert!(tree.faults().iter().any(|fault| matches!(fault.problem, Problem::TooDeep(_))));
}

#[test]
fn long_chains_are_no_nesting() {
    for source in [
        format!("x = 1{}\n", " + 1".repeat(50_000)),
        format!("x = y{}\n", ".z".repeat(50_000)),
        format!("if a:\n  b\n{}", "elif a:\n  b\n".repeat(20_000)),
        format!("x = 1{}\n", " and 1".repeat(50_000)),
        format!("{}1\n", "x = ".repeat(50_000)),
    ] {
        assert!(parse(&source).faults().is_empty());
    }
}

#[test]
fn one_mistake_is_one_fault() {
    for source in [
        "def sail(:\n    return 1\n\nx = 1\n",
        "fares = (1,\ndef sell():\n    pass\n",
        "if tide = 3:\n    sail()\nelse:\n    wait()\n",
        "x = 'quay\ny = 2\n",
        "x = )\ny = 2\n",
        "class Boat\n    pass\n",
        "def f():\nx = 1\n",
        "x = 1 +\ny = 2\n",
        "print 'tide'\n",
        "x = f'{quay'\ny = 2\n",
        "  x = 1\ny = 2\n",
        "try:\n    sail()\nx = 1\n",
    ] {
        let tree = parse(source);
        let told: Vec<String> = tree.faults().iter().map(|fault| fault.problem.to_string()).collect();
        assert_eq!(told.len(), 1, "{source}{told:?}");
    }
}
