use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::built::{first_argument, is_built};
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "html-by-joining",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: Language::OF_JAVASCRIPT,
    fix: None,
    what: "markup built from strings",
    why: "A quay called `<img src=x onerror=…>` runs its script in every reader's page.",
    silent: "For string literals, expressions that are numbers, and parts that an escaping function returns.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[
            Wrong { code: "board.innerHTML = `<b>${quay}</b>`;\n", at: &["1:19"], fixed: None },
            Wrong { code: "document.write('<b>' + quay + '</b>');\n", at: &["1:16"], fixed: None },
        ],
        right: &[
            "board.textContent = quay;\nboard.innerHTML = '<b>closed</b>';\nboard.innerHTML = `<b>${escapeHtml(quay)}</b>`;\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Assignment, Kind::CompoundAssignment, Kind::Call], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let markup = if node.kind() == Kind::Call { written(file, node) } else { assigned(file, node) };
    let Some(text) = markup.filter(|text| is_built(file, *text) && file.node_text(*text).contains('<')) else { return };
    let parts = file.node_text(text).to_ascii_lowercase();
    if ["escape", "sanitize", "encode", "purify"].iter().any(|word| parts.contains(word)) || file.is_test() {
        return;
    }
    context
        .report(text.span(), "markup is built from strings")
        .advice("create the elements, and set their text content");
}

fn assigned<'t>(file: File<'_>, assignment: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let name = assignment.child(Role::Target).filter(|target| target.kind() == Kind::Member)?.child(Role::Name)?;
    matches!(file.node_text(name), "innerHTML" | "outerHTML").then(|| assignment.child(Role::Value)).flatten()
}

fn written<'t>(file: File<'_>, call: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let callee = call.child(Role::Callee)?;
    match file.node_text(callee) {
        "document.write" | "document.writeln" => first_argument(call),
        text if text.ends_with(".insertAdjacentHTML") => call.child(Role::Arguments)?.children().nth(1),
        _ => None,
    }
}
