use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "ignored-result",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a call of a function without effects, whose result is ignored",
    why: "Such a function only returns a result, so the line does nothing. Most often the call was expected to change its object.",
    silent: "For functions of the project that no comment `sieve: pure` marks, wherever they are, and for those of other packages.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "# sieve: pure\ndef fare(day):\n    return 4\nfare(2)\n", at: &["4:1"], fixed: None },
                Wrong { code: "quays = [3, 1]\nsorted(quays)\n", at: &["2:1"], fixed: None },
                Wrong { code: "def head(name):\n    '-'.join(name)\n    return name\n", at: &["2:5"], fixed: None },
            ],
            right: &[
                "# sieve: pure\ndef fare(day):\n    return 4\nprice = fare(2)\n",
                "try:\n    len(boats)\nexcept TypeError:\n    pass\n",
                "def fare(day):\n    return 4\nfare(2)\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "// sieve: pure\nfunction fare(day) {\n  return 4;\n}\nfare(2);\n",
                    at: &["5:1"],
                    fixed: None,
                },
                Wrong { code: "Math.max(1, tide);\n", at: &["1:1"], fixed: None },
            ],
            right: &["// sieve: pure\nconst fare = (day) => 4;\nconst price = fare(2);\n"],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::ExpressionStatement], check),
};

/// Functions of Python that do nothing but give a result. Others like `len` and `list` may be called to go over what they are given, or to
/// ask whether they can.
const PURE: &[&str] = &["enumerate", "isinstance", "issubclass", "reversed", "sorted", "zip"];

/// Functions of `Math` do nothing but give a result; so do these.
const PURE_MEMBERS: &[&str] =
    &["Object.keys", "Object.values", "Object.entries", "Array.isArray", "Number.isNaN", "Number.isInteger"];

/// What strings give that are made from others.
const OF_TEXT: &[&str] = &[
    "join",
    "format",
    "strip",
    "lstrip",
    "rstrip",
    "upper",
    "lower",
    "replace",
    "split",
    "title",
    "trim",
    "concat",
    "toUpperCase",
    "toLowerCase",
    "padStart",
    "padEnd",
    "slice",
    "repeat",
    "startswith",
    "endswith",
];

fn check(context: &mut Context, statement: NodeRef) {
    let Some(call) = statement.child(Role::Value).filter(|value| value.kind() == Kind::Call) else { return };
    let Some(callee) = call.child(Role::Callee) else { return };
    let name = context.text(callee);
    let known = context.file().calls.and_then(|calls| calls.callee(call)).filter(|callee| callee.is_pure);
    let is_pure = match callee.kind() {
        Kind::Name => context.names().is_builtin_at(callee.id()) && PURE.contains(&name),
        Kind::Member => {
            let object = callee.child(Role::Object);
            let on_text = object.is_some_and(|object| object.kind() == Kind::String);
            let method = callee.child(Role::Name).map_or("", |name| context.text(name));
            let of_platform = || context.file().outside(callee).is_some_and(|found| found.module.is_empty());
            on_text && OF_TEXT.contains(&method)
                || (name.starts_with("Math.") || PURE_MEMBERS.contains(&name)) && of_platform()
        }
        _ => false,
    };
    // Tests call such functions to see that they do no harm.
    if known.is_none() && (!is_pure || context.file().is_test()) || is_tried(call) {
        return;
    }
    let advice =
        if known.is_some() { "use its result, or remove the call" } else { "use its result, or remove the line" };
    context.report(call.span(), format!("{name} has no effect but its result, which is not used")).advice(advice);
}

/// Whether errors are expected: the call may be there to raise one.
fn is_tried(call: NodeRef) -> bool {
    let mut inner = call;
    for around in call.ancestors().take_while(|around| !around.kind().is_function()) {
        if around.kind() == Kind::With || around.kind() == Kind::Try && inner.role() == Role::Body {
            return true;
        }
        inner = around;
    }
    false
}
