use std::cell::OnceCell;

use rustc_hash::FxHashSet;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::expects_error;
use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::{is_steady, operator_between};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "pointless-statement",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "an expression that stands alone and does nothing",
    why: "Its value goes nowhere: a call, an assignment or a return is missing.",
    silent: "For members that do something when they are read, in tests, and where an error is expected.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "def count(total, boat):\n    total + boat.seats\n", at: &["2:5"], fixed: None },
                Wrong {
                    code: "def moor(boat):\n    boat.moor\n    boat.sail()\n    return boat.moor()\n",
                    at: &["2:5"],
                    fixed: None,
                },
            ],
            right: &[
                "def sail(mode):\n    if mode not in 'rw':\n        1 / 0\n",
                "def count(total, boat):\n    total += boat.seats\n    \"\"\"A text.\"\"\"\n    ...\n    boat.fares\n",
                "try:\n    boat.moor\nexcept AttributeError:\n    pass\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "function count(total, boat) {\n  total + boat.seats;\n}\n", at: &["2:3"], fixed: None },
                Wrong {
                    code: "function moor(boat) {\n  boat.moor;\n  return boat.moor();\n}\n",
                    at: &["2:3"],
                    fixed: None,
                },
            ],
            right: &[
                "'use strict';\nfunction moor(boat) {\n  boat.fares;\n  box.offsetWidth;\n  boat && boat.moor();\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::All(&[Kind::ExpressionStatement], check),
};

fn check(context: &mut Context, statements: &[NodeRef]) {
    let file = context.file();
    if file.is_test() || file.path.contains("bench") {
        return;
    }
    // Gathered once, if some statement is a member.
    let called = OnceCell::new();
    for value in statements.iter().filter_map(|statement| statement.child(Role::Value)) {
        let message = match value.kind() {
            Kind::Binary if computes(context, value) => "the result of this is not used",
            Kind::Member if is_steady(value) && !may_be_declared(file, value) => {
                if !called.get_or_init(|| called_members(file)).contains(file.node_text(value)) {
                    continue;
                }
                "this names a function, and does not call it"
            }
            _ => continue,
        };
        let is_tried = value.ancestors().any(|around| matches!(around.kind(), Kind::Try | Kind::With));
        if !is_tried && !expects_error(file, value) {
            context.report(value.span(), message).advice("call it, keep it, or remove the line");
        }
    }
}

/// The members that the file calls, as they are written.
fn called_members(file: File<'_>) -> FxHashSet<&str> {
    let callees = file.tree.nodes().filter(|node| node.kind() == Kind::Member && node.role() == Role::Callee);
    callees.map(|callee| file.node_text(callee)).collect()
}

/// Whether a member is named to describe it, outside of functions by a program, or is worked out when it is read.
fn may_be_declared(file: File<'_>, member: NodeRef) -> bool {
    let before = file.text.source()[..member.span().start as usize].trim_end();
    let in_function = member.ancestors().any(|around| around.kind().is_function());
    let object = member.child(Role::Object).map_or("", |object| file.node_text(object));
    before.ends_with("*/") || !in_function || matches!(object, "self" | "this" | "cls")
}

/// Whether an expression only calculates: nothing in it is called, and the operator is one of numbers and strings.
fn computes(context: &Context, value: NodeRef) -> bool {
    let file = context.file();
    let (Some(left), Some(right)) = (value.child(Role::Left), value.child(Role::Right)) else { return false };
    let sign = operator_between(file, left, right).map(|(_, sign)| sign);
    // Who divides by zero wants the error.
    let fails = sign == Some("/") && right.kind() == Kind::Number && file.node_text(right) == "0";
    sign.is_some_and(|sign| matches!(sign, "+" | "-" | "*" | "/"))
        && !fails
        && is_steady(value)
        && !matches!(left.kind(), Kind::String)
}
