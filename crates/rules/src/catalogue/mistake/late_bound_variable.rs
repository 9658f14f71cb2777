use std::cell::OnceCell;

use rustc_hash::FxHashMap;
use sieve_meaning::names::Resolution;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::inside::inside;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::interface::{File, word_hash};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "late-bound-variable",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Python],
    fix: None,
    what: "a function made in a loop that uses the variable of the loop when it is called",
    why: "All functions of the loop see the value of its last round.",
    silent: "For functions that are called at once or given to what calls them at once, and where the loop ends after it.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong {
                code: "made = []\nfor boat in boats:\n    made.append(lambda: boat)\n",
                at: &["3:25"],
                fixed: None,
            },
            Wrong {
                code: "made = {}\nfor boat in boats:\n    def moor():\n        return boat\n    made[boat] = moor\n",
                at: &["4:16"],
                fixed: None,
            },
        ],
        right: &[
            "made = []\nfor boat in boats:\n    made.append(lambda boat=boat: boat)\n",
            "for boat in boats:\n    sorted(quays, key=lambda quay: quay - boat)\n",
            "for boat in boats:\n    return lambda: boat\n",
            "for boat in boats:\n    def moor():\n        return boat\n    moor()\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::For], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let (Some(target), Some(body)) = (node.child(Role::Target), node.child(Role::Body)) else { return };
    let names = context.names();
    let file = context.file();
    let bound: Vec<&str> = std::iter::once(target)
        .chain(target.descendants())
        .filter(|part| part.kind() == Kind::Name)
        .map(|part| file.node_text(part))
        .collect();
    // Asked once, if some function is kept.
    let leaves = OnceCell::new();
    let leaves = || *leaves.get_or_init(|| is_left(body));
    let kept = OnceCell::new();
    let kept = || kept.get_or_init(|| kept_names(file, body));
    let mut told = body.id();
    for function in body.descendants().filter(|inner| inner.kind().is_function()) {
        if function.id() < told || !is_kept(file, function, kept) || leaves() {
            continue;
        }
        let parameters = function.child(Role::Parameters);
        let late = names.references_in(function.id()..function.end()).find(|reference| {
            let in_parameters = parameters.is_some_and(|parameters| parameters.holds(reference.node));
            let Resolution::Binding(id) = reference.resolution else { return false };
            let of_loop =
                names.binding(id).declarations.iter().any(|one| target.id() <= one.node && one.node < target.end());
            !in_parameters && of_loop && bound.contains(&names.text(reference.name))
        });
        if let Some(late) = late {
            told = function.end();
            let name = names.text(late.name);
            context
                .report(late.span, format!("\"{name}\" has the value of the last round when this is called"))
                .advice(format!("give it to the function as a default: `{name}={name}`"));
        }
    }
}

/// Whether a function outlives the round: it is put into a collection or under a key that is there after the loop.
fn is_kept<'k>(file: File<'_>, function: NodeRef, kept: impl FnOnce() -> &'k FxHashMap<u64, NodeId>) -> bool {
    if function.kind() == Kind::Lambda {
        return is_kept_value(file, function);
    }
    let Some(name) = function.child(Role::Name).map(|name| file.node_text(name)) else { return false };
    function.children_in(Role::Decorator).next().is_none()
        && kept().get(&word_hash(name)).is_some_and(|last| *last >= function.end())
}

/// The names that a loop puts where they outlive the round, by their hashes, each with its last place.
fn kept_names(file: File<'_>, body: NodeRef) -> FxHashMap<u64, NodeId> {
    let names = body.descendants().filter(|node| node.kind() == Kind::Name && node.role() != Role::Name);
    let kept = names.filter(|name| is_kept_value(file, *name));
    kept.map(|name| (word_hash(file.node_text(name)), name.id())).collect()
}

fn is_kept_value(file: File<'_>, value: NodeRef) -> bool {
    // `made.append(lambda: …)`, `made[key] = lambda: …`
    let Some(holder) = value.parent() else { return false };
    let appended = || {
        let callee =
            holder.parent().and_then(|call| call.child(Role::Callee)).filter(|callee| callee.kind() == Kind::Member);
        let method = callee.and_then(|callee| callee.child(Role::Name)).map(|name| file.node_text(name));
        matches!(method, Some("append" | "add" | "insert" | "setdefault"))
    };
    match holder.kind() {
        Kind::Arguments => appended(),
        Kind::Assignment => {
            value.role() == Role::Value
                && holder.child(Role::Target).is_some_and(|target| target.kind() == Kind::Subscript)
        }
        _ => false,
    }
}

/// Whether a loop ends early, so that there may be one round only.
fn is_left(body: NodeRef) -> bool {
    inside(body, Kind::is_function).any(|node| matches!(node.kind(), Kind::Return | Kind::Break))
}
