use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "file-name",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: None,
    what: "a file whose name is not in the chosen style",
    why: "Where names of one kind have one style, readers see at a glance what a name refers to, and nobody has to remember its spelling.",
    silent: "Endings do not count, nor does what follows the first dot of the name. Scripts, which begin with `#!`, may be named like commands. Tests are left alone.",
    standards: &["PEP 8, Naming Conventions"],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong { code: "# This is booking/TideTable.py.\nfare = 450\n", at: &["1:1"], fixed: None }],
        right: &["# This is booking/tide_table.py.\nfare = 450\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::File], check),
};

fn check(context: &mut Context, _: NodeRef) {
    let file = context.file();
    let stem = file.name().split('.').next().unwrap_or_default();
    if file.text.source().starts_with("#!") || file.is_test() {
        return;
    }
    let form = context.name_form(if file.traits.dotted_modules { "module" } else { "file" });
    let Some(complaint) = form.complaint(stem).filter(|_| !stem.starts_with("__") && !stem.is_empty()) else { return };
    let advice = match form.proposal(stem) {
        Some(new) => format!("call it \"{new}\""),
        None => "give it another name".to_string(),
    };
    context
        .report(Span::at(0), format!("the name of the file \"{stem}\" {complaint}"))
        .advice(advice)
        .anchor(Span::at(0));
}
