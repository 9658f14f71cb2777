//! Scripts that nobody means well with: no panic, a sound tree, linear time.

use proptest::prelude::*;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use crate::shape::assert_sound;

fn parse(source: &str) -> Tree {
    let tree = Language::Shell.parse(&Text::new(source.to_string()));
    assert_sound(&tree, source);
    tree
}

/// Pieces that meet in odd places more often than random letters would.
const PIECES: &[&str] = &[
    "if ",
    "then ",
    "fi",
    "for ",
    "in ",
    "do ",
    "done",
    "case ",
    "esac",
    "{ ",
    "}",
    "(",
    ")",
    "((",
    "))",
    "[[ ",
    " ]]",
    "\n",
    ";",
    ";;",
    "&",
    "&&",
    "|",
    "||",
    "<",
    ">",
    "<<A",
    "<<-'B'",
    "A\n",
    "B\n",
    "'",
    "\"",
    "`",
    "$",
    "$(",
    "$((",
    "${",
    "$[",
    "$'",
    "=",
    "+=",
    "a=",
    "a[",
    "]",
    "a=(",
    " ",
    "\t",
    "\\",
    "\\\n",
    "# x",
    "x",
    "1",
    "!",
    "?(",
    "=~ ",
    "function ",
    "é",
    "\u{feff}",
    "\0",
    "\r\n",
    "<(",
    "coproc ",
    "time ",
    "-f ",
    "$1",
    ":-",
    "#",
];

proptest! {
    #![proptest_config(ProptestConfig { cases: 1500, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn any_bytes_that_are_text_give_a_sound_tree(bytes in proptest::collection::vec(any::<u8>(), 0..400)) {
        if let Ok(text) = Language::Shell.decode(bytes.clone()) {
            prop_assert_eq!(text.encode(), Some(bytes));
            assert_sound(&Language::Shell.parse(&text), text.source());
        }
    }

    #[test]
    fn any_pieces_give_a_sound_tree(picks in proptest::collection::vec(0..PIECES.len(), 0..80)) {
        let source: String = picks.iter().map(|pick| PIECES[*pick]).collect();
        parse(&source);
    }
}

#[test]
fn deep_nesting_is_left_out() {
    for open in [
        "(",
        "((",
        "$(",
        "$((",
        "`$(",
        "\"$(",
        "${x:-",
        "{ ",
        "if ",
        "while ",
        "[[ ( ",
        "a=(",
        "case x in a) ",
        "! ",
        "f() (",
        "?(",
        "x?(",
    ] {
        let tree = parse(&format!("{}\necho tide\n", open.repeat(100_000)));
        assert!(tree.faults().len() <= 1, "{open}");
    }
}

#[test]
fn long_chains_are_no_nesting() {
    for source in [
        format!("echo {}\n", "$a".repeat(50_000)),
        format!("a{}\n", " | a".repeat(50_000)),
        format!("a{}\n", " && a".repeat(50_000)),
        format!("if a; then b\n{}fi\n", "elif a; then b\n".repeat(20_000)),
        format!("cat{}\n", " <<''".repeat(20_000)),
        format!("cat{}\n{}", " <<A".repeat(5_000), "A\n".repeat(5_000)),
        "a=1 ".repeat(50_000),
        "echo 'a\n".repeat(20_000),
        "cat <<A\n".repeat(20_000),
        "(( a ))\n".repeat(20_000),
    ] {
        assert!(parse(&source).faults().is_empty(), "{}", &source[..40]);
    }
}
