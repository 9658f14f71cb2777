use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::{depends_on_build, is_steady, same_code};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-condition",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: None,
    what: "a condition that occurs twice in one chain of branches",
    why: "The second branch is never taken: whenever its condition holds, the first branch has run. One of the two conditions most likely has a mistake.",
    silent: "Where a condition calls, changes or awaits something, since the second result may differ. For cases with attributes, by which the compiler may leave them out.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "if tide > 3:\n    sail()\nelif wind:\n    wait()\nelif tide > 3:\n    moor()\n",
                at: &["5:6"],
                fixed: None,
            }],
            right: &[
                "if tide > 3:\n    sail()\nelif tide > 2:\n    wait()\n",
                "if ready():\n    sail()\nelif ready():\n    wait()\n",
                "if tide:\n    if tide:\n        sail()\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "if (a.b) sail();\nelse if (a.b) moor();\n", at: &["2:10"], fixed: None },
                Wrong {
                    code: "switch (tide) {\n  case LOW: a();\n  case HIGH: b();\n  case LOW: c();\n}\n",
                    at: &["4:8"],
                    fixed: None,
                },
            ],
            right: &[
                "if (a.b) sail();\nelse if (a.c) moor();\n",
                "switch (tide) {\n  case low(): a();\n  case low(): b();\n}\n",
                "switch (tide) {\n  case 1: a();\n  case 1: b();\n}\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[
                Wrong {
                    code: "package tide\n\nfunc sail() {\n\tif a.low {\n\t} else if b {\n\t} else if a.low {\n\t}\n}\n",
                    at: &["6:12"],
                    fixed: None,
                },
                Wrong {
                    code: "package tide\n\nfunc sail() {\n\tswitch {\n\tcase a > b:\n\tcase c:\n\tcase a > b:\n\t}\n}\n",
                    at: &["7:7"],
                    fixed: None,
                },
            ],
            right: &[
                "package tide\n\nfunc sail() {\n\tif a := f(); a > 0 {\n\t} else if a := g(); a > 0 {\n\t}\n\tif <-c {\n\t} else if <-c {\n\t}\n\tswitch q.(type) {\n\tcase *Quay:\n\tcase *Boat:\n\t}\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn sail() {\n    if a.low {\n    } else if b {\n    } else if a.low {\n    }\n}\n",
                at: &["4:15"],
                fixed: None,
            }],
            right: &[
                "fn sail() {\n    if let Some(a) = b.next() {\n    } else if let Some(a) = b.next() {\n    }\n    if ready!() {\n    } else if ready!() {\n    }\n    match tide {\n        Low if a => {}\n        Low if b => {}\n        _ => {}\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    void sail() {\n        if (a.low) go();\n        else if (b) moor();\n        else if (a.low) go();\n    }\n}\n",
                at: &["5:18"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    void sail() {\n        if (a.next()) go();\n        else if (a.next()) moor();\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    void Sail()\n    {\n        if (tide > 3) Moor(); else if (wind) Wait(); else if (tide > 3) Go();\n    }\n}\n",
                at: &["5:63"],
                fixed: None,
            }],
            right: &[
                "class Quay\n{\n    void Sail()\n    {\n        if (tide > 3) Moor(); else if (wind) Wait(); else if (tide > 2) Go();\n        switch (stage) { case Low: Wait(); break; case High: Go(); break; }\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::If, Kind::Match], check),
};

/// Longer chains are tables, and are made by programs.
const FOLLOWED: usize = 200;

fn check(context: &mut Context, node: NodeRef) {
    let asked = match node.kind() {
        Kind::If if node.role() == Role::Else => return,
        Kind::If => chain(node),
        _ => cases(node),
    };
    let file = context.file();
    let steady: Vec<NodeRef> =
        asked.into_iter().take(FOLLOWED).filter(|condition| is_steady(*condition) && asks(*condition)).collect();
    for (index, condition) in steady.iter().enumerate() {
        let Some(first) = steady[..index].iter().find(|earlier| same_code(file, **earlier, *condition)) else {
            continue;
        };
        if depends_on_build(file, first.token_range().start..condition.token_range().end) {
            continue;
        }
        let line = context.line(first.span().start);
        context
            .report(condition.span(), format!("line {line} tests the same: this branch is never taken"))
            .advice("test something else, or remove the branch")
            .related(first.span(), "the same condition");
    }
}

/// Whether a condition asks for anything: a literal alone does not.
fn asks(condition: NodeRef) -> bool {
    condition.role() == Role::Pattern || !matches!(condition.kind(), Kind::Number | Kind::Boolean | Kind::Null)
}

/// The conditions of a choice and of those after its `else`.
fn chain(choice: NodeRef) -> Vec<NodeRef> {
    let mut conditions = Vec::new();
    let mut next = Some(choice);
    while let Some(choice) = next.filter(|_| conditions.len() < FOLLOWED) {
        conditions.extend(choice.child(Role::Condition));
        // What runs before a condition may give its names another meaning.
        let asks_anew = |other: &NodeRef| other.kind() == Kind::If && other.child(Role::Start).is_none();
        next = choice.child(Role::Else).filter(asks_anew);
    }
    conditions
}

/// The values that a choice compares with. Patterns that bind names or ask more are none; literals are a matter of `unreachable-case`.
fn cases(choice: NodeRef) -> Vec<NodeRef> {
    choice
        .children_in(Role::Case)
        // What is said of a case to the compiler may leave it out.
        .filter(|case| case.child(Role::Guard).is_none() && case.child(Role::Decorator).is_none())
        .filter_map(|case| case.child(Role::Pattern))
        .filter(|pattern| !matches!(pattern.kind(), Kind::LiteralPattern | Kind::Number | Kind::String))
        .collect()
}
