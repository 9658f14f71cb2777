use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::components::uses_library;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "keyless-element",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::JavaScript, Language::Tsx],
    fix: None,
    what: "an element of a list that has no key",
    why: "When the list changes, the library cannot tell which element is which: what users typed moves to another row.",
    silent: "In files that import no library whose components are functions, where attributes are spread, and where the elements are counted, keyed or spread by what takes them.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[Wrong {
            code: "import { memo } from 'react';\n\nexport const Board = memo(({ quays }) => <ul>{quays.map(quay => <li>{quay}</li>)}</ul>);\n",
            at: &["3:65"],
            fixed: None,
        }],
        right: &[
            "import { memo } from 'react';\n\nexport const Board = memo(({ quays }) => <ul>{quays.map(quay => <li key={quay}>{quay}</li>)}</ul>);\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::Element], check),
};

fn check(context: &mut Context, element: NodeRef) {
    let file = context.file();
    let Some(start) = element.child(Role::Start).filter(|_| element.role() != Role::Child) else { return };
    let has_key = start.children_in(Role::Attribute).any(|attribute| {
        let name = attribute.child(Role::Name).map(|name| file.node_text(name));
        attribute.kind() == Kind::Spread || name.is_none_or(|name| name == "key")
    });
    let Some(call) = call_around(element).filter(|_| !has_key && uses_library(file) && !file.is_test()) else { return };
    if is_mapped(context, call) {
        context
            .report(start.span(), "this element of a list has no key")
            .advice("give it a key that stays with what it shows");
    }
}

/// The call whose callback gives an element for each thing that it is called with.
fn call_around(element: NodeRef<'_>) -> Option<NodeRef<'_>> {
    let mut inner = element;
    for around in element.ancestors() {
        let gives = match around.kind() {
            Kind::Group => true,
            Kind::Logical => around.children_in(Role::Operand).last() == Some(inner),
            Kind::Conditional => inner.role() != Role::Condition,
            Kind::Return | Kind::Block => true,
            Kind::If => inner.role() != Role::Condition,
            Kind::Lambda | Kind::Function => {
                let arguments = around.parent().filter(|arguments| arguments.kind() == Kind::Arguments)?;
                return arguments.parent().filter(|call| call.kind() == Kind::Call);
            }
            _ => false,
        };
        if !gives {
            return None;
        }
        inner = around;
    }
    None
}

/// Whether a call makes a list of what a callback gives, which is then drawn or kept as it is.
fn is_mapped(context: &Context, call: NodeRef) -> bool {
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member) else { return false };
    let method = callee.child(Role::Name).map_or("", |name| context.text(name));
    let object = callee.child(Role::Object).map_or("", |object| context.text(object));
    // The children of an element get keys by themselves.
    let is_list =
        matches!(method, "map" | "flatMap") && !object.ends_with("Children") || (object, method) == ("Array", "from");
    let is_taken =
        call.parent().is_some_and(|around| matches!(around.kind(), Kind::Spread | Kind::Arguments | Kind::Member));
    is_list && !is_taken
}
