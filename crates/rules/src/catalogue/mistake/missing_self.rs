use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-self",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "a method that takes no argument, not even its object",
    why: "Calling it on an object fails: Python gives the object as the first argument.",
    silent: "For static methods, for decorated ones, and in interfaces, which leave the object out.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong { code: "class Boat:\n    def sail():\n        return 1\n", at: &["2:9"], fixed: None }],
        right: &[
            "class Boat:\n    @staticmethod\n    def sail():\n        return 1\n\n    def moor(*ropes):\n        return 1\n",
            "class IBoat(Interface):\n    def sail():\n        pass\n",
            "class Boat:\n    def make():\n        return 1\n\n    depth = make()\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Function], check),
};

fn check(context: &mut Context, function: NodeRef) {
    let file = context.file();
    let (Some(name), Some(parameters)) = (function.child(Role::Name), function.child(Role::Parameters)) else { return };
    let Some(class) = function.class_around().filter(|class| class.child(Role::Body) == function.parent()) else {
        return;
    };
    if parameters.child(Role::Parameter).is_some() || function.children_in(Role::Decorator).next().is_some() {
        return;
    }
    let text = file.node_text(name);
    // The class may call it while it is made, or wrap it.
    let is_used = || {
        let body = class.child(Role::Body);
        body.is_some_and(|body| {
            body.descendants().any(|node| {
                node.kind() == Kind::Name && node != name && node.role() != Role::Name && file.node_text(node) == text
            })
        })
    };
    let is_plain = |base: NodeRef| matches!(file.node_text(base), "object" | "ABC" | "abc.ABC");
    let has_bases = class.child(Role::Arguments).is_some_and(|bases| !bases.children().all(is_plain));
    let is_special = text == "__new__" || text == "__init_subclass__" || text == "__class_getitem__";
    if !has_bases
        && class.children_in(Role::Decorator).next().is_none()
        && !is_special
        && !is_used()
        && file.tree.faults().is_empty()
    {
        context
            .report(name.span(), format!("{text} takes no argument, but Python gives it the object"))
            .advice("take `self`, or make it a static method");
    }
}
