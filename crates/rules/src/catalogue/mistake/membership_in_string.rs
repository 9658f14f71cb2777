use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::written_between;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "membership-in-string",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Python],
    fix: None,
    what: "`in` with a single string in parentheses, which is no tuple",
    why: "The test asks whether one string is a part of the other: \"o\" is in \"low\" too.",
    silent: "For parentheses around other expressions, and for strings with spaces in them or of marks alone.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong { code: "low = tide in (\"low\")\n", at: &["1:15"], fixed: None }],
        right: &[
            "low = tide in (\"low\",)\nlow = tide in (\"low\", \"flat\")\nvowel = letter in (\"aeiou\" + \"y\")\nend = letter in (\".,;:\")\nlow = tide in \"low\"\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Comparison], check),
};

fn check(context: &mut Context, comparison: NodeRef) {
    let file = context.file();
    let operands: Vec<NodeRef> = comparison.children_in(Role::Operand).collect();
    let [left, right] = operands.as_slice() else { return };
    let sign = written_between(file, *left, *right);
    let inner = right.child(Role::Value).filter(|inner| right.kind() == Kind::Group && inner.kind() == Kind::String);
    let Some(inner) = inner.filter(|_| sign.ends_with("in") && left.kind() != Kind::String) else { return };
    let text = file.node_text(inner);
    // `letter in ("/\\")`: one of some marks.
    let has_letters = text.trim_start_matches(['r', 'b', 'u', 'R', 'B', 'U']).chars().any(char::is_alphanumeric);
    if text.len() > 4 && has_letters && !text.contains(' ') {
        context
            .report(right.span(), "these parentheses make no tuple: the test is for a part of the string")
            .advice("put a comma behind the string, or take the parentheses away");
    }
}
