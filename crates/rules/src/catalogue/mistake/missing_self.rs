use rustc_hash::FxHashSet;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::interface::{File, word_hash};

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
    let is_special = text == "__new__" || text == "__init_subclass__" || text == "__class_getitem__";
    if !is_special
        && file.tree.faults().is_empty()
        && file.once_at(class, || IsPlain(is_plain(file, class))).0
        && !file.once_at(class, || NamesUsed(names_used(file, class))).0.contains(&word_hash(text))
    {
        context
            .report(name.span(), format!("{text} takes no argument, but Python gives it the object"))
            .advice("take `self`, or make it a static method");
    }
}

/// Whether nobody else has a say in what happens to the methods of a class.
struct IsPlain(bool);

fn is_plain(file: File<'_>, class: NodeRef) -> bool {
    let is_plain = |base: NodeRef| matches!(file.node_text(base), "object" | "ABC" | "abc.ABC");
    class.children_in(Role::Decorator).next().is_none()
        && class.child(Role::Arguments).is_none_or(|bases| bases.children().all(is_plain))
}

/// Hashes of the names that a class uses: it may call its functions while it is made, or wrap them.
struct NamesUsed(FxHashSet<u64>);

fn names_used(file: File<'_>, class: NodeRef) -> FxHashSet<u64> {
    let inner = class.child(Role::Body).into_iter().flat_map(|body| body.descendants());
    let names = inner.filter(|node| node.kind() == Kind::Name && node.role() != Role::Name);
    names.map(|name| word_hash(file.node_text(name))).collect()
}
