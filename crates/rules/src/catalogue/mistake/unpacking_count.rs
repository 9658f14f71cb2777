use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unpacking-count",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "values that are taken apart into another number of names",
    why: "The assignment fails with a ValueError.",
    silent: "For values whose number is not written out.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "low, high = 1, 2, 3\n", at: &["1:1"], fixed: None },
            Wrong {
                code: "for quay, depth in [(\"north\", 3, 1), (\"south\", 2, 1)]:\n    print(quay, depth)\n",
                at: &["1:5"],
                fixed: None,
            },
        ],
        right: &[
            "low, high = 1, 2\nlow, *rest = 1, 2, 3\nlow, high = tides\nlow, high = *tides, 3\nfor quay, depth in [(\"north\", 3)]:\n    print(quay, depth)\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Assignment, Kind::For, Kind::ComprehensionClause], check),
};

fn check(context: &mut Context, node: NodeRef) {
    if node.kind() == Kind::Assignment {
        let Some(values) = node.child_at_end(Role::Value).and_then(count) else { return };
        for target in node.children_in(Role::Target) {
            if let Some(names) = count(target).filter(|names| *names != values) {
                report(context, target, names, values);
            }
        }
        return;
    }
    let (Some(target), Some(iterable)) = (node.child(Role::Target), node.child(Role::Iterable)) else { return };
    let Some(names) = count(target) else { return };
    if matches!(iterable.kind(), Kind::List | Kind::Tuple | Kind::Set) {
        let mut counts = iterable.children_in(Role::Element).filter_map(count);
        if let Some(values) = counts.find(|values| *values != names) {
            report(context, target, names, values);
        }
    }
}

fn report(context: &mut Context, target: NodeRef, names: usize, values: usize) {
    let of = |count: usize, word: &str| if count == 1 { format!("1 {word}") } else { format!("{count} {word}s") };
    context
        .report(target.span(), format!("{} for {}", of(names, "name"), of(values, "value")))
        .advice("take as many as there are, or the rest with a star");
}

/// The elements of what is written out, if their number is known.
fn count(node: NodeRef) -> Option<usize> {
    let mut node = node;
    while node.kind() == Kind::Group {
        node = node.child(Role::Value)?;
    }
    let is_written_out = matches!(node.kind(), Kind::Tuple | Kind::List);
    let spreads = || node.children_in(Role::Element).any(|element| element.kind() == Kind::Spread);
    (is_written_out && !spreads()).then(|| node.children_in(Role::Element).count())
}
