use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::face::only_imports;
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
    why: "Neither readers nor tools see which names are imported, and a new name in the module can replace one of this file.",
    silent: "In `__init__.py` and other files that do nothing but import, which re-export names, in stubs, and in tests.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong { code: "from tides import *\n\nprint(low)\n", at: &["1:19"], fixed: None }],
        right: &["from tides import depth\n", "import tides\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::ImportAll], check),
};

fn check(context: &mut Context, star: NodeRef) {
    let file = context.file();
    if file.name() == "__init__.py" || file.only_describes() || file.is_test() || only_imports(file) {
        return;
    }
    let module =
        star.parent().and_then(|import| import.child_at_end(Role::Module)).map_or("", |module| file.node_text(module));
    // A module that is the face of another, with the same name or a private one, re-exports what that has.
    let last = module.rsplit('.').next().unwrap_or_default();
    if last.trim_start_matches('_') == file.module_name() || last.starts_with('_') {
        return;
    }
    context
        .report(star.span(), format!("every name of {module} is imported, and nothing shows which are used"))
        .advice("list the names that are used");
}
