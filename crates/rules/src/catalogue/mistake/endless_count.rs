use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::{same_code, written_between};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "endless-count",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx],
    fix: None,
    what: "a loop that counts away from its end",
    why: "The loop does not end, or does not begin.",
    silent: "For conditions that ask for other things too.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[
            Wrong {
                code: "for (let index = 0; index < boats.length; index--) moor(boats[index]);\n",
                at: &["1:43"],
                fixed: None,
            },
            Wrong {
                code: "for (let index = 9; index >= 0; index++) moor(boats[index]);\n",
                at: &["1:33"],
                fixed: None,
            },
        ],
        right: &[
            "for (let index = 0; index < 9; index++) moor(index);\nfor (let index = 9; index > 0; index--) moor(index);\nfor (let index = 9; index >= 0 && ok; index++) moor(index);\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::For], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let (Some(condition), Some(step)) = (node.child(Role::Condition), node.child(Role::Step)) else { return };
    let operands: Vec<NodeRef> = condition.children_in(Role::Operand).collect();
    let ([left, right], true) = (operands.as_slice(), condition.kind() == Kind::Comparison) else { return };
    let Some(counted) = step.child(Role::Operand).filter(|_| step.kind() == Kind::Update) else { return };
    let sign = written_between(file, *left, *right);
    let goes_up = file.node_text(step).contains("++");
    let wants_up = match sign {
        "<" | "<=" => same_code(file, *left, counted),
        ">" | ">=" if same_code(file, *left, counted) => false,
        _ => return,
    };
    let on_left = same_code(file, *left, counted);
    // An unsigned or a bounded count may come round, but not in numbers of this language.
    if on_left && goes_up != wants_up && !changes_inside(file, node, counted) {
        let word = if goes_up { "up" } else { "down" };
        context
            .report(step.span(), format!("this counts {word}, away from the end of the loop"))
            .advice("count the other way, or correct the condition");
    }
}

fn changes_inside(file: File<'_>, node: NodeRef, counted: NodeRef) -> bool {
    node.child(Role::Body).is_some_and(|body| {
        body.descendants().any(|inner| {
            let is_changed =
                inner.role() == Role::Target || inner.parent().is_some_and(|parent| parent.kind() == Kind::Update);
            is_changed && inner.kind() == Kind::Name && same_code(file, inner, counted)
        })
    })
}
