use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::depends_on_build;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "loop-runs-once",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[
        Language::Python,
        Language::JavaScript,
        Language::TypeScript,
        Language::Tsx,
        Language::Go,
        Language::Rust,
        Language::Java,
        Language::CSharp,
    ],
    fix: None,
    what: "a loop that always exits in its first iteration",
    why: "It is no loop: the exiting statement most likely belongs in a condition, or one level further out.",
    silent: "For loops over elements, which are a way to take the first one, for those with a label, which may be there to be left by it, and for loops without a condition, which exit on purpose; in Go also where a call is asked and all that follows is to exit, in Rust where a macro in the loop may hold a `continue`.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package quays\n\nfunc sail(boats int) int {\n\tfor boats > 3 {\n\t\tmoor()\n\t\treturn boats\n\t}\n\tfor i := 0; i < 3; i++ {\n\t\tmoor()\n\t\tbreak\n\t}\n\tfor next() {\n\t\treturn 1\n\t}\n\treturn 0\n}\n",
                at: &["4:2", "8:2"],
                fixed: None,
            }],
            right: &[
                "package quays\n\nfunc sail(boats []int) int {\n\tfor len(boats) > 3 {\n\t\tif boats[0] > 1 {\n\t\t\treturn boats[0]\n\t\t}\n\t\tboats = boats[1:]\n\t}\n\tfor _, boat := range boats {\n\t\treturn boat\n\t}\n\tfor i := 0; i < 3; i++ {\n\t\tif boats[i] > 2 {\n\t\t\tbreak\n\t\t}\n\t}\n\tfor {\n\t\tbreak\n\t}\nset:\n\tfor len(boats) > 1 {\n\t\tswitch boats[0] {\n\t\tcase 1:\n\t\t\tbreak set\n\t\t}\n\t\tmoor()\n\t\tbreak\n\t}\n\treturn 0\n}\n",
            ],
        },
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "while tide < 2:\n    tide = measure()\n    break\n", at: &["1:1"], fixed: None }],
            right: &[
                "while tide:\n    if low:\n        break\n    sail()\n    break\n",
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
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn sail(boats: u32) -> u32 {\n    for boat in 0..boats {\n        return boat;\n    }\n    while boats > 3 {\n        moor();\n        break;\n    }\n    0\n}\n",
                at: &["2:5", "5:5"],
                fixed: None,
            }],
            right: &[
                "fn sail(boats: &[u32]) -> u32 {\n    for boat in boats {\n        return *boat;\n    }\n    loop {\n        break;\n    }\n    for boat in 0..3 {\n        skip_if_full!(boat);\n        return boat;\n    }\n    for boat in 0..3 {\n        println!(\"{boat}\");\n        if boat > 1 {\n            continue;\n        }\n        break;\n    }\n    0\n}\n",
            ],
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
    check: Check::Nodes(&[Kind::While, Kind::For], check),
};

fn check(context: &mut Context, node: NodeRef) {
    // A loop over elements may be a way to take the first one; one with a label may be there to be left by it.
    let is_over_elements = node.child(Role::Iterable).is_some_and(|over| over.kind() != Kind::Range);
    if is_over_elements || node.parent().is_some_and(|parent| parent.kind() == Kind::Labeled) {
        return;
    }
    let counts = || [Role::Iterable, Role::Step].into_iter().any(|role| node.child(role).is_some());
    let is_endless =
        node.child(Role::Condition).is_none_or(|condition| matches!(condition.kind(), Kind::Boolean | Kind::Number));
    let Some(body) = node.child(Role::Body).filter(|_| !is_endless || counts()) else { return };
    // `for parser.NextBlock() { return unexpected }`: a way to ask and to move on.
    let asks = node.child(Role::Condition).is_some_and(|condition| condition.kind() == Kind::Call);
    if asks && node.kind() == Kind::For && body.children_in(Role::Statement).take(2).count() == 1 {
        return;
    }
    // A block that `break` leaves from several places.
    let is_way_out = |inner: &NodeRef| inner.kind() == Kind::Break;
    if node.kind() == Kind::While && !counts() && body.descendants().filter(is_way_out).take(2).count() == 2 {
        return;
    }
    let leaves = |statement: NodeRef| matches!(statement.kind(), Kind::Return | Kind::Throw | Kind::Break);
    if body.children_in(Role::Statement).any(leaves)
        && body.kind() == Kind::Block
        && !body.descendants().any(|inner| may_go_on(context, inner))
        && !depends_on_build(context.file(), body.token_range())
    {
        let head = node.tree().token_span(node.token_range().start);
        context
            .report(head, "this loop always exits in its first iteration")
            .advice("make it an `if`, or exit under a condition");
    }
}

/// Whether a part of a loop may begin its next iteration.
fn may_go_on(context: &Context, part: NodeRef) -> bool {
    match part.kind() {
        Kind::Continue | Kind::Goto => true,
        Kind::MacroCall => {
            let name = part.child(Role::Callee).map_or("", |callee| context.text(callee));
            let is_known = context.file().traits.plain_macros.contains(&name);
            let given = part.token_range().any(|token| part.tree().token_kind(token) == TokenKind::Continue);
            !is_known || given
        }
        _ => false,
    }
}
