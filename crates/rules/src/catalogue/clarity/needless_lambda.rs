use sieve_meaning::names::{Resolution, ScopeSort};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "needless-lambda",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: Some(FixKind::Review),
    what: "a function that only hands its parameters on to another one",
    why: "The other function could be used directly.",
    silent: "Functions that are bound within a function are left alone, since they may be bound again; so are methods, which would be looked up earlier, what becomes a member of a class, which is called otherwise, and tests.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong {
            code: "from quays import depth\n\nsorted(quays, key=lambda quay: depth(quay))\n",
            at: &["3:19"],
            fixed: Some("from quays import depth\n\nsorted(quays, key=depth)\n"),
        }],
        right: &[
            "key = lambda quay: quay.depth()\n",
            "f = lambda a, b: g(b, a)\nh = lambda a=1: g(a)\n",
            "def sail(g):\n    return lambda a: g(a)\n",
            "f = lambda x: g(x, 1)\n",
            "class Quay:\n    text = lambda self: str(self)\nQuay.size = lambda self: len(self)\n",
            "f = lambda *a: g(*a)\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::Lambda], check),
};

fn check(context: &mut Context, function: NodeRef) {
    let Some((parameters, call)) = function.child(Role::Parameters).zip(function.child(Role::Body)) else { return };
    let Some((callee, arguments)) = call.child(Role::Callee).zip(call.child(Role::Arguments)) else { return };
    if call.kind() != Kind::Call || callee.kind() != Kind::Name {
        return;
    }
    let given: Vec<NodeRef> = arguments.children().collect();
    let taken: Vec<NodeRef> = parameters.children().collect();
    let handed_on = given.len() == taken.len()
        && given.iter().zip(&taken).all(|(given, taken)| {
            let plain = taken.token_range().len() == 1 && given.kind() == Kind::Name;
            plain && context.text(*given) == context.text(*taken)
        });
    let own_name = taken.iter().any(|parameter| context.text(*parameter) == context.text(callee));
    let left_alone = context.file().is_test() || own_name || is_local(context, callee) || becomes_member(function);
    if !handed_on || taken.is_empty() || left_alone {
        return;
    }
    let name = context.text(callee);
    context
        .report(function.span(), format!("this function only calls \"{name}\""))
        .advice(format!("use \"{name}\" itself"))
        .fix_to_review(Some(vec![Edit::replace(function.span(), name)]));
}

/// Whether a function becomes a member of a class or an object: one that gets the object itself handed over.
fn becomes_member(function: NodeRef) -> bool {
    let assigned = function.parent().filter(|_| function.role() == Role::Value);
    assigned.is_some_and(|assignment| {
        let to_member = assignment.children_in(Role::Target).any(|target| target.kind() == Kind::Member);
        to_member || assignment.class_around().is_some()
    })
}

/// Whether a name is bound within a function.
fn is_local(context: &Context, name: NodeRef) -> bool {
    let names = context.names();
    match names.resolution_at(name.id()) {
        Some(Resolution::Binding(binding)) => names.scope(names.binding(binding).scope).sort != ScopeSort::File,
        Some(Resolution::Builtin) => false,
        _ => true,
    }
}
