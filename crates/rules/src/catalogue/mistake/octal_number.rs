use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "octal-number",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Shell],
    fix: None,
    what: "a number in a calculation that begins with a zero",
    why: "Such a number has the base 8: 010 is eight, and 08 is an error.",
    silent: "For numbers of four digits, which are modes of files.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Shell,
        wrong: &[
            Wrong { code: "#!/bin/bash\necho $((010 + 1))\n", at: &["2:9"], fixed: None },
            Wrong { code: "#!/bin/bash\nday=$((08 + 1))\n", at: &["2:8"], fixed: None },
        ],
        right: &["#!/bin/bash\necho $((10 + 0))\necho $((0x10))\necho $((0755))\necho $((10#08))\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Number], check),
};

/// A number deeper in a calculation than this is not looked at: chains of operators are as deep as they are long.
const DEEPEST: usize = 64;

fn check(context: &mut Context, number: NodeRef) {
    let text = context.text(number);
    let digits =
        text.strip_prefix('0').filter(|rest| !rest.is_empty() && rest.bytes().all(|byte| byte.is_ascii_digit()));
    let Some(digits) = digits.filter(|digits| digits.len() < 3) else { return };
    if !number.ancestors().take(DEEPEST).any(|around| around.kind() == Kind::Arithmetic) {
        return;
    }
    if digits.contains(['8', '9']) {
        context
            .report(number.span(), format!("{text} is no number of base 8"))
            .advice("leave the zero out, or write `10#` before it");
    } else if digits.parse::<u8>().is_ok_and(|value| value > 7) {
        context.report(number.span(), format!("{text} is a number of base 8")).advice("leave the zero out");
    }
}
