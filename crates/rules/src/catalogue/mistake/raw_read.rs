use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, has_option};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "raw-read",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: Some(FixKind::Review),
    what: "a `read` that interprets backslashes",
    why: "Without `-r` a backslash in the input is removed and joins lines: paths and passwords change.",
    silent: "Where the command reads into no variable, or its options are not plain words; and where it asks a person: once, and neither from a file nor from another command.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong {
                code: "#!/bin/bash\nwhile read line; do\n  moor \"$line\"\ndone\n",
                at: &["2:7"],
                fixed: Some("#!/bin/bash\nwhile read -r line; do\n  moor \"$line\"\ndone\n"),
            },
            Wrong {
                code: "#!/bin/bash\nread quay < quays\n",
                at: &["2:1"],
                fixed: Some("#!/bin/bash\nread -r quay < quays\n"),
            },
            Wrong {
                code: "#!/bin/bash\nmeasure | {\n  read tide\n  moor \"$tide\"\n}\n",
                at: &["3:3"],
                fixed: Some("#!/bin/bash\nmeasure | {\n  read -r tide\n  moor \"$tide\"\n}\n"),
            },
        ],
        right: &["#!/bin/bash\nread -r line\nread -sr word\nread\nread -n 1 key\nread -p 'Quay? ' quay\n"],
    }],
    needs_names: false,
    check: Check::Named(&[Kind::Command], &["read"], check),
};

fn check(context: &mut Context, command: NodeRef) {
    let file = context.file();
    if has_option(file, command, 'r', "-r") || !is_given_data(command) {
        return;
    }
    let words: Vec<&str> = arguments(command).map(|argument| file.node_text(argument)).collect();
    let is_name =
        |word: &&str| word.bytes().all(|byte| byte == b'_' || byte.is_ascii_alphanumeric()) && !word.is_empty();
    // A lone key is read with `-n`; waiting for one reads into nothing.
    let reads_key = words.iter().any(|word| word.starts_with("-n") || word.starts_with("-N"));
    let Some(callee) = command.child(Role::Callee).filter(|_| words.last().is_some_and(is_name) && !reads_key) else {
        return;
    };
    let span = callee.span();
    context
        .report(span, "read removes backslashes from its input")
        .advice("write \"read -r\"")
        .fix_to_review(Some(vec![Edit::insert(span.end, " -r")]));
}

/// Whether what is read comes from a file or another command, or is read again and again: the answer to a question has no backslashes.
fn is_given_data(command: NodeRef) -> bool {
    let gives = |(inner, around): (NodeRef, NodeRef)| {
        let is_condition = inner.role() == Role::Condition && around.kind() == Kind::While;
        is_condition || matches!(around.kind(), Kind::Redirected | Kind::Pipeline)
    };
    command.child(Role::Redirection).is_some() || command.levels().any(gives)
}
