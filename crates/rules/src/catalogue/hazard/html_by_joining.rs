use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::built::{first_argument, is_built, is_literal};
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
    silent: "For string literals, expressions that are numbers, such as lengths, and parts that an escaping function returns.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[
            Wrong { code: "board.innerHTML = `<b>${quay}</b>`;\n", at: &["1:19"], fixed: None },
            Wrong { code: "document.write('<b>' + quay + '</b>');\n", at: &["1:16"], fixed: None },
            Wrong { code: "board.innerHTML = `<b>${escapeHtml(quay)}</b> ${tide}`;\n", at: &["1:19"], fixed: None },
        ],
        right: &[
            "let v = 3;\nbox.innerHTML = '<!--[if gt IE ' + (++v) + ']><i></i><![endif]-->';\n",
            "board.textContent = quay;\nboard.innerHTML = '<b>closed</b>';\nboard.innerHTML = `<b>${escapeHtml(quay)}</b>`;\nboard.innerHTML = `<b>${quays.length + 1}</b>`;\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Assignment, Kind::CompoundAssignment, Kind::Call], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let markup = if node.kind() == Kind::Call { written(file, node) } else { assigned(file, node) };
    let Some(text) = markup.filter(|text| is_built(file, *text) && file.node_text(*text).contains('<')) else { return };
    if file.is_test() || parts(text).into_iter().all(|part| is_harmless(file, part)) {
        return;
    }
    context
        .report(text.span(), "markup is built from strings")
        .advice("create the elements, and set their text content");
}

/// What a string is put together from.
fn parts(text: NodeRef<'_>) -> Vec<NodeRef<'_>> {
    let (mut open, mut parts) = (vec![text], Vec::new());
    while let Some(node) = open.pop() {
        match node.kind() {
            Kind::FormatString
            | Kind::TemplateString
            | Kind::Interpolation
            | Kind::Group
            | Kind::Binary
            | Kind::Logical => {
                open.extend(node.children());
            }
            Kind::Conditional => open.extend([Role::Value, Role::Else].into_iter().filter_map(|role| node.child(role))),
            _ => parts.push(node),
        }
    }
    parts
}

/// Whether a part holds no markup that somebody else wrote.
fn is_harmless(file: File<'_>, part: NodeRef<'_>) -> bool {
    const NUMBERS: &[&str] = &["Number", "parseInt", "parseFloat"];
    let word = file.node_text(part).to_ascii_lowercase();
    if is_literal(part) || ["escape", "sanitize", "encode", "purify"].iter().any(|mark| word.contains(mark)) {
        return true;
    }
    let name = part.child(Role::Name).map(|name| file.node_text(name));
    match part.kind() {
        Kind::Number | Kind::Boolean | Kind::Null | Kind::Unary | Kind::Update => true,
        Kind::Member => matches!(name, Some("length" | "size")),
        Kind::Call => part.child(Role::Callee).is_some_and(|callee| {
            let callee = file.node_text(callee);
            NUMBERS.contains(&callee) || callee.starts_with("Math.") || callee.ends_with(".toFixed")
        }),
        _ => false,
    }
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
