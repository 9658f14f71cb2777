use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::built::is_literal;

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "eval-call",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a string that is run as code",
    why: "Whoever controls the string decides what the program does.",
    silent: "For string literals, and in tests.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "price = eval(formula)\n", at: &["1:9"], fixed: None },
                Wrong { code: "exec(source, names)\n", at: &["1:1"], fixed: None },
            ],
            right: &["eval('1 + 2')\ndef eval(text): pass\neval(formula)\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "const price = eval(formula);\n", at: &["1:15"], fixed: None },
                Wrong { code: "const fare = new Function(\"day\", body);\n", at: &["1:14"], fixed: None },
            ],
            right: &["eval('1 + 2');\n"],
        },
    ],
    needs_names: true,
    check: Check::Named(&[Kind::Call, Kind::New], &["eval", "exec", "Function"], check),
};

fn check(context: &mut Context, call: NodeRef) {
    let file = context.file();
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name) else { return };
    let name = file.node_text(callee);
    // Each language has those that it has; the others are no builtins there.
    let runs = name == "Function" || matches!(name, "eval" | "exec") && call.kind() == Kind::Call;
    if !runs || file.is_test() || !context.names().is_builtin_at(callee.id()) {
        return;
    }
    let mut arguments = call.child(Role::Arguments).into_iter().flat_map(|all| all.children());
    let text = if name == "Function" { arguments.last() } else { arguments.next() };
    if text.is_some_and(|text| !is_literal(text) && !is_own_file(file, text)) {
        context
            .report(call.span(), format!("{name} runs a string as code"))
            .advice("parse the value that is wanted from the string, or look the function up by its name");
    }
}

/// Whether a script that sets a package up runs a file of the package: what it reads its version from.
fn is_own_file(file: File<'_>, text: NodeRef) -> bool {
    let reads =
        |node: NodeRef| node.child(Role::Callee).is_some_and(|callee| file.node_text(callee).ends_with(".read"));
    let is_setup = file.path.rsplit('/').next() == Some("setup.py");
    is_setup && std::iter::once(text).chain(text.descendants()).any(reads)
}
