use rustc_hash::FxHashSet;
use sieve_meaning::names::Names;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong, word_hash};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-target",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "a name that is assigned twice in one assignment",
    why: "The first of the two is lost at once: one of the names is most likely a mistake.",
    silent: "For `_` and other names that are never read.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "north, north = quays\nprint(north)\n", at: &["1:8"], fixed: None },
            Wrong { code: "for quay, quay in pairs:\n    sail(quay)\n", at: &["1:11"], fixed: None },
            Wrong { code: "tide = tide = 3\nprint(tide)\n", at: &["1:8"], fixed: None },
        ],
        right: &[
            "x, x, x, depth = quay\ndummy, depth, dummy = quay\nprint(x, dummy, depth)\n",
            "_, _, depth = quay\n",
            "north, south = quays\n",
            "a[0], a[0] = 1, 2\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::Assignment, Kind::For], check),
};

/// Names for what nobody wants, as often as there is such a value.
const UNUSED: &[&str] = &["dummy", "ignored", "junk", "unused", "trash"];

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let names = context.names();
    let mut seen: FxHashSet<&str> = FxHashSet::default();
    let is_read = |text: &str| file.once(|| NamesRead(names_read(names))).0.contains(&word_hash(text));
    let mut targets = node.children_in(Role::Target);
    let first = targets.next();
    if targets.next().is_none()
        && first.is_none_or(|only| matches!(only.kind(), Kind::Name | Kind::Member | Kind::Subscript))
    {
        return;
    }
    for target in node.children_in(Role::Target) {
        let times = |text: &str| {
            target.descendants().filter(|part| part.kind() == Kind::Name && file.node_text(*part) == text).count()
        };
        let parts = std::iter::once(target).chain(target.descendants());
        for name in parts.filter(|part| part.kind() == Kind::Name && is_target(*part, target)) {
            let text = file.node_text(name);
            let is_slip = || !text.starts_with('_') && !UNUSED.contains(&text) && is_read(text) && times(text) < 3;
            if !seen.insert(text) && is_slip() {
                context
                    .report(name.span(), format!("\"{text}\" is assigned twice here, and keeps the last value"))
                    .advice("give each value a name of its own");
            }
        }
    }
}

/// Whether a name takes a value itself, and is not a part of what does.
fn is_target(name: NodeRef, target: NodeRef) -> bool {
    let mut part = name;
    while part != target {
        match part.parent() {
            Some(parent) if matches!(parent.kind(), Kind::Tuple | Kind::List | Kind::Group | Kind::Spread) => {
                part = parent
            }
            _ => return false,
        }
    }
    true
}

/// Hashes of the names of variables that something reads: a target that nothing reads may have any name.
struct NamesRead(FxHashSet<u64>);

fn names_read(names: &Names<'_>) -> FxHashSet<u64> {
    names.bindings().filter(|binding| binding.uses > 0).map(|binding| word_hash(names.text(binding.name))).collect()
}
