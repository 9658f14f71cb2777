use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::{NUMERIC_TESTS, arguments};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "number-test-of-word",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: None,
    what: "a comparison of numbers, one side of which is a word",
    why: "The test fails with an error, which looks like \"no\": the branch is never taken.",
    silent: "For double brackets, where a word is the name of a variable, and for values that are not written out.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[Wrong { code: "#!/bin/bash\n[ \"$1\" -eq low ] && moor\n", at: &["2:12"], fixed: None }],
        right: &[
            "#!/bin/bash\n[ \"$1\" -eq 3 ]\n[ \"$1\" = low ]\n[[ depth -eq 3 ]]\n[ \"$1\" -eq -1 ]\n[ \"$1\" -nt low ]\n",
        ],
    }],
    needs_names: false,
    check: Check::Named(&[Kind::Command], &["[", "test"], check),
};

fn check(context: &mut Context, command: NodeRef) {
    let file = context.file();
    let words: Vec<NodeRef> = arguments(command).collect();
    let is_word = |word: &NodeRef| {
        let plain = file.node_text(*word).trim_matches(['"', '\'']);
        let expands = word
            .descendants()
            .any(|part| matches!(part.kind(), Kind::Expansion | Kind::CommandSubstitution | Kind::Arithmetic));
        !expands && !plain.is_empty() && plain.bytes().all(|byte| byte == b'_' || byte.is_ascii_alphabetic())
    };
    for three in words.windows(3) {
        let operator = file.node_text(three[1]);
        if !NUMERIC_TESTS.contains(&operator) {
            continue;
        }
        if let Some(word) = [three[0], three[2]].into_iter().find(is_word) {
            let other = if operator == "-eq" { "=" } else { "!=" };
            context
                .report(word.span(), format!("{operator} compares numbers, and this is a word"))
                .advice(format!("compare words with `{other}`"));
        }
    }
}
