use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, command_name, fails_with_pipe, stops_at_errors, variable_of};
use crate::shell_places::variable_places;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "masked-status",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: Some(FixKind::Review),
    what: "a declaration that hides whether the command in it failed",
    why: "`local x=$(command)` succeeds whatever the command does: an error neither stops the script nor reaches what checks it.",
    silent: "Where neither the script stops at errors nor the next command checks the result; where only commands run that hardly fail, such as the filter at the end of a pipe.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong {
                code: "#!/bin/bash\nset -e\nmoor() {\n  local quay=$(nearest)\n  tie \"$quay\"\n}\n",
                at: &["4:3"],
                fixed: Some("#!/bin/bash\nset -e\nmoor() {\n  local quay\n  quay=$(nearest)\n  tie \"$quay\"\n}\n"),
            },
            Wrong {
                code: "#!/bin/bash\nset -e\nmoor() {\n  local quay=$(nearest \"$quay\")\n}\n",
                at: &["4:3"],
                fixed: None,
            },
            Wrong {
                code: "#!/bin/bash\nset -e\nnearest() {\n  echo \"$quay\"\n}\nmoor() {\n  local quay=$(nearest)\n}\n",
                at: &["7:3"],
                fixed: None,
            },
            Wrong { code: "#!/bin/bash\nmoor() {\n  local quay=$(nearest) || return\n}\n", at: &["3:3"], fixed: None },
        ],
        right: &[
            "#!/bin/bash\nset -e\nmoor() {\n  local quay\n  quay=$(nearest)\n  local depth=3\n}\n",
            "#!/bin/bash\nmoor() {\n  local quay=$(nearest)\n}\n",
            "#!/bin/bash\nset -e\nmoor() {\n  local quay=${1:-$(pwd)} side=$(echo \"$2\" | tr a-z A-Z)\n  local depth=$(sound) || true\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Named(&[Kind::Command], DECLARING, check),
};

/// Commands that declare variables, and succeed whatever the command in a value does.
const DECLARING: &[&str] = &["local", "export", "readonly", "declare", "typeset"];

fn check(context: &mut Context, command: NodeRef) {
    let file = context.file();
    let name = command_name(file, command);
    let runs = |argument: &NodeRef| argument.kind() == Kind::Assignment && may_fail(file, *argument);
    let Some(first) = arguments(command).find(runs) else { return };
    let asks = command.parent().is_some_and(|list| list.kind() == Kind::Logical || list.role() == Role::Condition)
        && command.next_sibling().is_some_and(|next| next.role() == Role::Operand);
    let is_ignored = |next: NodeRef| matches!(command_name(file, next), "true" | ":");
    if asks && command.next_sibling().is_some_and(is_ignored) {
        return;
    }
    let next_asks = command
        .next_sibling()
        .is_some_and(|next| file.node_text(next).contains("$?") && command.role() == Role::Statement);
    if !asks && !next_asks && !stops_at_errors(file) {
        return;
    }
    let edits = apart(file, command, first).filter(|_| !asks);
    context
        .report(command.span(), format!("{name} hides whether the command in it failed"))
        .advice("declare it on one line, and assign it on the next")
        .fix_to_review(edits);
}

/// Commands that fail only where the system does.
const SURE: &[&str] =
    &["pwd", "uname", "date", "hostname", "whoami", "id", "basename", "dirname", "echo", "printf", "true", ":"];

/// The same of what a pipe ends with, which alone counts then.
const SURE_FILTERS: &[&str] =
    &["tr", "cut", "sed", "head", "tail", "sort", "uniq", "wc", "rev", "cat", "column", "nl", "tac"];

/// Whether the value is what a command gives that can fail.
fn may_fail(file: File, assignment: NodeRef) -> bool {
    let Some(value) = assignment.child(Role::Value) else { return false };
    let mut commands = value.descendants().filter(|part| part.kind() == Kind::CommandSubstitution);
    commands.any(|substitution| {
        let last = substitution.children_in(Role::Statement).last();
        !last.is_some_and(|last| match last.kind() {
            Kind::Command => SURE.contains(&command_name(file, last)),
            Kind::Pipeline => {
                let filter = last.children_in(Role::Element).last();
                let is_sure = |filter| SURE_FILTERS.contains(&command_name(file, filter));
                filter.is_some_and(is_sure) && !fails_with_pipe(file)
            }
            _ => false,
        })
    })
}

/// Whether the command in the value may read the variable, which it would find declared and empty: it names it itself, or a function
/// outside of this one does, which sees the variables of its caller.
fn may_read(file: File, command: NodeRef, name: &str) -> bool {
    let function = command.function_around();
    let reads = |node: &NodeRef| node.kind() == Kind::Expansion && variable_of(file, *node) == name;
    let in_command = command.descendants().any(|node| reads(&node));
    let is_outside = |place: &NodeId| function.is_none_or(|function| !function.holds(*place));
    let places = variable_places(file);
    let expansions = places.expansions(name);
    // A function is one stretch: if all places are in it, the first and the last one are.
    in_command || [expansions.first(), expansions.last()].into_iter().flatten().any(is_outside)
}

/// The declaration and the value in lines of their own.
fn apart(file: File, command: NodeRef, assignment: NodeRef) -> Option<Vec<Edit>> {
    let (target, value) = (assignment.child(Role::Target)?, assignment.child(Role::Value)?);
    let is_plain =
        arguments(command).count() == 1 && command.role() == Role::Statement && command_name(file, command) == "local";
    let line = file.text.lines().full_line(file.text.lines().line_of(command.span().start));
    let before = file.text.slice(Span::new(line.start, command.span().start));
    if !is_plain || !before.trim().is_empty() {
        return None;
    }
    let name = file.node_text(target);
    if may_read(file, command, name) {
        return None;
    }
    Some(vec![Edit::replace(Span::new(target.span().end, value.span().start), format!("\n{before}{name}="))])
}
