use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, variable_of};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "spaced-assignment",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Probable,
    languages: &[Language::Shell],
    fix: None,
    what: "an assignment with a space or a dollar in it, which is a command",
    why: "The shell runs a command with the name of the variable, and the variable keeps the value that it had.",
    silent: "For commands that exist under the name, and where a variable is emptied for one command.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\ntide = low\n", at: &["2:6"], fixed: None },
            Wrong { code: "#!/bin/bash\n$tide=low\n", at: &["2:1"], fixed: None },
            Wrong { code: "#!/bin/bash\ntide= low\necho \"$tide\"\n", at: &["2:7"], fixed: None },
        ],
        right: &["#!/bin/bash\ntide=low\nIFS= read -r line\ntest = low\n[ \"$tide\" = low ]\nLC_ALL= sort tides\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Command], check),
};

/// Longer scripts are not looked through for each such command.
const MOST_NODES: usize = 10_000;

/// Commands whose first argument may be the sign alone.
const TAKES_A_SIGN: &[&str] =
    &["test", "expr", "alias", "let", "echo", "printf", "grep", "egrep", "fgrep", "sed", "awk", "cut", "tr"];

fn check(context: &mut Context, command: NodeRef) {
    let file = context.file();
    let Some(callee) = command.child(Role::Callee) else { return };
    let name = file.node_text(callee);
    let first = arguments(command).next();
    if let Some(sign) = first.filter(|first| matches!(file.node_text(*first), "=" | "+=") && is_name(name)) {
        // What is assigned in a substitution would be lost with it.
        let is_substituted = command.parent().is_some_and(|around| around.kind() == Kind::CommandSubstitution);
        if !TAKES_A_SIGN.contains(&name) && !is_substituted {
            context
                .report(sign.span(), format!("with spaces around the sign, \"{name}\" is a command"))
                .advice(format!("write `{name}=` and the value without a space"));
        }
    } else if let Some((variable, _)) = name.strip_prefix('$').and_then(|rest| rest.split_once('='))
        && is_name(variable)
    {
        context
            .report(callee.span(), "this runs a command: a name that is assigned has no dollar")
            .advice(format!("write `{variable}=` and the value"));
    } else if let Some(variable) = emptied_before(file, command) {
        context
            .report(callee.span(), format!("\"{name}\" is run as a command, with \"{variable}\" empty for it"))
            .advice(format!("write `{variable}={name}` without a space"));
    }
}

fn is_name(text: &str) -> bool {
    text.starts_with(|first: char| first == '_' || first.is_ascii_alphabetic())
        && text.bytes().all(|byte| byte == b'_' || byte.is_ascii_alphanumeric())
}

/// `tide= low`: an assignment of nothing before one plain word, to a variable that the script uses and never assigns otherwise.
fn emptied_before<'f>(file: File<'f>, command: NodeRef<'f>) -> Option<&'f str> {
    let assignment = command.child(Role::Part).filter(|part| part.kind() == Kind::Assignment)?;
    let target = assignment.child(Role::Target).map(|target| file.node_text(target))?;
    let is_small = target.bytes().all(|byte| byte == b'_' || byte.is_ascii_lowercase());
    let is_alone = assignment.child(Role::Value).is_none() && arguments(command).next().is_none() && is_small;
    let callee = command.child(Role::Callee).filter(|callee| is_alone && callee.children().next().is_none())?;
    let is_function = |node: NodeRef| {
        node.kind() == Kind::Function
            && node.child(Role::Name).is_some_and(|name| file.node_text(name) == file.node_text(callee))
    };
    if file.tree.nodes().len() > MOST_NODES {
        return None;
    }
    let nodes = || file.tree.nodes();
    let is_used = nodes().any(|node| node.kind() == Kind::Expansion && variable_of(file, node) == target);
    let is_assigned = nodes().any(|node| {
        node.kind() == Kind::Assignment
            && node != assignment
            && node.child(Role::Target).is_some_and(|other| file.node_text(other) == target)
    });
    (is_used && !is_assigned && !nodes().any(is_function)).then_some(target)
}
