use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, command_name};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "lines-by-splitting",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Shell],
    fix: None,
    what: "a loop over the words of a file, which are not its lines",
    why: "The shell splits the content at every space and expands patterns in it: a line of two words is two rounds.",
    silent: "For files whose names say that they hold words, lists or numbers.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong {
                code: "#!/bin/bash\nfor line in $(cat tides); do echo \"$line\"; done\n",
                at: &["2:13"],
                fixed: None,
            },
            Wrong { code: "#!/bin/bash\nfor line in $(<tides); do echo \"$line\"; done\n", at: &["2:13"], fixed: None },
        ],
        right: &[
            "#!/bin/bash\nwhile read -r line; do echo \"$line\"; done < tides\nfor boat in $(cat boats.list); do echo \"$boat\"; done\nfor word in $(cat tides); do echo \"$word\"; done\nfor arg in $(cat /proc/cmdline); do echo \"$arg\"; done\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::For], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let Some(target) = node.child(Role::Target).map(|target| file.node_text(target).to_ascii_lowercase()) else {
        return;
    };
    if !["line", "row", "record", "entry", "file", "path", "name"].iter().any(|word| target.contains(word)) {
        return;
    }
    for word in node.children_in(Role::Iterable) {
        let Some(only) = word.children().next().filter(|only| only.span() == word.span() && gives_content(file, *only))
        else {
            continue;
        };
        context
            .report(only.span(), "this goes over the words of the file, not over its lines")
            .advice("use `while read -r` with the file as its input");
    }
}

/// `$(cat file)` and `$(<file)`.
fn gives_content(file: File<'_>, part: NodeRef) -> bool {
    if part.kind() != Kind::CommandSubstitution || file.node_text(part).contains("/proc/") {
        return false;
    }
    let mut statements = part.children_in(Role::Statement);
    let (Some(command), None) = (statements.next(), statements.next()) else { return false };
    let is_bare = command.child(Role::Callee).is_none()
        && command.child(Role::Redirection).is_some_and(|it| file.node_text(it).starts_with('<'));
    is_bare
        || command.kind() == Kind::Command && command_name(file, command) == "cat" && arguments(command).count() == 1
}
