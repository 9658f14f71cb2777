use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, FixKind, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, command_name, quoted, variable_of};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unquoted-expansion",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Shell],
    fix: Some(FixKind::Review),
    what: "an unquoted value, which the shell splits at whitespace and expands as a pattern",
    why: "A name with a space in it becomes two arguments, one with a star becomes many: the command works on the wrong things.",
    silent: "For what cannot hold whitespace by its name or by all that the script assigns to it, where splitting is what a loop needs, and for variables whose names say that they hold several words.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\nmoor $1\n", at: &["2:6"], fixed: Some("#!/bin/bash\nmoor \"$1\"\n") },
            Wrong {
                code: "#!/bin/bash\ncp $quay/tides \"$dir\"\n",
                at: &["2:4"],
                fixed: Some("#!/bin/bash\ncp \"$quay/tides\" \"$dir\"\n"),
            },
            Wrong {
                code: "#!/bin/bash\n[ -n $(tide) ] && moor\n",
                at: &["2:6"],
                fixed: Some("#!/bin/bash\n[ -n \"$(tide)\" ] && moor\n"),
            },
        ],
        right: &[
            "#!/bin/bash\nmoor \"$1\" $# $?\nquay=$1\ncase $1 in a) ;; esac\n[[ -n $1 ]]\n",
            "#!/bin/bash\ndepth=3\nmoor $depth\n",
            "#!/bin/bash\nmoor $flags $sort_opts\nfor boat in $boats; do :; done\n",
            "#!/bin/bash\nexit $code\n",
            "#!/bin/bash\n$tug moor\nnice $tug sail\n",
        ],
    }],
    needs_names: false,
    check: Check::File(check),
};

/// Words in names of variables that hold several words on purpose.
const SEVERAL: &[&str] = &[
    "flag", "opt", "arg", "cmd", "command", "param", "list", "files", "words", "switch", "prog", "extra", "deps",
    "libs",
];

/// Words in names of variables that hold a number or a word of a few.
const SIMPLE: &[&str] = &[
    "pid", "err", "count", "num", "idx", "index", "len", "size", "port", "code", "status", "ret", "rc", "res", "level",
    "mode", "uid", "gid", "time", "version", "max", "min", "cnt", "year", "day", "arch", "cword", "cur",
];

/// Commands whose arguments are numbers, or which do not cut them.
const OF_NUMBERS: &[&str] = &[
    "exit", "return", "shift", "sleep", "kill", "wait", "break", "continue", "umask", "ulimit", "local", "declare",
    "typeset", "export", "readonly", "eval", ":", "set", "unset", "trap", "fg", "bg",
];

/// What a script assigns to its variables shows only in the whole of it.
fn check(context: &mut Context) {
    let file = context.file();
    let simple = variables_of_simple_values(file);
    for word in file.tree.nodes().filter(|node| node.kind() == Kind::Word && node.role() == Role::Argument) {
        on_argument(context, word, &simple);
    }
}

fn on_argument(context: &mut Context, word: NodeRef, simple: &FxHashSet<&str>) {
    let file = context.file();
    let Some(command) = word.parent().filter(|it| it.kind() == Kind::Command) else { return };
    if OF_NUMBERS.contains(&command_name(file, command)) || command.child(Role::Callee).is_none() {
        return;
    }
    let breaks = |part: &NodeRef| match part.kind() {
        Kind::Expansion => may_hold_blanks(file, *part, simple),
        Kind::CommandSubstitution => gives_text(file, *part),
        _ => false,
    };
    let Some(first) = word.children().find(breaks) else { return };
    let what = if first.kind() == Kind::Expansion {
        format!("\"{}\"", context.text(first))
    } else {
        "what the command gives".into()
    };
    let edits = quoted(file, word);
    context
        .report(word.span(), format!("{what} is split at whitespace and expanded as a pattern"))
        .advice("put it in double quotes")
        .fix_to_review(edits);
}

fn may_hold_blanks(file: File, expansion: NodeRef, simple_values: &FxHashSet<&str>) -> bool {
    let text = file.node_text(expansion);
    let name = variable_of(file, expansion);
    let lower = name.to_ascii_lowercase();
    let is_special = matches!(
        name,
        "?" | "#" | "$" | "!" | "-" | "@" | "*" | "RANDOM" | "LINENO" | "UID" | "EUID" | "PPID" | "SECONDS" | "OPTIND"
    ) || text.starts_with("${#");
    let asks = text.contains('@') || text.contains('*') || text.contains(":+") || text.contains('+');
    let several = SEVERAL.iter().any(|word| lower.contains(word)) || lower.ends_with('s');
    let simple = lower.len() == 1 && !lower.starts_with(|first: char| first.is_ascii_digit())
        || SIMPLE.iter().any(|word| lower.contains(word));
    !(is_special || asks || several || simple || simple_values.contains(name))
}

/// The variables to which the script assigns numbers and plain words, and nothing else; and those that may hold an option, a command or
/// nothing at all.
fn variables_of_simple_values(file: File<'_>) -> FxHashSet<&str> {
    let mut given: FxHashMap<&str, bool> = FxHashMap::default();
    let mut optional: FxHashSet<&str> = FxHashSet::default();
    for node in file.tree.nodes() {
        match node.kind() {
            Kind::Assignment => {
                let Some(target) = node.child(Role::Target) else { continue };
                let Some(value) = node.child(Role::Value) else {
                    optional.insert(file.node_text(target));
                    continue;
                };
                let name = file.node_text(target);
                // Nothing, or an option: it represents as many words as it holds.
                let text = file.node_text(value).trim_matches(['"', '\'']);
                if text.is_empty() || text.starts_with('-') {
                    optional.insert(name);
                }
                *given.entry(name).or_insert(true) &= is_simple_value(file, value);
            }
            Kind::For => {
                let is_plain = |word: NodeRef| {
                    word.children().next().is_none() && !file.node_text(word).contains(['*', '?', '[', '"', '\''])
                };
                let Some(target) = node.child(Role::Target) else { continue };
                let all = node.child(Role::Iterable).is_some() && node.children_in(Role::Iterable).all(is_plain);
                *given.entry(file.node_text(target)).or_insert(true) &= all;
            }
            Kind::Command if READERS.contains(&command_name(file, node)) => {
                for argument in arguments(node) {
                    given.insert(file.node_text(argument), false);
                }
            }
            // What is run by the words of its value holds several.
            Kind::Word if node.role() == Role::Callee => {
                let parts = node.children().filter(|part| part.kind() == Kind::Expansion);
                optional.extend(parts.map(|part| variable_of(file, part)));
            }
            _ => {}
        }
    }
    optional.extend(given.into_iter().filter(|(_, is_simple)| *is_simple).map(|(name, _)| name));
    optional
}

/// Commands that give variables values from elsewhere.
const READERS: &[&str] = &["read", "mapfile", "getopts", "printf", "readarray"];

fn is_simple_value(file: File, value: NodeRef) -> bool {
    value.kind() == Kind::Word
        && value.children().all(|part| matches!(part.kind(), Kind::Arithmetic | Kind::String))
        && !file.node_text(value).contains([' ', '*', '?', '['])
}

/// Whether a command in a word gives text that may hold whitespace, as far as its name tells.
fn gives_text(file: File, substitution: NodeRef) -> bool {
    let first = substitution.child(Role::Statement);
    let name = first.filter(|it| it.kind() == Kind::Command).map_or("", |command| command_name(file, command));
    matches!(name, "pwd" | "dirname" | "basename" | "readlink" | "realpath" | "mktemp" | "head" | "which" | "tide")
}
