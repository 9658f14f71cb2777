use sieve_meaning::names::{DeclarationKind, Resolution};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "constant-condition",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a condition whose result is constant",
    why: "One branch never runs. Most often a comparison or a call was meant, as in `if kind == 1 or 2`.",
    silent: "For `True`, `False`, `0` and `1`, which are manual switches, for a string that says why a loop goes on, and for values that are not in the code.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "if sort == 'north' or 'south':\n    moor()\n", at: &["1:23"], fixed: None },
                Wrong { code: "assert (depth > 2, 'too low')\n", at: &["1:8"], fixed: None },
                Wrong { code: "def is_low():\n    return True\nif is_low:\n    wait()\n", at: &["3:4"], fixed: None },
            ],
            right: &[
                "while True:\n    wait()\nif sort in ('north', 'south'):\n    moor()\n",
                "name = given or 'Tern'\n",
                "while \"no ferry yet\":\n    wait()\n",
                "def is_low():\n    return True\nif is_low():\n    wait()\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "if (sort === 'north' || 'south') moor();\n", at: &["1:25"], fixed: None },
                Wrong { code: "while ([]) wait();\n", at: &["1:8"], fixed: None },
            ],
            right: &["while (true) wait();\nconst name = given || 'Tern';\n"],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::If, Kind::While, Kind::DoWhile, Kind::Conditional, Kind::Assert], check),
};

fn check(context: &mut Context, node: NodeRef) {
    // `while "no tide yet":` goes on until it is left, and says why.
    let is_meant = |condition: &NodeRef| node.kind() == Kind::While && condition.kind() == Kind::String;
    if let Some(condition) = node.child(Role::Condition).filter(|condition| !is_meant(condition)) {
        look_into(context, condition, true);
    }
}

/// Looks into what a condition is joined from. `whole`: it alone decides.
fn look_into(context: &mut Context, condition: NodeRef, whole: bool) {
    match condition.kind() {
        Kind::Group => {
            if let Some(inner) = condition.child(Role::Value) {
                look_into(context, inner, whole);
            }
        }
        Kind::Logical => {
            for operand in condition.children_in(Role::Operand) {
                look_into(context, operand, false);
            }
        }
        _ => {
            if let Some((what, answer)) = constant(context, condition, whole) {
                context
                    .report(condition.span(), format!("{what} always {answer}"))
                    .advice("compare it with something, call it, or remove it");
            }
        }
    }
}

fn constant(context: &Context, node: NodeRef, whole: bool) -> Option<(String, &'static str)> {
    let file = context.file();
    let holds = |yes: bool| if yes { "holds" } else { "fails" };
    match node.kind() {
        Kind::String => {
            let text = file.language.string_value(file.node_text(node))?;
            // An empty string, alone, is a switch as well.
            (!text.is_empty()).then(|| ("this string".to_string(), "holds"))
        }
        Kind::Number => {
            let text = file.node_text(node);
            (!matches!(text, "0" | "1"))
                .then(|| ("this number".to_string(), holds(text.trim_matches(['0', '.']) != "")))
        }
        Kind::Tuple => Some(("this tuple".into(), holds(node.children().next().is_some()))),
        Kind::List | Kind::Dictionary if !file.traits.empty_is_false => Some(("an object".into(), "holds")),
        Kind::Lambda => Some(("a function".into(), "holds")),
        Kind::Name if whole => {
            let Some(Resolution::Binding(binding)) = context.names().resolution_at(node.id()) else { return None };
            let declarations = &context.names().binding(binding).declarations;
            let is_function = matches!(declarations.as_slice(), [only] if only.kind == DeclarationKind::Function);
            let has_body = || {
                let function = file.tree.node(declarations[0].node).parent();
                function.is_some_and(|function| {
                    function.kind() == Kind::Function
                        && function.child(Role::Decorator).is_none()
                        && is_unconditional(function)
                })
            };
            (is_function && has_body())
                .then(|| (format!("the function {} is not called, and", file.node_text(node)), "holds"))
        }
        _ => None,
    }
}

/// Whether a function is there whatever happens.
fn is_unconditional(function: NodeRef) -> bool {
    function
        .ancestors()
        .take_while(|around| !around.kind().is_function())
        .all(|around| matches!(around.kind(), Kind::File | Kind::Block | Kind::Export | Kind::Class))
}
