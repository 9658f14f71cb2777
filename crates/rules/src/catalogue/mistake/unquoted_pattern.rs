use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, command_name, text_beside};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unquoted-pattern",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Shell],
    fix: None,
    what: "a pattern for a command that the shell expands first",
    why: "Where a file matches, the command gets its name in place of the pattern, and finds something else or fails.",
    silent: "For patterns that hold a path, and for words that no command takes as a pattern.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\nfind . -name *.tide\n", at: &["2:14"], fixed: None },
            Wrong { code: "#!/bin/bash\ngrep low* tides\n", at: &["2:6"], fixed: None },
        ],
        right: &["#!/bin/bash\nfind . -name '*.tide'\nfind . -name \\*.tide\ngrep 'low*' *.tide\ngrep low tides/*\n"],
    }],
    needs_names: false,
    check: Check::Named(&[Kind::Command], &["find", "grep", "egrep", "fgrep"], check),
};

fn check(context: &mut Context, command: NodeRef) {
    let file = context.file();
    let name = command_name(file, command);
    let words: Vec<NodeRef> = arguments(command).collect();
    let pattern = match name {
        "find" => words.windows(2).find(|pair| TESTS.contains(&file.node_text(pair[0]))).map(|pair| pair[1]),
        "grep" | "egrep" | "fgrep" => {
            let has_option = words
                .iter()
                .any(|word| matches!(file.node_text(*word), "-e" | "-f") || file.node_text(*word).starts_with("--"));
            words.into_iter().find(|word| !file.node_text(*word).starts_with('-')).filter(|_| !has_option)
        }
        _ => None,
    };
    let expands = |word: &NodeRef| {
        let plain = text_beside(file, *word, word.children());
        // An escape takes the meaning of the sign behind it.
        !plain.contains(['\\', '/', '"', '\'']) && plain.contains(['*', '?'])
    };
    if let Some(word) = pattern.filter(expands) {
        context
            .report(word.span(), "the shell expands this pattern before the command sees it")
            .advice("put it in single quotes");
    }
}

/// Tests of `find` that take a pattern.
const TESTS: &[&str] = &["-name", "-iname", "-path", "-ipath", "-wholename", "-lname", "-ilname"];
