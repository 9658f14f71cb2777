//! What the rules for variables and constants check: bindings, and the variables that a script makes for itself.

use rustc_hash::FxHashSet;
use sieve_meaning::names::Binding;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use super::form::check_name;

use crate::interface::{Context, File};
use crate::shell::{arguments, command_name, has_option};

/// Names that the shell, or whoever starts it, has a meaning for (POSIX.1-2024, "Other Environment Variables" and "Shell Variables";
/// bash 5.2, "Bash Variables").
const KNOWN: &[&str] = &[
    "CDPATH",
    "COLUMNS",
    "DISPLAY",
    "EDITOR",
    "ENV",
    "EXECIGNORE",
    "FCEDIT",
    "FIGNORE",
    "FUNCNEST",
    "GLOBIGNORE",
    "HOME",
    "HOSTFILE",
    "IFS",
    "IGNOREEOF",
    "INPUTRC",
    "INSIDE_EMACS",
    "LANG",
    "LINENO",
    "LINES",
    "LOGNAME",
    "MAIL",
    "MAILCHECK",
    "MAILPATH",
    "NLSPATH",
    "OLDPWD",
    "OPTARG",
    "OPTERR",
    "OPTIND",
    "PAGER",
    "PATH",
    "PIPESTATUS",
    "POSIXLY_CORRECT",
    "PPID",
    "PROMPT_COMMAND",
    "PROMPT_DIRTRIM",
    "PS0",
    "PS1",
    "PS2",
    "PS3",
    "PS4",
    "PWD",
    "RANDOM",
    "REPLY",
    "SECONDS",
    "SHELL",
    "SHELLOPTS",
    "SHLVL",
    "TERM",
    "TIMEFORMAT",
    "TMOUT",
    "TMPDIR",
    "TZ",
    "UID",
    "USER",
    "VISUAL",
];

/// Beginnings of such names.
const KNOWN_BEGINNINGS: &[&str] = &["BASH_", "COMP", "HIST", "LC_", "READLINE_"];

/// Commands that declare variables, each an argument, and hand them on with an option.
const DECLARING: &[&str] = &["declare", "local", "readonly", "typeset"];

/// Looks at the names of one sort that a file makes: its bindings, or, in a script, its variables.
pub(super) fn on_file(context: &mut Context, kind: &str, on_binding: fn(&mut Context, &Binding)) {
    if context.file().traits.runs_commands {
        return on_script(context, kind);
    }
    for binding in context.names().bindings() {
        on_binding(context, binding);
    }
}

/// Reports the variables of a script, or its constants, whose names do not have the form of their sort.
fn on_script(context: &mut Context, kind: &str) {
    if context.name_form(kind).takes_any() || context.file().is_test() {
        return;
    }
    let file = context.file();
    let own = file.once(|| OwnVariables(own_variables(file)));
    for (name, _) in own.0.iter().filter(|(_, own)| *own == kind) {
        let name = file.tree.node(*name);
        check_name(context, kind, kind, context.text(name), name.span(), |_, _| None);
    }
}

/// The variables that a script makes for itself, each with the kind of its name.
struct OwnVariables(Vec<(NodeId, &'static str)>);

/// The first place of each variable that nothing but the script itself reads, with the kind of its name.
fn own_variables(file: File<'_>) -> Vec<(NodeId, &'static str)> {
    let handed_on = handed_on(file);
    // Whoever reads the file into a shell of his own reads its variables, but not those of its functions.
    let is_read_in = !file.text.source().starts_with("#!");
    let mut seen = FxHashSet::default();
    let mut own = Vec::new();
    for node in file.tree.nodes().filter(|node| matches!(node.kind(), Kind::Assignment | Kind::For)) {
        let Some(name) = node.child(Role::Target).filter(|target| target.kind() == Kind::Name) else { continue };
        let text = file.node_text(name);
        if handed_on.contains(text) || seen.contains(text) {
            continue;
        }
        let command = node.parent().filter(|_| node.role() == Role::Argument);
        let declaration = command.map(|command| file.once_at(command, || Declaring::of(file, command)));
        if is_read_in && !declaration.as_ref().is_some_and(|declaration| declaration.is_local) {
            continue;
        }
        // What is known stays known: each name is looked at once.
        if seen.insert(text) && !is_known(text) {
            // A variable, or one that cannot change.
            let is_fixed = declaration.is_some_and(|declaration| declaration.is_fixed);
            own.push((name.id(), if is_fixed { "constant" } else { "variable" }));
        }
    }
    own
}

/// Whether a name is one that the shell has a meaning for. `saved_IFS` is called after what it saves.
fn is_known(name: &str) -> bool {
    name.split('_').any(|word| KNOWN.contains(&word))
        || KNOWN_BEGINNINGS.iter().any(|beginning| name.starts_with(beginning))
}

/// What a command says of the variables that it declares.
struct Declaring {
    is_local: bool,
    /// Whether they cannot change.
    is_fixed: bool,
}

impl Declaring {
    fn of(file: File<'_>, command: NodeRef<'_>) -> Declaring {
        let name = command_name(file, command);
        let is_fixed = name == "readonly" || has_option(file, command, 'r', "-r");
        Declaring { is_local: name == "local", is_fixed }
    }
}

/// The names that other programs see: those that are exported, and those that are before a command.
fn handed_on(file: File<'_>) -> FxHashSet<&str> {
    let mut names = FxHashSet::default();
    for command in file.tree.nodes_of(Kind::Command) {
        let callee = command_name(file, command);
        let targets = |assignments: Role| {
            command
                .children_in(assignments)
                .filter_map(|part| part.child(Role::Target))
                .map(|name| file.node_text(name))
        };
        if command.child(Role::Callee).is_some() {
            names.extend(targets(Role::Part));
        }
        let exports = callee == "export" || DECLARING.contains(&callee) && has_option(file, command, 'x', "-x");
        if exports {
            names.extend(targets(Role::Argument));
            names.extend(arguments(command).map(|argument| file.node_text(argument)));
        }
    }
    names
}
