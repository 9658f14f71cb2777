use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "raised-non-error",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "something that is raised and is no error",
    why: "Raising it raises a TypeError instead: a handler for the intended error does not catch it.",
    silent: "For values whose kind is not known from the place itself.",
    standards: &["The Python Language Reference 3.14, section 7.8"],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "raise NotImplemented\n", at: &["1:7"], fixed: None },
            Wrong { code: "raise \"no wind\"\n", at: &["1:7"], fixed: None },
            Wrong { code: "raise NotImplemented(\"tide\")\n", at: &["1:7"], fixed: None },
        ],
        right: &["raise NotImplementedError\nraise error\nraise OSError(\"no wind\")\n"],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::Throw], check),
};

fn check(context: &mut Context, throw: NodeRef) {
    let Some(raised) = throw.child(Role::Exception) else { return };
    let thing = raised.child_of(Kind::Call, Role::Callee).unwrap_or(raised);
    let what = match thing.kind() {
        Kind::String | Kind::FormatString | Kind::Bytes | Kind::Concatenation => "a string",
        Kind::Number => "a number",
        Kind::Null => "None",
        Kind::List | Kind::Dictionary | Kind::Set => "a collection",
        Kind::Name if context.text(thing) == "NotImplemented" && context.names().is_builtin_at(thing.id()) => {
            context
                .report(raised.span(), "NotImplemented is a value for operators, and no error")
                .advice("raise NotImplementedError");
            return;
        }
        _ => return,
    };
    if thing == raised && !context.file().is_test() {
        context.report(raised.span(), format!("{what} cannot be raised")).advice("raise an exception with it");
    }
}
