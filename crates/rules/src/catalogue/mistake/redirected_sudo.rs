use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::command_name;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "redirected-sudo",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: None,
    what: "output of a command of another user that is written by this one",
    why: "The shell opens the file before `sudo` begins: it has no more rights than the script, and cannot write there.",
    silent: "For devices, for temporary files, and for files that belong to the one who runs the script.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[Wrong { code: "#!/bin/bash\nsudo echo low > /etc/tide\n", at: &["2:15"], fixed: None }],
        right: &[
            "#!/bin/bash\necho low | sudo tee /etc/tide\nsudo moor > /dev/null\nsudo moor > log\nsudo moor > /tmp/log\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Redirection], check),
};

/// Folders that belong to the system.
const OF_THE_SYSTEM: &[&str] = &["/etc/", "/usr/", "/var/", "/opt/", "/root/", "/boot/", "/sys/", "/proc/", "/lib/"];

fn check(context: &mut Context, redirection: NodeRef) {
    let file = context.file();
    let is_sudo = redirection.parent().is_some_and(|command| command_name(file, command) == "sudo");
    let Some(target) = redirection.child(Role::Target).filter(|_| is_sudo) else { return };
    let path = file.node_text(target).trim_matches('"');
    if file.node_text(redirection).starts_with('>') && OF_THE_SYSTEM.iter().any(|folder| path.starts_with(folder)) {
        context
            .report(redirection.span(), format!("{path} is opened by this shell, without the rights of the other user"))
            .advice("pipe the output into `sudo tee`");
    }
}
