use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};
use crate::shell::{arguments, is_followed_by, stops_at_errors};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unchecked-cd",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: Some(FixKind::Review),
    what: "a change of folder that is not checked, though more commands follow",
    why: "If the folder does not exist, all later commands run in the wrong one: they write, move and remove there.",
    silent: "In scripts that stop at errors (`set -e`), where the result is checked, and for `cd` without a name, `cd /`, `cd -` and `cd ..`.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong {
                code: "#!/bin/bash\ncd \"$quay\"\nrm -f tides\n",
                at: &["2:1"],
                fixed: Some("#!/bin/bash\ncd \"$quay\" || exit 1\nrm -f tides\n"),
            },
            Wrong {
                code: "#!/bin/bash\nmoor() {\n  cd boats\n  tie\n}\n",
                at: &["3:3"],
                fixed: Some("#!/bin/bash\nmoor() {\n  cd boats || return 1\n  tie\n}\n"),
            },
            Wrong {
                code: "cd \"$quay\"\nrm -f tides\n",
                at: &["1:1"],
                fixed: Some("cd \"$quay\" || return 1\nrm -f tides\n"),
            },
        ],
        right: &[
            "#!/bin/bash\ncd boats || exit 1\ncd boats && moor\nif cd boats; then moor; fi\ncd ..\n",
            "#!/bin/bash\nset -e\ncd boats\nmoor\n",
            "#!/bin/bash\nmoor\ncd boats\n",
        ],
    }],
    needs_names: false,
    check: Check::Named(&[Kind::Command], &["cd"], check),
};

fn check(context: &mut Context, command: NodeRef) {
    let file = context.file();
    if command.role() != Role::Statement || stops_at_errors(file) {
        return;
    }
    let Some(folder) = arguments(command).last().map(|folder| file.node_text(folder)) else { return };
    let is_safe = matches!(folder, "/" | "-" | "~" | "$HOME" | "\"$HOME\"" | "." | "\"$OLDPWD\"" | "$OLDPWD")
        || folder.split('/').all(|part| part == "..");
    let asks = command.parent().is_some_and(|block| matches!(block.role(), Role::Condition));
    let Some(next) = command.next_sibling().filter(|next| next.role() == Role::Statement) else { return };
    let checks = file.node_text(next).contains("$?")
        || file.node_text(next).contains("pwd")
        || file.node_text(next).contains("PWD");
    if is_safe || asks || checks || is_followed_by(command, TokenKind::Ampersand) {
        return;
    }
    let in_function = command.function_around().is_some();
    // A file without a first line that names its shell is read by another script, which should go on.
    let is_sourced = !file.text.source().starts_with("#!");
    let leave = if in_function || is_sourced { " || return 1" } else { " || exit 1" };
    context
        .report(command.span(), "if this fails, the next commands run in the wrong folder")
        .advice("exit if it fails")
        .fix_to_review(Some(vec![Edit::insert(command.span().end, leave)]));
}
