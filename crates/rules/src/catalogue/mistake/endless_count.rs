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
    languages: &[
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Go,
        Language::Java,
        Language::CSharp,
    ],
    fix: None,
    what: "a loop that counts away from its end",
    why: "The loop does not end, or does not begin.",
    silent: "For conditions that ask for other things too.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package quays\n\nfunc sail(boats []string) {\n\tfor i := 0; i < len(boats); i-- {\n\t\tmoor(boats[i])\n\t}\n}\n",
                at: &["4:30"],
                fixed: None,
            }],
            right: &[
                "package quays\n\nfunc sail(boats []string) {\n\tfor i := len(boats) - 1; i >= 0; i-- {\n\t\tmoor(boats[i])\n\t}\n\tfor i := uint(3); i < 4; i-- {\n\t\tmoor(boats[i])\n\t}\n}\n",
            ],
        },
        Examples {
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
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    void moor() {\n        for (int berth = 0; berth < 9; berth--) go(berth);\n    }\n}\n",
                at: &["3:40"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    void moor() {\n        for (int berth = 9; berth >= 0; berth--) go(berth);\n        for (char sign = 9; sign < 99; sign--) go(sign);\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay {\n    void Moor() {\n        for (int berth = 0; berth < 9; berth--) Go(berth);\n    }\n}\n",
                at: &["3:40"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    void Moor() {\n        for (int berth = 9; berth >= 0; berth--) Go(berth);\n        for (uint berth = Last(); berth < 9; berth--) Go(berth);\n        for (var berth = Last(); berth < 9; berth--) Go(berth);\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::For], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let (Some(condition), Some(step)) = (node.child(Role::Condition), node.child(Role::Step)) else { return };
    let operands: Vec<NodeRef> = condition.children_in(Role::Operand).collect();
    let ([left, right], true) = (operands.as_slice(), condition.kind() == Kind::Comparison) else { return };
    let Some(counted) = step.child_of(Kind::Update, Role::Operand) else { return };
    let sign = written_between(file, *left, *right);
    let goes_up = file.node_text(step).contains("++");
    let wants_up = match sign {
        "<" | "<=" => same_code(file, *left, counted),
        ">" | ">=" if same_code(file, *left, counted) => false,
        _ => return,
    };
    let on_left = same_code(file, *left, counted);
    // A count without a sign comes round, where a language has such.
    let comes_round = !goes_up && node.child(Role::Start).is_some_and(|start| may_lack_sign(file, start));
    if on_left && goes_up != wants_up && !comes_round && !changes_inside(file, node, counted) {
        let word = if goes_up { "up" } else { "down" };
        context
            .report(step.span(), format!("this counts {word}, away from the end of the loop"))
            .advice("count the other way, or correct the condition");
    }
}

/// Whether a variable is declared with a type whose numbers have no sign, or with one that is not known: `i := uint(3)`.
fn may_lack_sign(file: File<'_>, start: NodeRef) -> bool {
    if start.kind() == Kind::ShortDeclaration {
        return start.child(Role::Value).is_none_or(|value| value.kind() != Kind::Number);
    }
    let written = start.child(Role::Type).map(|written| file.node_text(written));
    written.is_some_and(|written| !matches!(written, "int" | "long" | "short" | "sbyte"))
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
