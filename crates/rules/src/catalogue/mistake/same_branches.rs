use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::same::same_code;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "same-branches",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::OF_PROGRAMS,
    fix: None,
    what: "a choice with equal branches",
    why: "The condition has no effect. Either one branch was copied and not changed, or the choice can go.",
    silent: "Where a branch has a comment, which shows that it is intended; where both branches are empty; and where the condition declares names, or a branch of a script reads how it ended.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "if tide > 3:\n    sail()\nelse:\n    sail()\n", at: &["1:1"], fixed: None },
                Wrong { code: "fare = 4 if child else 4\n", at: &["1:8"], fixed: None },
            ],
            right: &[
                "if tide > 3:\n    sail()\nelif wind:\n    sail()\n",
                "if tide > 3:\n    sail()\nelse:\n    # for now\n    sail()\n",
                "fare = 4 if child else 5\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "if (tide) { sail(); } else { sail(); }\n", at: &["1:1"], fixed: None },
                Wrong { code: "const fare = child ? a.b : a.b;\n", at: &["1:14"], fixed: None },
            ],
            right: &["if (tide) { sail(); } else if (wind) { sail(); }\n", "const fare = child ? 4 : 5;\n"],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong { code: "if moor; then\n  log low\nelse\n  log low\nfi\n", at: &["1:1"], fixed: None }],
            right: &["if moor; then\n  log $?\nelse\n  log $?\nfi\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package tide\n\nfunc sail() {\n\tif tide > 3 {\n\t\tmoor()\n\t} else {\n\t\tmoor()\n\t}\n}\n",
                at: &["4:2"],
                fixed: None,
            }],
            right: &[
                "package tide\n\nfunc sail() {\n\tif tide > 3 {\n\t\tmoor()\n\t} else if wind {\n\t\tmoor()\n\t}\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn sail() {\n    if tide > 3 {\n        moor();\n    } else {\n        moor();\n    }\n    let fare = if child { 4 } else { 4 };\n}\n",
                at: &["2:5", "7:16"],
                fixed: None,
            }],
            right: &[
                "fn sail() {\n    if tide > 3 {\n        moor();\n    } else if wind {\n        moor();\n    }\n    let fare = if child { 4 } else { 5 };\n}\n",
                "fn low(tide: &str) -> &str {\n    if let Some(tide) = tide.strip_prefix('~') { tide } else { tide }\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    int fare = child ? 4 : 4;\n    void sail() {\n        if (tide > 3) moor(); else moor();\n    }\n}\n",
                at: &["2:16", "4:9"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    int fare = child ? 4 : 5;\n    void sail() {\n        if (tide > 3) moor(); else if (wind) moor();\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    int fare = child ? 4 : 4;\n    void Sail()\n    {\n        if (tide > 3) Moor(); else Moor();\n    }\n}\n",
                at: &["3:16", "6:9"],
                fixed: None,
            }],
            right: &[
                "class Quay\n{\n    int fare = child ? 4 : 5;\n    void Sail()\n    {\n        if (tide > 3)\n#if NEAP\n            Moor();\n#else\n            Wait();\n#endif\n        else Moor();\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::If, Kind::Conditional], check),
};

fn check(context: &mut Context, choice: NodeRef) {
    let file = context.file();
    let first = choice.child(Role::Body).or_else(|| choice.child(Role::Value));
    let Some((first, other)) = first.zip(choice.child(Role::Else)) else { return };
    if other.kind() == Kind::If || !same_code(file, first, other) {
        return;
    }
    let has_comment = choice.token_range().any(|token| file.tree.token_kind(token).is_remark());
    let does_nothing = first.children().all(|statement| statement.kind() == Kind::Pass) && first.kind() == Kind::Block;
    if has_comment || does_nothing || binds(choice) || asks_for_status(file, first) {
        return;
    }
    context
        .report(choice.span(), "both branches are the same: the condition has no effect")
        .advice("correct one of them, or remove the choice");
}

/// Whether a branch of a script reads `$?`, which is what the condition has left there.
fn asks_for_status(file: File<'_>, branch: NodeRef) -> bool {
    file.traits.runs_commands && file.node_text(branch).contains("$?")
}

/// Whether the condition declares names, so that those in the branches need not be the same: `if let Some(tide) = tide.high() { … }`.
fn binds(choice: NodeRef) -> bool {
    let declares = |part: NodeRef| part.kind() == Kind::LetCondition || part.role() == Role::Pattern;
    choice
        .child(Role::Condition)
        .is_some_and(|condition| std::iter::once(condition).chain(condition.descendants()).any(declares))
}
