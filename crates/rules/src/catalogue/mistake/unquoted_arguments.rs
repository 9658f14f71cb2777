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
    fix: Some(FixKind::Exact),
    what: "all arguments of a script or all elements of a list handed on without quotes",
    why: "Each of them is cut at its blanks once more: what was one argument arrives as several.",
    silent: "Where the arguments are joined to one text, and in calculations.",
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
    let is_cut = match word.role() {
        Role::Argument => word.parent().is_some_and(|command| {
            command.kind() == Kind::Command
                && !matches!(command_name(file, command), "[" | "test" | "eval" | "echo" | "set" | "export" | "local")
        }),
        Role::Iterable => true,
        _ => false,
    };
    let mut parts = word.children();
    let (Some(only), None) = (parts.next(), parts.next()) else { return };
    if !is_cut || only.kind() != Kind::Expansion || only.span() != word.span() {
        return;
    }
    let text = context.text(word);
    let whole = match text {
        "$@" | "${@}" | "$*" | "${*}" => "\"$@\"".to_string(),
        _ if text.ends_with("[@]}") && !text.starts_with("${#") && !text.starts_with("${!") => format!("\"{text}\""),
        _ => return,
    };
    context
        .report(word.span(), format!("{text} is cut at blanks: what was one argument becomes several"))
        .advice(format!("write {whole}"))
        .fix(vec![Edit::replace(word.span(), whole)]);
}
