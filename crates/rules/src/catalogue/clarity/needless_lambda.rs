use sieve_meaning::names::{Resolution, ScopeKind};
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
    what: "a lambda that only passes its parameters on to another function",
    why: "The other function could be used directly.",
    silent: "Names that are local to a function, bound several times or bound further down may be something else when the lambda is called. Methods would be looked up earlier, and members of a class are called differently. Tests are left alone.",
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
            "key = lambda quay: depth(quay)\n\n\ndef depth(quay):\n    return quay.depth\n",
            "def depth(quay):\n    return 1\n\n\nkey = lambda quay: depth(quay)\ndepth = deep(depth)\n",
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
    let left_alone =
        context.file().is_test() || own_name || may_differ(context, callee, function) || becomes_member(function);
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

/// Whether the name may be something else, or nothing yet, when the lambda is made: it is local, bound several times, or bound later.
fn may_differ(context: &Context, name: NodeRef, lambda: NodeRef) -> bool {
    let names = context.names();
    let id = match names.resolution_at(name.id()) {
        Some(Resolution::Binding(id)) => id,
        Some(Resolution::Builtin) => return false,
        _ => return true,
    };
    let binding = names.binding(id);
    let [only] = binding.declarations.as_slice() else { return true };
    let is_later = context.file().tree.node(only.node).span().start > lambda.span().start;
    let runs_at_once = !lambda.ancestors().any(|around| around.kind().is_function());
    names.scope(binding.scope).kind != ScopeKind::File || is_later && runs_at_once
}
