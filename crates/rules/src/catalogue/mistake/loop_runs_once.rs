use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::depends_on_build;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "loop-runs-once",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: Language::WITH_CLASSES,
    fix: None,
    what: "a loop that always exits in its first iteration",
    why: "It is no loop: the exiting statement most likely belongs in a condition, or one level further out.",
    silent: "For loops over elements, which are a way to take the first one, and for loops without a condition, which exit on purpose.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "while tide < 2:\n    tide = measure()\n    break\n", at: &["1:1"], fixed: None }],
            right: &[
                "while tide < 2:\n    tide = measure()\n    if tide > 1:\n        break\n",
                "for boat in boats:\n    return boat\n",
                "while tide:\n    if low:\n        continue\n    break\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "while (tide < 2) {\n  tide = measure();\n  break;\n}\n",
                at: &["1:1"],
                fixed: None,
            }],
            right: &["while (tide < 2) {\n  if (low) continue;\n  break;\n}\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Boat {\n    void sail() {\n        while (tide < 2) {\n            tide = measure();\n            break;\n        }\n    }\n}\n",
                at: &["3:9"],
                fixed: None,
            }],
            right: &[
                "class Boat {\n    void sail() {\n        while (tide < 2) {\n            if (low) continue;\n            break;\n        }\n        while (true) {\n            break;\n        }\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Boat {\n    void Sail() {\n        while (tide < 2) {\n            tide = Measure();\n            break;\n        }\n    }\n}\n",
                at: &["3:9"],
                fixed: None,
            }],
            right: &[
                "class Boat {\n    void Sail() {\n        while (tide < 2) {\n            if (low) continue;\n            break;\n        }\n        while (tide < 3) {\n#if ONCE\n            break;\n#endif\n        }\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::While], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let is_constant =
        node.child(Role::Condition).is_none_or(|condition| matches!(condition.kind(), Kind::Boolean | Kind::Number));
    let Some(body) = node.child(Role::Body).filter(|_| !is_constant) else { return };
    let leaves = |statement: NodeRef| matches!(statement.kind(), Kind::Return | Kind::Throw | Kind::Break);
    let goes_on = || body.descendants().any(|inner| inner.kind() == Kind::Continue);
    if body.children_in(Role::Statement).any(leaves)
        && !goes_on()
        && body.kind() == Kind::Block
        && !depends_on_build(context.file(), body.token_range())
    {
        let head = Span::new(node.span().start, node.span().start + "while".len() as u32);
        context
            .report(head, "this loop always exits in its first iteration")
            .advice("make it an `if`, or exit under a condition");
    }
}
