use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::is_short;
use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "empty-list-comparison",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Hcl],
    fix: Some(FixKind::Review),
    what: "a value that is compared with a list or an object that is written out empty",
    why: "An empty pair of brackets has a type of its own, and values of other types are never equal to it: a list from a variable is not, even if it is empty.",
    silent: "Where both sides are written out.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[
            Wrong {
                code: "count = var.quays == [] ? 0 : 1\n",
                at: &["1:9"],
                fixed: Some("count = length(var.quays) == 0 ? 0 : 1\n"),
            },
            Wrong {
                code: "open = local.tides != {}\n",
                at: &["1:8"],
                fixed: Some("open = length(local.tides) != 0\n"),
            },
        ],
        right: &["count = length(var.quays) == 0 ? 0 : 1\nsame = [] == []\nnorth = var.quays == [\"north\"]\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Comparison], check),
};

fn check(context: &mut Context, comparison: NodeRef) {
    let operands: Vec<NodeRef> = comparison.children_in(Role::Operand).collect();
    let [left, right] = operands[..] else { return };
    let is_empty = |node: NodeRef| is_literal(node) && node.children().next().is_none();
    let (empty, other) = if is_empty(right) { (right, left) } else { (left, right) };
    // The advice repeats the other one.
    if !is_empty(empty) || is_literal(other) || !is_short(context.text(other)) {
        return;
    }
    let what = if empty.kind() == Kind::List { "list" } else { "object" };
    let value = context.text(other);
    let fix = vec![Edit::replace(other.span(), format!("length({value})")), Edit::replace(empty.span(), "0")];
    context
        .report(comparison.span(), format!("nothing but an empty {what} that is written out equals this"))
        .advice(format!("compare its length with 0: length({value})"))
        .fix_to_review(Some(fix));
}

fn is_literal(node: NodeRef) -> bool {
    matches!(node.kind(), Kind::List | Kind::Dictionary)
}
