use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "wildcard-import",
    concern: Concern::Boundary,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "an import of every name that a module has",
    why: "Nobody sees which names come in, readers and tools alike; and a new name in the module can take the place of one that is here.",
    silent: "In files that are the face of a package (`__init__.py`), and in tests.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong { code: "from tides import *\n", at: &["1:19"], fixed: None }],
        right: &["from tides import depth\n", "import tides\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::ImportAll], check),
};

fn check(context: &mut Context, star: NodeRef) {
    let file = context.file();
    if file.name() == "__init__.py" || file.is_test() {
        return;
    }
    let module =
        star.parent().and_then(|import| import.child(Role::Module)).map_or("", |module| file.node_text(module));
    // A module that is the face of another, with the same name or a private one, hands on what that has.
    let last = module.rsplit('.').next().unwrap_or_default();
    if last.trim_start_matches('_') == file.module_name() || last.starts_with('_') {
        return;
    }
    context
        .report(star.span(), format!("every name of {module} comes in, and nobody sees which"))
        .advice("name those that are used");
}
