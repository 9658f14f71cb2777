use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, FixKind, Holds, Level, Mesh, Rule, ShellValues, Wrong,
};
use crate::shell::{NUMERIC_TESTS, arguments, command_name, quoted};
use crate::shell_values::shell_values;

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
    silent: "For what cannot hold whitespace by its name or by all that the script assigns to it, for values that come from \
             another file, for numbers in tests, where splitting is what a loop needs, and for variables that hold several \
             words on purpose: by their names, or because a loop or a command takes them apart.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\nmoor $1\n", at: &["2:6"], fixed: Some("#!/bin/bash\nmoor \"$1\"\n") },
            Wrong {
                code: "#!/bin/bash\nread -r quay\ncp $quay/tides $PWD\n",
                at: &["3:4"],
                fixed: Some("#!/bin/bash\nread -r quay\ncp \"$quay/tides\" \"$PWD\"\n"),
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
            "#!/bin/bash\nboat='Tern'\nlog=\"/srv/$boat.log\"\nmoor $boat $log\n",
            "#!/bin/bash\nmetres=$1\n[ $metres -gt 3 ]\n",
        ],
    }],
    needs_names: false,
    check: Check::File(check),
};

/// Commands whose arguments are numbers, or which do not cut them.
const OF_NUMBERS: &[&str] = &[
    "exit", "return", "shift", "sleep", "kill", "wait", "break", "continue", "umask", "ulimit", "local", "declare",
    "typeset", "export", "readonly", "eval", ":", "set", "unset", "trap", "fg", "bg",
];

/// What a script assigns to its variables shows only in the whole of it.
fn check(context: &mut Context) {
    let file = context.file();
    for command in file.tree.nodes_of(Kind::Command) {
        let name = command_name(file, command);
        if OF_NUMBERS.contains(&name) || command.child(Role::Callee).is_none() {
            continue;
        }
        let has_parts = |word: &NodeRef| word.kind() == Kind::Word && word.children().next().is_some();
        if arguments(command).any(|word| has_parts(&word)) {
            on_command(context, command, matches!(name, "[" | "test"), shell_values(file));
        }
    }
}

fn on_command<'c>(context: &mut Context<'c>, command: NodeRef<'c>, is_test: bool, values: &ShellValues) {
    let file = context.file();
    let words: Vec<NodeRef> = arguments(command).collect();
    let text_at = |index: Option<usize>| index.and_then(|at| words.get(at)).map_or("", |word| file.node_text(*word));
    let mut split: Vec<(NodeRef, NodeRef)> = Vec::new();
    for (index, word) in words.iter().enumerate().filter(|(_, word)| word.kind() == Kind::Word) {
        let before = text_at(index.checked_sub(1));
        if is_test && (NUMERIC_TESTS.contains(&before) || NUMERIC_TESTS.contains(&text_at(Some(index + 1)))) {
            continue;
        }
        let parts = || word.children().filter(|part| is_expanded(*part));
        if let Some(first) = parts().find(|part| values.of_part(file, *part) == Holds::Anything) {
            split.push((*word, first));
        } else if let Some(first) = parts().next().filter(|_| is_test && before == "-n") {
            report_test(context, *word, first);
        } else if parts().any(|part| values.of_part(file, part) == Holds::Unknown) {
            context.unsure(word.span(), "nothing in the file says what the value may hold");
        }
    }
    report(context, &split);
}

fn is_expanded(part: NodeRef) -> bool {
    matches!(part.kind(), Kind::Expansion | Kind::CommandSubstitution)
}

/// All that a command is given without quotes is one finding: they are quoted together.
fn report(context: &mut Context, split: &[(NodeRef, NodeRef)]) {
    let Some((word, first)) = split.first() else { return };
    let file = context.file();
    let what = described(context, *first);
    let message = match split {
        [_] => format!("{what} is split at whitespace and expanded as a pattern"),
        [_, (_, other)] => {
            format!("{what} and {} are split at whitespace and expanded as patterns", described(context, *other))
        }
        _ => format!("{what} and {} more are split at whitespace and expanded as patterns", split.len() - 1),
    };
    let edits: Vec<Edit> = split.iter().filter_map(|(word, _)| quoted(file, *word)).flatten().collect();
    let line = context.line(word.span().start);
    let elsewhere: Vec<NodeRef> =
        split[1..].iter().map(|(other, _)| *other).filter(|other| context.line(other.span().start) != line).collect();
    let mut reported = context
        .report(word.span(), message)
        .advice(if split.len() == 1 { "put it in double quotes" } else { "put each of them in double quotes" })
        .fix_to_review((!edits.is_empty()).then_some(edits));
    for other in elsewhere {
        reported = reported.related(other.span(), "so is this");
    }
}

fn report_test(context: &mut Context, word: NodeRef, first: NodeRef) {
    let what = described(context, first);
    let edits = quoted(context.file(), word);
    context
        .report(word.span(), format!("the test holds even where {what} is empty"))
        .advice("put it in double quotes")
        .fix_to_review(edits);
}

fn described(context: &Context, part: NodeRef) -> String {
    match part.kind() {
        Kind::Expansion => format!("\"{}\"", context.text(part)),
        _ => "what the command gives".into(),
    }
}
