use rustc_hash::FxHashMap;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::interface::{File, word_hash};
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
    let whole = command.parent().filter(|pipe| pipe.kind() == Kind::Pipeline).unwrap_or(command);
    let read = file.once_at(whole, || FilesRead::of(file, whole));
    // What comes behind a command in a pipe reads what others wrote.
    if read.0.get(&word_hash(name)).is_some_and(|first| *first < command.end()) {
        context
            .report(redirection.span(), format!("{name} is emptied before it is read"))
            .advice("write to another file, and rename it");
    }
}

/// The first places at which the commands of a pipe, or one command alone, read files, by hashes of the files' names.
struct FilesRead(FxHashMap<u64, NodeId>);

impl FilesRead {
    fn of(file: File<'_>, whole: NodeRef) -> FilesRead {
        let mut read = FilesRead(FxHashMap::default());
        if whole.kind() == Kind::Pipeline {
            whole.children_in(Role::Element).for_each(|command| read.add(file, command));
        } else {
            read.add(file, whole);
        }
        read
    }

    fn add(&mut self, file: File<'_>, command: NodeRef) {
        let inputs = command.children_in(Role::Redirection).filter(|one| file.node_text(*one).starts_with('<'));
        let mut words: Vec<NodeRef> = inputs.filter_map(|one| one.child(Role::Target)).collect();
        let reader = command_name(file, command);
        if READERS.contains(&reader) {
            // The first operand of some is not a file.
            let first = usize::from(matches!(reader, "sed" | "awk" | "grep" | "egrep" | "fgrep" | "jq"));
            words.extend(arguments(command).filter(|word| !file.node_text(*word).starts_with('-')).skip(first));
        }
        for word in words {
            let first = self.0.entry(word_hash(file.node_text(word).trim_matches('"'))).or_insert(word.id());
            *first = word.id().min(*first);
        }
    }
}
