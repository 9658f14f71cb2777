use sieve_meaning::names::{DeclarationKind, Reference, Resolution};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "assigned-constant",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx],
    fix: None,
    what: "an assignment to a constant or to an import",
    why: "The assignment fails when the line is reached.",
    silent: "For members of the value, which may change.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[
            Wrong {
                code: "export function count() {\n  const total = 0;\n  total += 1;\n  return total;\n}\n",
                at: &["3:3"],
                fixed: None,
            },
            Wrong { code: "import { depth } from './tides';\n\ndepth = 3;\n", at: &["3:1"], fixed: None },
        ],
        right: &[
            "const quay = {};\nquay.depth = 3;\nlet total = 0;\ntotal += 1;\nfor (const boat of boats) console.log(boat);\n",
        ],
    }],
    needs_names: true,
    check: Check::References(check),
};

fn check(context: &mut Context, reference: &Reference) {
    let Resolution::Binding(id) = reference.resolution else { return };
    let names = context.names();
    let tree = context.file().tree;
    let node = tree.node(reference.node);
    let is_target = node.role() == Role::Target
        && node.parent().is_some_and(|parent| matches!(parent.kind(), Kind::Assignment | Kind::CompoundAssignment));
    let is_updated = node.parent().is_some_and(|parent| parent.kind() == Kind::Update);
    if !is_target && !is_updated {
        return;
    }
    let binding = names.binding(id);
    let [only] = binding.declarations.as_slice() else { return };
    let declared = tree.node(only.node);
    let what = match only.kind {
        DeclarationKind::Import if declared.kind() != Kind::ImportAssignment => "an import",
        DeclarationKind::Assignment if is_constant(declared) && declared.id() != node.id() => "a constant",
        _ => return,
    };
    let name = names.text(reference.name);
    context
        .report(reference.span, format!("\"{name}\" is {what}: assigning to it fails"))
        .advice("use another variable, or declare it with `let`")
        .related(declared.span(), "declared here");
}

/// Whether a name is declared with `const`.
fn is_constant(name: NodeRef) -> bool {
    let declaration = name.ancestors().find(|around| around.kind() == Kind::Declaration);
    declaration.is_some_and(|declaration| declaration.first_token_kind() == TokenKind::Const)
}
