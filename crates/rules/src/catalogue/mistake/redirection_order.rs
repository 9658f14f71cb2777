use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "redirection-order",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: None,
    what: "errors that are sent where the output goes, before the output is sent elsewhere",
    why: "Redirections hold from left to right: the errors go on to the terminal, and only the output to the file.",
    silent: "In pipes and where output is kept, where this order takes the errors and leaves the output out.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[Wrong { code: "#!/bin/bash\nmoor 2>&1 > log\n", at: &["2:6"], fixed: None }],
        right: &[
            "#!/bin/bash\nmoor > log 2>&1\nmoor 2>&1 > log | grep low\nerrors=$(moor 2>&1 > log)\nmoor 2>&1 3>&1\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Redirection], check),
};

fn check(context: &mut Context, redirection: NodeRef) {
    let file = context.file();
    let Some(command) = redirection.parent().filter(|_| is_joining(file, redirection)) else { return };
    let is_captured = |around: NodeRef| {
        matches!(around.kind(), Kind::Pipeline | Kind::CommandSubstitution | Kind::ProcessSubstitution)
    };
    if command.ancestors().any(is_captured) {
        return;
    }
    let sends = |other: &NodeRef| {
        let text = file.node_text(*other);
        text.starts_with('>') && !text.starts_with(">&") && other.span().start > redirection.span().start
    };
    let before = command.children_in(Role::Redirection).take_while(|other| *other != redirection);
    let goes_on = command
        .children_in(Role::Redirection)
        .any(|other| file.node_text(other).starts_with("2>") && other.span().start > redirection.span().start);
    if goes_on || before.into_iter().any(|other| file.node_text(other).starts_with('>')) {
        return;
    }
    let Some(later) = command.children_in(Role::Redirection).find(sends) else { return };
    context
        .report(redirection.span(), "errors do not follow the output, which is only sent elsewhere behind this")
        .advice("write it last")
        .related(later.span(), "the output is sent here");
}

fn is_joining(file: File<'_>, redirection: NodeRef) -> bool {
    file.node_text(redirection).chars().filter(|letter| !letter.is_whitespace()).eq("2>&1".chars())
}
