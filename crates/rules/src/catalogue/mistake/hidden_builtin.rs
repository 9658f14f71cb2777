use sieve_meaning::names::{Declaration, DeclarationKind, Resolution};
use sieve_meaning::python_builtins;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "hidden-builtin",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "a call of a variable that has the name of a builtin",
    why: "The name means the variable now, which is a plain value: the call fails.",
    silent: "Where the variable may hold a function.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong {
                code: "def seats(boats):\n    list = [1, 2]\n    return list(boats)\n",
                at: &["3:12"],
                fixed: None,
            },
            Wrong { code: "def seats(boats):\n    max = 3\n    return max(boats)\n", at: &["3:12"], fixed: None },
        ],
        right: &[
            "def seats(boats):\n    list = make_list\n    return list(boats)\n",
            "def seats(boats, max):\n    return max(boats)\n",
            "def seats(boats):\n    names = list(boats)\n    return names\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::Call], check),
};

fn check(context: &mut Context, call: NodeRef) {
    let Some(callee) = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name) else { return };
    let name = context.text(callee);
    if !python_builtins::exists(name) {
        return;
    }
    let names = context.names();
    let Some(Resolution::Binding(id)) = names.resolution_at(callee.id()) else { return };
    let binding = names.binding(id);
    let tree = context.file().tree;
    let is_value = |declaration: &Declaration| {
        let holder = tree.node(declaration.node).parent();
        let value =
            holder.filter(|_| declaration.kind == DeclarationKind::Assignment).and_then(|it| it.child(Role::Value));
        value.is_some_and(|value| is_plain(context, value))
    };
    let Some(first) = binding.declarations.first() else { return };
    if binding.declarations.iter().all(is_value) {
        let line = context.line(tree.node(first.node).span().start);
        context
            .report(callee.span(), format!("\"{name}\" is the value of line {line} here, and no function"))
            .advice("give the variable another name")
            .related(tree.node(first.node).span(), "the variable");
    }
}

/// Whether a value is no function for sure.
fn is_plain(context: &Context, value: NodeRef) -> bool {
    match value.kind() {
        Kind::List
        | Kind::Dictionary
        | Kind::Set
        | Kind::Tuple
        | Kind::Number
        | Kind::String
        | Kind::FormatString
        | Kind::Boolean
        | Kind::Comprehension
        | Kind::Null => true,
        Kind::Binary | Kind::Comparison => true,
        // A method with the name of a collection's gives one.
        Kind::Call => {
            let name =
                value.child(Role::Callee).and_then(|callee| callee.child(Role::Name)).map(|name| context.text(name));
            matches!(
                name,
                Some(
                    "split"
                        | "keys"
                        | "values"
                        | "items"
                        | "names"
                        | "strip"
                        | "lower"
                        | "join"
                        | "count"
                        | "index"
                        | "readlines"
                )
            )
        }
        _ => false,
    }
}
