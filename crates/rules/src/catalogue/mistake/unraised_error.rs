use sieve_meaning::declared::class_of;
use sieve_meaning::names::Resolution;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unraised-error",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: Some(FixKind::Review),
    what: "an error that is created and not raised",
    why: "The line creates the error and discards it: the program continues as if nothing were wrong.",
    silent: "For errors of the program that are defined in other files, and where the error is stored.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "if depth < 2:\n    ValueError('too low')\n",
                at: &["2:5"],
                fixed: Some("if depth < 2:\n    raise ValueError('too low')\n"),
            }],
            right: &["raise ValueError('too low')\n", "error = ValueError('too low')\n", "ValueError\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "if (depth < 2) {\n  new Error('too low');\n}\n",
                    at: &["2:3"],
                    fixed: Some("if (depth < 2) {\n  throw new Error('too low');\n}\n"),
                },
                Wrong {
                    code: "class TideError extends Error {}\n\nnew TideError('too low');\n",
                    at: &["3:1"],
                    fixed: Some("class TideError extends Error {}\n\nthrow new TideError('too low');\n"),
                },
            ],
            right: &["throw new Error('too low');\n", "const error = new Error('too low');\n"],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::ExpressionStatement], check),
};

fn check(context: &mut Context, statement: NodeRef) {
    let is_made = |value: &NodeRef| matches!(value.kind(), Kind::Call | Kind::New);
    let Some(call) = statement.child(Role::Value).filter(is_made) else { return };
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name) else { return };
    let name = context.text(callee);
    let is_error =
        name.ends_with("Error") || matches!(name, "Exception" | "SystemExit" | "KeyboardInterrupt" | "StopIteration");
    let is_own = || is_error_class(context, callee);
    let is_known = context.names().is_builtin_at(callee.id()) || is_own();
    if !is_error || !is_known || context.file().is_test() {
        return;
    }
    let word = if context.file().traits.word_operators { "raise" } else { "throw" };
    let done = if word == "raise" { "raised" } else { "thrown" };
    context
        .report(call.span(), format!("this {name} is created and not {done}"))
        .advice(format!("{word} it"))
        .fix_to_review(Some(vec![Edit::insert(call.span().start, format!("{word} "))]));
}

/// Whether a class of the file is built on an error of the language.
fn is_error_class(context: &Context, name: NodeRef) -> bool {
    let names = context.names();
    let mut class = name;
    // A chain of bases is short, and may go round in code that is wrong.
    for _ in 0..8 {
        if !matches!(names.resolution_at(class.id()), Some(Resolution::Binding(_))) {
            return names.is_builtin_at(class.id()) && context.text(class).ends_with("Error")
                || context.text(class) == "Exception";
        }
        let bases = class_of(names, class).and_then(|class| class.child(Role::Arguments));
        let Some(base) = bases.and_then(|bases| bases.children().next()) else { return false };
        class = base.child(Role::Value).unwrap_or(base);
    }
    false
}
