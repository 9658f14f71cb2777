use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};
use crate::shell::command_name;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unquoted-arguments",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: Some(FixKind::Review),
    what: "all arguments of a script or all elements of an array passed on without quotes",
    why: "Each of them is split at whitespace once more: what was one argument arrives as several.",
    silent: "Where the arguments are joined to one string, in calculations, and for a name that the script assigns a plain string to.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\nmoor $@\n", at: &["2:6"], fixed: Some("#!/bin/bash\nmoor \"$@\"\n") },
            Wrong {
                code: "#!/bin/bash\nfor quay in $*; do :; done\n",
                at: &["2:13"],
                fixed: Some("#!/bin/bash\nfor quay in \"$@\"; do :; done\n"),
            },
            Wrong {
                code: "#!/bin/bash\nmoor ${quays[@]}\n",
                at: &["2:6"],
                fixed: Some("#!/bin/bash\nmoor \"${quays[@]}\"\n"),
            },
        ],
        right: &["#!/bin/bash\nmoor \"$@\" \"${quays[@]}\"\nall=$*\n[[ -z $* ]]\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Word], check),
};

fn check(context: &mut Context, word: NodeRef) {
    let file = context.file();
    let is_cut = || match word.role() {
        Role::Argument => word.parent().is_some_and(|command| {
            command.kind() == Kind::Command
                && !matches!(command_name(file, command), "[" | "test" | "eval" | "echo" | "set" | "export" | "local")
        }),
        Role::Iterable => true,
        _ => false,
    };
    let mut parts = word.children();
    let (Some(only), None) = (parts.next(), parts.next()) else { return };
    if only.kind() != Kind::Expansion || only.span() != word.span() {
        return;
    }
    let text = context.text(word);
    let whole = match text {
        "$@" | "${@}" | "$*" | "${*}" => "\"$@\"".to_string(),
        _ if text.ends_with("[@]}") && holds_plain_string(context, text) => return,
        _ if text.ends_with("[@]}") && !text.starts_with("${#") && !text.starts_with("${!") => format!("\"{text}\""),
        _ => return,
    };
    if !is_cut() {
        return;
    }
    context
        .report(word.span(), format!("{text} is split at whitespace: what was one argument becomes several"))
        .advice(format!("write {whole}"))
        .fix_to_review(Some(vec![Edit::replace(word.span(), whole)]));
}

/// Whether the script assigns a plain string to the variable of `${name[@]}`: then it is split at its spaces on purpose.
fn holds_plain_string(context: &Context, expansion: &str) -> bool {
    let name: String =
        expansion.trim_start_matches("${").chars().take_while(|c| *c == '_' || c.is_alphanumeric()).collect();
    let file = context.file();
    let assigned = file.tree.nodes_of(Kind::Assignment);
    assigned.into_iter().any(|assignment| {
        let target = assignment.child(Role::Target).is_some_and(|target| file.node_text(target) == name);
        target && assignment.child(Role::Value).is_some_and(|value| value.kind() != Kind::List)
    })
}
