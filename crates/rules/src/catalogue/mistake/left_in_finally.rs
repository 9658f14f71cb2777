use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::inside::{inside, runs_apart};
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "left-in-finally",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python, Language::JavaScript, Language::TypeScript, Language::Tsx, Language::Java],
    fix: None,
    what: "a `finally` block that is left by a return, a break or a continue",
    why: "Whatever was raised or returned before is dropped without a word: the error never arrives anywhere.",
    silent: "For loops and functions within the block, which are left and not the block.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "def sail(boat):\n    try:\n        return boat.sail()\n    finally:\n        return None\n",
                at: &["5:9"],
                fixed: None,
            }],
            right: &[
                "def sail(boat):\n    try:\n        return boat.sail()\n    finally:\n        for rope in boat.ropes:\n            if rope:\n                break\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "function sail(boat) {\n  try {\n    return boat.sail();\n  } finally {\n    return null;\n  }\n}\n",
                at: &["5:5"],
                fixed: None,
            }],
            right: &[
                "function sail(boat) {\n  try {\n    return boat.sail();\n  } finally {\n    boat.each(() => {\n      return 1;\n    });\n  }\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Boat {\n    int sail() {\n        try {\n            return go();\n        } finally {\n            return 0;\n        }\n    }\n}\n",
                at: &["6:13"],
                fixed: None,
            }],
            right: &[
                "class Boat {\n    int sail() {\n        try {\n            return go();\n        } finally {\n            for (var rope : ropes) {\n                if (rope == null) break;\n            }\n            ropes.forEach(rope -> { return; });\n        }\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Try], check),
};

fn check(context: &mut Context, attempt: NodeRef) {
    let Some(block) = attempt.child(Role::Finally) else { return };
    for node in inside(block, runs_apart) {
        let leaves = match node.kind() {
            // Programs that translate write another attempt in the block to close an iterator.
            Kind::Return => {
                let around = node.ancestors().take_while(|around| *around != block);
                !around.into_iter().any(|around| around.kind() == Kind::Try)
            }
            Kind::Break | Kind::Continue => !is_in_loop(node, block),
            _ => false,
        };
        if leaves {
            context
                .report(node.span(), "this drops whatever was raised or returned before")
                .advice("put it behind the whole statement");
        }
    }
}

fn is_in_loop(node: NodeRef, block: NodeRef) -> bool {
    let around = node.ancestors().take_while(|around| *around != block);
    around.into_iter().any(|around| {
        matches!(around.kind(), Kind::For | Kind::While | Kind::DoWhile)
            || node.kind() == Kind::Break && around.kind() == Kind::Match
    })
}
