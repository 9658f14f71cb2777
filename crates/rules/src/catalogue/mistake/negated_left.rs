use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::written_between;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "negated-left",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx],
    fix: None,
    what: "a negation that belongs to the whole test, and negates its left side",
    why: "The left side becomes true or false before it is looked for: the answer is always the same.",
    silent: "For parentheses around either reading.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[
            Wrong { code: "if (!name in fares) add(name);\n", at: &["1:5"], fixed: None },
            Wrong { code: "if (!error instanceof TypeError) show(error);\n", at: &["1:5"], fixed: None },
        ],
        right: &["if (!(name in fares)) add(name);\nif ((!name) in fares) add(name);\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Comparison, Kind::Binary], check),
};

fn check(context: &mut Context, test: NodeRef) {
    let file = context.file();
    let mut operands = test.children();
    let (Some(left), Some(right)) = (operands.next(), operands.next()) else { return };
    let sign = written_between(file, left, right);
    if matches!(sign, "in" | "instanceof")
        && left.kind() == Kind::Unary
        && file.node_text(left).starts_with('!')
        && !file.node_text(left).starts_with("!!")
    {
        context
            .report(left.span(), format!("this negates the left side of `{sign}`, not the test"))
            .advice("put parentheses around the test");
    }
}
