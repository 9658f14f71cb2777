use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, command_name};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "pipe-to-shell",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: None,
    what: "a download that a shell runs without a check",
    why: "Whoever controls the other end, or the connection, decides what runs here; and a download cut short runs half a command.",
    silent: "Where the download is saved to a file first.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\ncurl -s https://quays.example/get | sh\n", at: &["2:1"], fixed: None },
            Wrong {
                code: "#!/bin/bash\nbash -c \"$(wget -qO- https://quays.example/get)\"\n",
                at: &["2:9"],
                fixed: None,
            },
        ],
        right: &[
            "#!/bin/bash\ncurl -so get.sh https://quays.example/get\nsha256sum -c get.sum && sh get.sh\n",
            "#!/bin/bash\ncurl -s https://quays.example/list | sort\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Pipeline, Kind::Command], check),
};

const FETCH: &[&str] = &["curl", "wget", "fetch"];
const RUN: &[&str] = &["sh", "bash", "dash", "zsh", "ksh", "python", "python3", "perl", "node", "ruby"];

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    if node.kind() == Kind::Pipeline {
        let elements: Vec<NodeRef> = node.children_in(Role::Element).collect();
        let fetches = elements.iter().any(|element| FETCH.contains(&command_name(file, *element)));
        let runs = elements.last().is_some_and(|last| RUN.contains(&runner(file, *last)) && !takes_file(file, *last));
        if fetches && runs {
            report(context, node);
        }
        return;
    }
    if !RUN.contains(&runner(file, node)) || !arguments(node).any(|argument| file.node_text(argument) == "-c") {
        return;
    }
    let fetched = arguments(node).find(|argument| {
        let commands = argument.descendants().filter(|part| part.kind() == Kind::Command);
        commands.into_iter().any(|command| FETCH.contains(&command_name(file, command)))
    });
    if let Some(argument) = fetched {
        report(context, argument);
    }
}

fn report(context: &mut Context, node: NodeRef) {
    context
        .report(node.span(), "what is downloaded here runs without a check")
        .advice("save it to a file, verify its checksum, and run that");
}

/// The program that a command runs, the one after `sudo` and its like.
fn runner<'c>(file: File<'c>, command: NodeRef) -> &'c str {
    let name = command_name(file, command);
    if !matches!(name, "sudo" | "env" | "doas") {
        return name;
    }
    let words = arguments(command).map(|argument| file.node_text(argument));
    words.into_iter().find(|word| !word.starts_with('-') && !word.contains('=')).unwrap_or(name)
}

/// Whether a program is given what to run: a file, or text of its own.
fn takes_file(file: File, command: NodeRef) -> bool {
    let words: Vec<&str> = arguments(command).map(|argument| file.node_text(argument)).collect();
    let own =
        words.iter().skip_while(|word| RUN.contains(word)).any(|word| *word == "-c" || *word == "-e" || *word == "-m");
    let first = words.iter().find(|word| !word.starts_with('-') && !RUN.contains(word));
    own || first.is_some() && !words.contains(&"-s")
}
