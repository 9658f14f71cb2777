use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::arguments;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-test-space",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: None,
    what: "a bracket of a test that is joined to the word beside it",
    why: "The brackets are words of their own: joined to another one they name a command that does not exist, or leave the test open.",
    silent: "For brackets that are patterns.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\nif [[$1 == low ]]; then moor; fi\n", at: &["2:4"], fixed: None },
            Wrong { code: "#!/bin/bash\n[\"$1\" = low ] && moor\n", at: &["2:1"], fixed: None },
            Wrong { code: "#!/bin/bash\n[ \"$1\" = \"low\"] && moor\n", at: &["2:10"], fixed: None },
        ],
        right: &["#!/bin/bash\n[[ $1 == low ]]\n[ \"$1\" = low ]\n[ \"$1\" = [a-z] ]\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Command], check),
};

fn check(context: &mut Context, command: NodeRef) {
    let file = context.file();
    let Some(callee) = command.child(Role::Callee) else { return };
    let name = file.node_text(callee);
    let behind = name.strip_prefix("[[").or_else(|| name.strip_prefix('['));
    if behind
        .is_some_and(|rest| rest.starts_with(['"', '$', '\'', '-', '!']) || !rest.is_empty() && name.starts_with("[["))
    {
        context
            .report(callee.span(), "the bracket is joined to the word behind it, so that this is no test")
            .advice("put a space behind the bracket");
    } else if name == "["
        && let Some(last) = arguments(command).last().filter(|last| file.node_text(*last) != "]")
        && file.node_text(last).ends_with(']')
        && !file.node_text(last).contains('[')
    {
        context
            .report(last.span(), "the bracket is joined to the word before it, so that the test is never closed")
            .advice("put a space before the bracket");
    }
}
