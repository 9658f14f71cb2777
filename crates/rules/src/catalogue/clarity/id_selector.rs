use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "id-selector",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a selector by an id",
    why: "It weighs more than any number of classes, so that only another id overrides it, and it holds for one element of a page.",
    silent: "Nowhere. It is on only where settings name it: teams that style single elements want it so.",
    standards: &["Selectors Level 4, section 17"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[Wrong { code: "#map .quay { margin: 0 }\n", at: &["1:1"], fixed: None }],
        right: &[".map .quay { margin: 0 }\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::IdSelector], check),
};

fn check(context: &mut Context, node: NodeRef) {
    context.report(node.span(), "this selects by an id").advice("give the element a class, and select by that");
}
