use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "local-import",
    concern: Concern::Boundary,
    mesh: Mesh::Fine,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "an import inside a function",
    why: "A file's dependencies should be visible at its top; an import inside a function runs at each call, and fails only then.",
    silent: "No mesh catches this rule: it is on only where settings or the command name it. Where the import is in a block that handles its failure.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong { code: "def depth():\n    import tides\n    return tides.depth\n", at: &["2:5"], fixed: None }],
        right: &[
            "import tides\n",
            "def depth():\n    try:\n        import tides\n    except ImportError:\n        return 0\n    return tides.depth\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Import], check),
};

fn check(context: &mut Context, import: NodeRef) {
    let mut around = import.ancestors();
    let holder = around.find(|node| node.kind().is_function() || node.kind() == Kind::Try);
    if holder.is_some_and(|holder| holder.kind().is_function()) {
        context.report(import.span(), "this import is in a function").advice("move it to the top of the file");
    }
}
