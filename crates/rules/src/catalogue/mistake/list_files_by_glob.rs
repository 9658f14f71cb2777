use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::habit::{begins_line, indent_at};
use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, command_name};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "list-files-by-glob",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: Some(FixKind::Review),
    what: "a loop over the names that `ls` or `find` prints",
    why: "The names are split at whitespace and treated as patterns: a file called \"low tide\" becomes two that do not exist.",
    silent: "Where the names are read line by line, and where the script sets how to split them (`IFS=`).",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong {
                code: "#!/bin/bash\nfor quay in $(ls *.quay); do\n  moor \"$quay\"\ndone\n",
                at: &["2:13"],
                fixed: Some(
                    "#!/bin/bash\nfor quay in *.quay; do\n  [ -e \"$quay\" ] || continue\n  moor \"$quay\"\ndone\n",
                ),
            },
            Wrong {
                code: "#!/bin/bash\nfor quay in $(ls *.quay); do moor \"$quay\"; done\n",
                at: &["2:13"],
                fixed: Some("#!/bin/bash\nfor quay in *.quay; do [ -e \"$quay\" ] || continue; moor \"$quay\"; done\n"),
            },
            Wrong {
                code: "#!/bin/bash\nfor quay in `find . -name '*.quay'`; do\n  moor \"$quay\"\ndone\n",
                at: &["2:13"],
                fixed: None,
            },
        ],
        right: &[
            "#!/bin/bash\nfor quay in *.quay; do\n  moor \"$quay\"\ndone\n",
            "#!/bin/bash\nIFS=$'\\n'\nfor quay in $(ls); do\n  moor \"$quay\"\ndone\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::For], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    if memchr::memmem::find(file.text.source().as_bytes(), b"IFS=").is_some() {
        return;
    }
    for word in node.children_in(Role::Iterable).filter(|word| word.kind() == Kind::Word) {
        let mut parts = word.children();
        let (Some(only), None) = (parts.next(), parts.next()) else { continue };
        let Some(command) = only
            .child(Role::Statement)
            .filter(|it| only.kind() == Kind::CommandSubstitution && it.kind() == Kind::Command)
        else {
            continue;
        };
        let name = command_name(file, command);
        if !matches!(name, "ls" | "find") || only.children_in(Role::Statement).count() > 1 {
            continue;
        }
        let patterns: Vec<&str> = arguments(command).map(|argument| file.node_text(argument)).collect();
        let plain = name == "ls"
            && !patterns.is_empty()
            && patterns.iter().all(|pattern| pattern.contains('*') && !pattern.starts_with('-'));
        let edits = plain.then(|| by_glob(file, node, word, &patterns)).flatten();
        let advice = if name == "ls" {
            "let the shell find them: for name in *"
        } else {
            "read them line by line, or use \"find … -exec\""
        };
        context
            .report(word.span(), format!("names that {name} prints are split at whitespace"))
            .advice(advice)
            .fix_to_review(edits);
    }
}

/// The patterns themselves, and a first line of the body for a pattern that nothing matches: the shell leaves it as it is.
fn by_glob(file: File, node: NodeRef, word: NodeRef, patterns: &[&str]) -> Option<Vec<Edit>> {
    let name = file.node_text(node.child(Role::Target)?);
    let body = node.child(Role::Body)?.children().next()?;
    let start = body.span().start;
    let separator = if begins_line(file, start) { format!("\n{}", indent_at(file, start)) } else { " ".into() };
    let skip = format!("[ -e \"${name}\" ] || continue{}", if separator == " " { "; " } else { &separator });
    Some(vec![Edit::replace(word.span(), patterns.join(" ")), Edit::insert(start, skip)])
}
