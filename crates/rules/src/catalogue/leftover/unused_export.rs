use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, ReexportedName, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unused-export",
    concern: Concern::Leftover,
    mesh: Mesh::Fine,
    level: Level::Warning,
    certainty: Certainty::Guess,
    languages: Language::OF_JAVASCRIPT,
    fix: None,
    what: "an export that no other file mentions",
    why: "Nobody sees that it can go: people who change it search for uses that do not exist.",
    silent: "It is a guess, which runs only where it is enabled by name: frameworks find much by its name. For what a file exports by default, for packages that others install, and wherever another file of the project mentions the name, in whatever sense.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::TypeScript,
        wrong: &[Wrong {
            code: "export function lowest(tides: number[]) {\n  return Math.min(...tides);\n}\n",
            at: &["1:17"],
            fixed: None,
        }],
        right: &["export default function lowest() {}\n", "function lowest() {}\nlowest();\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Export], check),
};

fn check(context: &mut Context, export: NodeRef) {
    let file = context.file();
    let head = file.node_text(export).trim_start_matches("export").trim_start();
    let is_entry = file.name().starts_with("index.")
        || file.name().contains(".config.")
        || file.name().contains(".d.")
        || file.is_test();
    if head.starts_with("default") || is_entry || export.child(Role::Module).is_some() {
        return;
    }
    for name in export.children_in(Role::Value).flat_map(declared) {
        let text = file.node_text(name);
        let message = format!("no other file mentions \"{text}\"");
        let anywhere =
            ReexportedName { module: String::new(), name: text.to_string(), group: name.id().0, is_public: false };
        context.report(name.span(), message).advice("do not export it, or remove it").unless_used(Some(anywhere));
    }
}

fn declared(declaration: NodeRef) -> Vec<NodeRef> {
    match declaration.kind() {
        Kind::Declaration => declaration
            .children_in(Role::Item)
            .filter_map(|item| item.child(Role::Target))
            .filter(|target| target.kind() == Kind::Name)
            .collect(),
        kind if kind.is_statement() => declaration.child(Role::Name).into_iter().collect(),
        _ => Vec::new(),
    }
}
