use sieve_meaning::project::words_before;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "returned-in-setter",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx],
    fix: None,
    what: "a setter that returns a value",
    why: "Nobody can get it: an assignment has the value that was assigned.",
    silent: "For returns without a value.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[Wrong {
            code: "class Boat {\n  set name(name) {\n    return name;\n  }\n}\n",
            at: &["3:5"],
            fixed: None,
        }],
        right: &[
            "class Boat {\n  set name(name) {\n    if (!name) return;\n    this.known = () => { return name; };\n  }\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Return], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let Some(value) = node.child(Role::Value) else { return };
    let Some(function) = node.ancestors().find(|around| around.kind().is_function()) else { return };
    if function.kind() != Kind::Function {
        return;
    }
    // An assignment or a call that is returned is a short way to end.
    let is_way_out = matches!(
        value.kind(),
        Kind::Assignment | Kind::Call | Kind::Unary | Kind::Conditional | Kind::Sequence | Kind::Logical
    );
    if words_before(file.text, function).last() == Some(&"set") && !is_way_out {
        context.report(node.span(), "a setter returns to nobody").advice("leave the value out");
    }
}
