use sieve_meaning::names::Resolution;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::components::is_component;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "state-while-drawing",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Probable,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx],
    fix: None,
    what: "a component that sets its own state each time it is drawn",
    why: "Setting the state draws the component again, which sets the state again: it never ends.",
    silent: "Under a condition, which may end it, and in functions that run later.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[Wrong {
            code: "import { useState } from 'react';\n\nexport function Board({ quay }) {\n  const [tide, setTide] = useState(0);\n  setTide(quay.tide);\n  return tide;\n}\n",
            at: &["5:3"],
            fixed: None,
        }],
        right: &[
            "import { useState } from 'react';\n\nexport function Board({ quay }) {\n  const [tide, setTide] = useState(0);\n  if (tide !== quay.tide) setTide(quay.tide);\n  return quay.watch(() => setTide(1));\n}\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::ExpressionStatement], check),
};

/// What gives a state and the function that sets it.
const STATES: &[&str] = &[
    "react.useState",
    "react.useReducer",
    "preact/hooks.useState",
    "preact/hooks.useReducer",
    "preact/compat.useState",
    "preact/compat.useReducer",
];

fn check(context: &mut Context, statement: NodeRef) {
    let Some(call) = statement.child(Role::Value).filter(|value| value.kind() == Kind::Call) else { return };
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name) else { return };
    let function = statement.parent().filter(|block| block.kind() == Kind::Block).and_then(|block| block.parent());
    let Some(function) = function.filter(|function| function.kind().is_function()) else { return };
    if sets_state(context, callee) && is_component(context.file(), function) {
        context
            .report(call.span(), format!("{} is called each time the component is drawn", context.text(callee)))
            .advice("call it where something happens, or in an effect");
    }
}

/// Whether a name is the second of those that a state is unpacked into.
fn sets_state(context: &Context, name: NodeRef) -> bool {
    let names = context.names();
    let Some(Resolution::Binding(id)) = names.resolution_at(name.id()) else { return false };
    let [only] = names.binding(id).declarations.as_slice() else { return false };
    let bound = name.tree().node(only.node);
    let Some(pattern) = bound.parent().filter(|pattern| pattern.kind() == Kind::CapturePattern) else { return false };
    let Some(list) = pattern.parent().filter(|list| list.kind() == Kind::SequencePattern) else { return false };
    if list.children().nth(1) != Some(pattern) {
        return false;
    }
    let value = list.parent().and_then(|assignment| assignment.child(Role::Value));
    let state = value.filter(|value| value.kind() == Kind::Call).and_then(|call| call.child(Role::Callee));
    state.is_some_and(|callee| context.file().refers_to(callee, STATES).is_some())
}
