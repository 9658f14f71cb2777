use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, command_name, variable_of};
use crate::shell_places::variable_places;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "lost-in-pipe",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Shell],
    fix: None,
    what: "a variable that is assigned within a pipe and used after it",
    why: "The parts of a pipe run in shells of their own: what they assign is gone when the pipe ends.",
    silent: "Where the script asks for the last part to run in its own shell, and where the variable gets another value before it is used.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong {
                code: "#!/bin/bash\ncount=0\ncat tides | while read -r line; do\n  count=$((count + 1))\ndone\necho \"$count\"\n",
                at: &["4:3"],
                fixed: None,
            },
            Wrong { code: "#!/bin/bash\nhead -1 tides | read -r first\necho \"$first\"\n", at: &["2:25"], fixed: None },
        ],
        right: &[
            "#!/bin/bash\nwhile read -r line; do count=$((count + 1)); done < tides\necho \"$count\"\n",
            "#!/bin/bash\ncat tides | while read -r line; do\n  last=$line\n  echo \"$last\"\ndone\n",
            "#!/bin/bash\nshopt -s lastpipe\nhead -1 tides | read -r first\necho \"$first\"\n",
            "#!/bin/bash\ncat tides | while read -r line; do\n  last=$line\ndone\nlast=none\necho \"$last\"\n",
            "#!/bin/bash\nfirst() { ls | read -r it; }\nsecond() { it=$1; echo \"$it\"; }\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Pipeline], check),
};

/// How many places of a variable in other functions are looked at.
const LOOKED_AT: usize = 100;

fn check(context: &mut Context, pipeline: NodeRef) {
    let file = context.file();
    if pipeline
        .ancestors()
        .any(|around| matches!(around.kind(), Kind::Pipeline | Kind::CommandSubstitution | Kind::Subshell))
    {
        return;
    }
    let mut assigned: Vec<NodeRef> = Vec::new();
    for element in pipeline.children_in(Role::Element).skip(1) {
        assigned.extend(std::iter::once(element).chain(element.descendants()).flat_map(|node| targets(file, node)));
    }
    if assigned.is_empty() || memchr::memmem::find(file.text.source().as_bytes(), b"lastpipe").is_some() {
        return;
    }
    let mut told: Vec<&str> = Vec::new();
    for target in assigned {
        let name = file.node_text(target);
        if !told.contains(&name) && is_used_after(file, pipeline, name) {
            told.push(name);
            context
                .report(target.span(), format!("\"{name}\" loses this value when the pipe ends"))
                .advice("let the loop read from a file or from `< <(…)`, or keep its output");
        }
    }
}

/// The names that a command of the pipe gives values, other than local ones.
fn targets<'t>(file: File<'_>, node: NodeRef<'t>) -> Vec<NodeRef<'t>> {
    match node.kind() {
        Kind::Assignment if node.parent().is_some_and(|command| command.child(Role::Callee).is_none()) => {
            node.child(Role::Target).into_iter().collect()
        }
        // The condition of a loop reads for the loop.
        Kind::Command if command_name(file, node) == "read" && node.role() == Role::Element => arguments(node)
            .filter(|word| word.children().next().is_none() && !file.node_text(*word).starts_with('-'))
            .collect(),
        _ => Vec::new(),
    }
}

/// Whether the first place after the pipe, in the same function, that names a variable uses its value.
fn is_used_after(file: File<'_>, pipeline: NodeRef, name: &str) -> bool {
    let places = variable_places(file);
    let home = pipeline.function_around();
    let mut from = pipeline.end();
    for _ in 0..LOOKED_AT {
        let Some(place) = places.first_from(from, name) else { return false };
        let node = file.tree.node(place);
        let is_here = node.function_around() == home;
        if node.kind() == Kind::Expansion {
            // The value of an assignment to itself is used before it is replaced.
            return is_here;
        }
        if is_here {
            return node.parent().is_some_and(|assignment| {
                assignment.descendants().any(|part| part.kind() == Kind::Expansion && variable_of(file, part) == name)
            });
        }
        from = NodeId(place.0 + 1);
    }
    false
}
