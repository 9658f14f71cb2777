use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, variable_of};
use crate::shell_places::variable_places;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "early-trap",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: None,
    what: "a trap whose values are filled in when it is set",
    why: "In double quotes the values are those of now: a status or a variable that comes later is never seen.",
    silent: "For variables that have their values before the trap is set.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\ntrap \"echo $?\" EXIT\n", at: &["2:6"], fixed: None },
            Wrong { code: "#!/bin/bash\ntrap \"rm -f $scratch\" EXIT\nscratch=$(mktemp)\n", at: &["2:6"], fixed: None },
        ],
        right: &[
            "#!/bin/bash\ntrap 'echo $?' EXIT\n",
            "#!/bin/bash\nscratch=$(mktemp)\ntrap \"rm -f $scratch\" EXIT\n",
            "#!/bin/bash\ntrap \"\" INT\n",
        ],
    }],
    needs_names: false,
    check: Check::Named(&[Kind::Command], &["trap"], check),
};

fn check(context: &mut Context, command: NodeRef) {
    let file = context.file();
    let Some(action) = arguments(command).next().filter(|action| file.node_text(*action).starts_with('"')) else {
        return;
    };
    let is_early =
        |part: &NodeRef| part.kind() == Kind::Expansion && comes_later(file, command, variable_of(file, *part));
    if let Some(part) = action.descendants().find(is_early) {
        context
            .report(action.span(), format!("\"{}\" is filled in now, not when the trap runs", file.node_text(part)))
            .advice("put the action in single quotes");
    }
}

/// Whether a variable has another value later: it tells of the last command, or is assigned first behind the trap.
fn comes_later(file: File<'_>, trap: NodeRef, name: &str) -> bool {
    if matches!(name, "?" | "LINENO" | "BASH_COMMAND" | "FUNCNAME") {
        return true;
    }
    let places = variable_places(file);
    let is_name = |place: &&NodeId| file.tree.node(**place).kind() == Kind::Name;
    let first = places.targets(name).iter().find(is_name).map(|first| file.tree.node(*first));
    first.is_some_and(|first| first.id() > trap.id() && first.function_around() == trap.function_around())
}
