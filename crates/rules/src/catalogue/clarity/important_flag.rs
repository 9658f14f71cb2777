use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "important-flag",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a declaration that overrides all others",
    why: "What is important can only be overridden by something more important still. Sheets that begin with it end with it everywhere.",
    silent: "Nowhere. It is on only where settings name it: old code needs it.",
    standards: &["CSS Cascading and Inheritance Level 4, section 6.3"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[Wrong { code: ".quay { margin: 0 !important }\n", at: &["1:19"], fixed: None }],
        right: &[".quay { margin: 0 }\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::ImportantFlag], check),
};

fn check(context: &mut Context, node: NodeRef) {
    context
        .report(node.span(), "this declaration overrides all others")
        .advice("make the selector say what is meant, or order the rules by layers");
}
