use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "status-range",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Shell],
    fix: None,
    what: "a status that is no number from 0 to 255",
    why: "Only eight bits are kept: 256 becomes 0, which means success.",
    silent: "For values that are not written out.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\nexit 256\n", at: &["2:6"], fixed: None },
            Wrong { code: "#!/bin/bash\nmoor() { return -1; }\n", at: &["2:17"], fixed: None },
        ],
        right: &["#!/bin/bash\nexit 255\nreturn \"$1\"\nexit\n"],
    }],
    needs_names: false,
    check: Check::Named(&[Kind::Command, Kind::Return], &["exit"], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let Some(status) = node.child(Role::Argument) else { return };
    let text = file.node_text(status);
    if text.parse::<i64>().is_ok_and(|number| !(0..=255).contains(&number)) {
        context
            .report(status.span(), format!("{text} is no status: only the last eight bits of it are kept"))
            .advice("use a number from 1 to 255 for a failure");
    }
}
