use sieve_syntax::language::Language;
use sieve_syntax::tree::{Fault, Problem};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "nested-too-deep",
    concern: Concern::Syntax,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: None,
    what: "code nested deeper than any parser here follows",
    why: "Code this deep is generated or malicious. It is left out: no rule checks it, and the language's own parser most likely refuses it too.",
    silent: "No rule checks the part that is left out.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong {
            code: "x = ----------------------------------------------------------------------------------------------------\
               ----------------------------------------------------------------------------------------------------\
               ----------------------------------------------------------------------------------------------------1\n",
            at: &["1:261"],
            fixed: None,
        }],
        right: &["x = ((((1))))\n"],
    }],
    needs_names: false,
    check: Check::Faults(check),
};

fn check(context: &mut Context, fault: &Fault) {
    if matches!(fault.problem, Problem::TooDeep(_)) {
        context.report(fault.span, fault.problem.to_string()).advice("split it into functions or variables");
    }
}
