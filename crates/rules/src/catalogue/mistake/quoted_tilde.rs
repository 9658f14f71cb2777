use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::command_name;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "quoted-tilde",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Shell],
    fix: None,
    what: "a tilde in quotes, which is no home folder there",
    why: "In quotes the tilde represents itself: the path begins with a folder of that name.",
    silent: "In text that is printed, and in arguments that are patterns.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\ncp tide \"~/tides\"\n", at: &["2:9"], fixed: None },
            Wrong { code: "#!/bin/bash\nquay='~/quay'\n", at: &["2:6"], fixed: None },
        ],
        right: &["#!/bin/bash\ncp tide ~/tides\necho \"~/tides\"\nsed \"~/tides\"\ncp tide \"$HOME/tides\"\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Word], check),
};

/// Commands whose arguments are text, patterns or code.
const OF_TEXT: &[&str] =
    &["echo", "printf", "grep", "egrep", "sed", "awk", "find", "ssh", "eval", "die", "error", "warn", "log"];

fn check(context: &mut Context, word: NodeRef) {
    let file = context.file();
    let text = file.node_text(word);
    let path = text.strip_prefix(['"', '\'']).and_then(|rest| rest.strip_prefix("~/"));
    let Some(path) = path.filter(|path| !path.contains(char::is_whitespace)) else { return };
    let is_path = match (word.role(), word.parent()) {
        (Role::Argument, Some(command)) => {
            let name = command_name(file, command);
            !name.is_empty() && !OF_TEXT.contains(&name) && !name.starts_with(|first: char| !first.is_ascii_lowercase())
        }
        (Role::Value, Some(assignment)) => assignment.kind() == Kind::Assignment,
        (Role::Target, _) => true,
        _ => false,
    };
    if is_path && !path.contains('*') {
        context
            .report(word.span(), "in quotes the tilde is no home folder")
            .advice("use $HOME, or leave the tilde out of the quotes");
    }
}
