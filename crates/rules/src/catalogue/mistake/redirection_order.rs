use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

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
    let others = file.once_at(command, || Redirections::of(file, command));
    let start = redirection.id();
    let goes_on = others.errors_last.is_some_and(|last| last > start);
    if goes_on || others.output_first.is_some_and(|first| first < start) {
        return;
    }
    let Some(later) = others.sending.get(others.sending.partition_point(|other| *other <= start)) else { return };
    let later = file.tree.node(*later);
    context
        .report(redirection.span(), "errors do not follow the output, which is only sent elsewhere behind this")
        .advice("write it last")
        .related(later.span(), "the output is sent here");
}

/// The redirections of a command.
struct Redirections {
    /// The first one of the output.
    output_first: Option<NodeId>,
    /// The last one of errors.
    errors_last: Option<NodeId>,
    /// Those that send the output to a file, in order.
    sending: Vec<NodeId>,
}

impl Redirections {
    fn of(file: File<'_>, command: NodeRef<'_>) -> Redirections {
        let all: Vec<(NodeId, &str)> =
            command.children_in(Role::Redirection).map(|one| (one.id(), file.node_text(one))).collect();
        let starting =
            |sign: &'static str| all.iter().filter(move |(_, text)| text.starts_with(sign)).map(|(id, _)| *id);
        let sending = all.iter().filter(|(_, text)| text.starts_with('>') && !text.starts_with(">&"));
        Redirections {
            output_first: starting(">").next(),
            errors_last: starting("2>").last(),
            sending: sending.map(|(id, _)| *id).collect(),
        }
    }
}

fn is_joining(file: File<'_>, redirection: NodeRef) -> bool {
    file.node_text(redirection).chars().filter(|letter| !letter.is_whitespace()).eq("2>&1".chars())
}
