use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::written_between;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "member-of-none",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a member of something that was just found to be nothing",
    why: "The test says that there is no value, and the next step needs one: it fails whenever the test holds.",
    silent: "Where the value is assigned between both.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "def name(boat):\n    if boat is None:\n        return boat.name\n    return 1\n",
                    at: &["3:16"],
                    fixed: None,
                },
                Wrong { code: "late = boat is None and boat.late\n", at: &["1:25"], fixed: None },
                Wrong { code: "late = boat is not None or boat.late\n", at: &["1:28"], fixed: None },
            ],
            right: &[
                "if boat is None:\n    names = [boat.name for boat in boats]\n",
                "if boat is None:\n    boat = Boat()\n    boat.sail()\nlate = boat is None or boat.late\nlate = boat is not None and boat.late\nif boat is None:\n    moor(lambda boat: boat.name)\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "if (boat === null) {\n  boat.moor();\n}\n", at: &["2:3"], fixed: None },
                Wrong { code: "const late = boat == null && boat.late;\n", at: &["1:30"], fixed: None },
            ],
            right: &[
                "if (boat === null) {\n  boat = make();\n  boat.moor();\n}\nconst late = boat == null || boat.late;\nconst name = boat === null && boat?.name;\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::If, Kind::Logical], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    if node.kind() == Kind::If {
        let (Some(condition), Some(body)) = (node.child(Role::Condition), node.child(Role::Body)) else { return };
        if let Some((name, true)) = tested(file, condition) {
            on_block(context, name, body);
        }
        return;
    }
    let operands: Vec<NodeRef> = node.children_in(Role::Operand).collect();
    for pair in operands.windows(2) {
        let Some((name, is_nothing)) = tested(file, pair[0]) else { continue };
        let between = written_between(file, pair[0], pair[1]);
        let goes_on_if_true = between.contains("and") || between.contains("&&");
        let member =
            std::iter::once(pair[1]).chain(pair[1].descendants()).find(|inner| is_member_of(file, *inner, name));
        let in_function = member.is_some_and(|member| {
            member.ancestors().take_while(|around| *around != node).any(|around| around.kind().is_function())
        });
        if let Some(member) =
            member.filter(|_| goes_on_if_true == is_nothing && !in_function && !is_guarded(file, pair[1], name))
        {
            report(context, member, name);
        }
    }
}

/// The name that a condition compares with nothing, and whether it holds where there is none.
fn tested<'t>(file: File<'_>, condition: NodeRef<'t>) -> Option<(NodeRef<'t>, bool)> {
    let mut condition = condition;
    while condition.kind() == Kind::Group {
        condition = condition.child(Role::Value)?;
    }
    let operands: Vec<NodeRef<'t>> = condition.children_in(Role::Operand).collect();
    let ([name, nothing], Kind::Comparison) = (operands.as_slice(), condition.kind()) else { return None };
    let is_nothing = nothing.kind() == Kind::Null || file.node_text(*nothing) == "undefined";
    if name.kind() != Kind::Name || !is_nothing {
        return None;
    }
    match written_between(file, *name, *nothing).split_whitespace().collect::<String>().as_str() {
        "is" | "==" | "===" => Some((*name, true)),
        "isnot" | "!=" | "!==" => Some((*name, false)),
        _ => None,
    }
}

/// The first step with the name in a block, unless it is given a value before, or the block asks again.
fn on_block(context: &mut Context, name: NodeRef, body: NodeRef) {
    let file = context.file();
    for node in std::iter::once(body).chain(body.descendants()) {
        let is_it = node.kind() == Kind::Name && file.node_text(node) == file.node_text(name);
        if node.kind().is_function() || is_it && matches!(node.role(), Role::Target | Role::Name | Role::Element) {
            return;
        }
        if is_member_of(file, node, name) {
            let asks_again = node.ancestors().take_while(|around| *around != body).any(|around| {
                matches!(
                    around.kind(),
                    Kind::If
                        | Kind::Conditional
                        | Kind::Logical
                        | Kind::Try
                        | Kind::While
                        | Kind::With
                        | Kind::Assignment
                        // Its loops may have a variable of that name.
                        | Kind::Comprehension
                ) && !is_value_of(node, around)
            });
            if !asks_again {
                report(context, node, name);
            }
            return;
        }
    }
}

/// Whether a node is in the value that an assignment gives to something else.
fn is_value_of(node: NodeRef, assignment: NodeRef) -> bool {
    assignment.kind() == Kind::Assignment
        && assignment.child(Role::Value).is_some_and(|value| value == node || value.holds(node.id()))
}

fn is_member_of(file: File<'_>, node: NodeRef, name: NodeRef) -> bool {
    let object = node.child_of(Kind::Member, Role::Object);
    object.is_some_and(|object| {
        let step = file.text.slice(Span::new(object.span().end, node.span().end)).trim_start();
        object.kind() == Kind::Name && file.node_text(object) == file.node_text(name) && step.starts_with('.')
    })
}

/// Whether what follows asks for a value itself.
fn is_guarded(file: File<'_>, operand: NodeRef, name: NodeRef) -> bool {
    let is_plain = |node: NodeRef| node.kind() == Kind::Name && file.node_text(node) == file.node_text(name);
    std::iter::once(operand).chain(operand.descendants()).any(|node| {
        matches!(node.kind(), Kind::Logical | Kind::Conditional | Kind::Comparison) && node.children().any(is_plain)
            || node.kind() == Kind::Arguments && node.children().any(is_plain)
            || node.kind() == Kind::Assignment
            || node.kind() == Kind::NamedExpression
    })
}

fn report(context: &mut Context, member: NodeRef, name: NodeRef) {
    let text = context.text(name).to_string();
    context
        .report(member.span(), format!("\"{text}\" is nothing here: it was just tested"))
        .advice("turn the test round, or use another value")
        .related(name.span(), "tested here");
}
