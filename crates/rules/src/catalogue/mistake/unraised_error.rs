use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unraised-error",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: Some(FixKind::Review),
    what: "an error that is created and not raised",
    why: "The line creates the error and discards it: the program continues as if nothing were wrong.",
    silent: "For the program's own errors, and where the error is stored.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong {
            code: "if depth < 2:\n    ValueError('too low')\n",
            at: &["2:5"],
            fixed: Some("if depth < 2:\n    raise ValueError('too low')\n"),
        }],
        right: &["raise ValueError('too low')\n", "error = ValueError('too low')\n", "ValueError\n"],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::ExpressionStatement], check),
};

fn check(context: &mut Context, statement: NodeRef) {
    let Some(call) = statement.child(Role::Value).filter(|value| value.kind() == Kind::Call) else { return };
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name) else { return };
    let name = context.text(callee);
    let is_error =
        name.ends_with("Error") || matches!(name, "Exception" | "SystemExit" | "KeyboardInterrupt" | "StopIteration");
    if !is_error || !context.names().is_builtin_at(callee.id()) || context.file().is_test() {
        return;
    }
    context
        .report(call.span(), format!("this {name} is created and not raised"))
        .advice("raise it")
        .fix_to_review(Some(vec![Edit::insert(call.span().start, "raise ")]));
}
