use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "caught-non-error",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "a handler for something that is no class of errors",
    why: "The handler does not catch what it seems to: an expression is evaluated first, and a value that is no class fails when an error comes.",
    silent: "For names and calls, whose value is not known.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong {
                code: "try:\n    sail()\nexcept (OSError or ValueError):\n    moor()\n",
                at: &["3:9"],
                fixed: None,
            },
            Wrong { code: "try:\n    sail()\nexcept \"OSError\":\n    moor()\n", at: &["3:8"], fixed: None },
        ],
        right: &["try:\n    sail()\nexcept (OSError, ValueError):\n    moor()\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Catch], check),
};

fn check(context: &mut Context, handler: NodeRef) {
    let Some(mut caught) = handler.child(Role::Exception) else { return };
    while caught.kind() == Kind::Group {
        let Some(inner) = caught.child(Role::Value) else { return };
        caught = inner;
    }
    match caught.kind() {
        Kind::Logical => {
            context
                .report(caught.span(), "only one of these is caught: the expression is evaluated first")
                .advice("list the classes with commas between them");
        }
        Kind::String | Kind::Number | Kind::Null | Kind::List | Kind::Boolean => {
            context
                .report(caught.span(), "this is no class of errors, and catching it fails")
                .advice("name the class, or several in parentheses");
        }
        _ => {}
    }
}
