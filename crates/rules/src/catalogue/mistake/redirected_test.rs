use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::shell::arguments;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "redirected-test",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: None,
    what: "a comparison in single brackets whose `<` or `>` is a redirection",
    why: "The test only asks whether the first word is empty, and a file with the name of the second one is emptied or read.",
    silent: "For tests in double brackets, where the signs compare, and for redirections after the closing bracket.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\n[ \"$depth\" > 3 ] && moor\n", at: &["2:12"], fixed: None },
            Wrong { code: "#!/bin/bash\nif [ 3 < \"$depth\" ]; then moor; fi\n", at: &["2:8"], fixed: None },
        ],
        right: &[
            "#!/bin/bash\n[[ $tide > $low ]] && moor\n[ \"$depth\" -gt 3 ] > log\n[ \"$tide\" \\> low ]\n[ -n \"$tide\" 2>/dev/null ]\n",
        ],
    }],
    needs_names: false,
    check: Check::Named(&[Kind::Command], &["["], check),
};

fn check(context: &mut Context, command: NodeRef) {
    let file = context.file();
    let Some(close) = arguments(command).last().filter(|last| file.node_text(*last) == "]") else { return };
    for redirection in command.children_in(Role::Redirection) {
        let Some(target) = redirection.child(Role::Target) else { continue };
        let sign = file.text.slice(Span::new(redirection.span().start, target.span().start)).trim();
        if redirection.span().start < close.span().start && matches!(sign, "<" | ">") {
            let number = if sign == ">" { "-gt" } else { "-lt" };
            context
                .report(redirection.span(), format!("\"{sign}\" redirects here: it compares nothing"))
                .advice(format!("compare numbers with `{number}`, or words in double brackets"));
        }
    }
}
