use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, command_name};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "read-and-written",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: None,
    what: "a command that reads the file which its output is written to",
    why: "The shell empties the file before the command begins: there is nothing left to read.",
    silent: "For output that is added to a file, for devices, and for files that are not named the same.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\nsort tides > tides\n", at: &["2:12"], fixed: None },
            Wrong { code: "#!/bin/bash\ngrep low \"$quay\" | sort > \"$quay\"\n", at: &["2:25"], fixed: None },
            Wrong { code: "#!/bin/bash\ntr a b < tides > tides\n", at: &["2:16"], fixed: None },
        ],
        right: &[
            "#!/bin/bash\nsort tides > sorted\nsort tides >> tides\ncat < /dev/tty > /dev/tty\necho tides > tides\nsort -o tides tides\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Redirection], check),
};

/// Commands whose operands are files to read.
const READERS: &[&str] = &[
    "sort", "cat", "sed", "awk", "grep", "egrep", "fgrep", "cut", "uniq", "head", "tail", "jq", "nl", "rev", "tac",
    "fold", "fmt", "paste",
];

fn check(context: &mut Context, redirection: NodeRef) {
    let file = context.file();
    let Some(target) = redirection.child(Role::Target).filter(|target| target.kind() == Kind::Word) else { return };
    let sign = file.text.slice(Span::new(redirection.span().start, target.span().start)).trim();
    let name = file.node_text(target).trim_matches('"');
    if !matches!(sign, ">" | ">|" | "1>")
        || name.contains("/dev/")
        || name.contains("tty")
        || name.contains(['(', '`', '&'])
    {
        return;
    }
    let Some(command) = redirection.parent() else { return };
    let commands: Vec<NodeRef> = match command.parent().filter(|pipe| pipe.kind() == Kind::Pipeline) {
        Some(pipe) => {
            pipe.children_in(Role::Element).take_while(|element| *element != command).chain([command]).collect()
        }
        None => vec![command],
    };
    if commands.iter().any(|command| reads(file, *command, name, redirection)) {
        context
            .report(redirection.span(), format!("{name} is emptied before it is read"))
            .advice("write to another file, and rename it");
    }
}

fn reads(file: File<'_>, command: NodeRef, name: &str, written: NodeRef) -> bool {
    let is_it = |word: NodeRef| file.node_text(word).trim_matches('"') == name;
    let from_input = command.children_in(Role::Redirection).any(|other| {
        other != written && file.node_text(other).starts_with('<') && other.child(Role::Target).is_some_and(is_it)
    });
    let reader = command_name(file, command);
    // The first operand of some is not a file.
    let operands = arguments(command).filter(|word| !file.node_text(*word).starts_with('-'));
    let first = usize::from(matches!(reader, "sed" | "awk" | "grep" | "egrep" | "fgrep" | "jq"));
    from_input || READERS.contains(&reader) && operands.skip(first).any(is_it)
}
