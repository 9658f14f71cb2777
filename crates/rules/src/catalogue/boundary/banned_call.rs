use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{BanKind, Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "banned-call",
    concern: Concern::Boundary,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::OF_PROGRAMS,
    fix: None,
    what: "a call of something that the team does not want called, with its reason",
    why: "Each entry states its reason, so that nobody has to explain it again in a review.",
    silent: "Without entries `[[ban]] call = \"…\"` in the settings; the examples are as if `clock.now`, `Date.now` and `telnet` were banned. Where the callee is unknown.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "import clock as c\nprint(c.now())\n", at: &["2:7"], fixed: None },
                Wrong { code: "from clock import now as right_now\nright_now()\n", at: &["2:1"], fixed: None },
            ],
            right: &["import clock\nclock.later()\ndef now(): pass\nnow()\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "const time = Date.now();\n", at: &["1:14"], fixed: None }],
            right: &["function f(Date) {\n  return Date.now();\n}\n"],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong { code: "telnet quay 23\n", at: &["1:1"], fixed: None }],
            right: &["ssh quay\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package quay\n\nimport now \"clock\"\n\nvar _ = now.now()\n",
                at: &["5:9"],
                fixed: None,
            }],
            right: &[
                "package quay\n\nimport \"clock\"\n\nvar _ = clock.later()\n\nfunc f(clock Clock) int { return clock.now() }\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "use clock::now as right_now;\n\nfn f() {\n    right_now();\n    clock::now();\n}\n",
                at: &["4:5", "5:5"],
                fixed: None,
            }],
            right: &[
                "use clock::later;\n\nfn now() {}\n\nfn f() {\n    now();\n    later();\n    clock::later();\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "import static clock.now;\n\nclass Quay {\n    long low = now();\n}\n",
                at: &["4:16"],
                fixed: None,
            }],
            right: &[
                "import clock.Tide;\n\nclass Quay {\n    long low = Tide.now();\n\n    long now() {\n        return now();\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "using static clock;\nusing Time = clock;\n\nclass Quay {\n    long low = Time.now();\n    long high = clock.now();\n}\n",
                at: &["5:16", "6:17"],
                fixed: None,
            }],
            right: &["class Quay {\n    long low = Tide.now();\n\n    long now() {\n        return now();\n    }\n}\n"],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::Call, Kind::New, Kind::Command], check),
};

fn check(context: &mut Context, node: NodeRef) {
    if context.bans(BanKind::Call).next().is_none() {
        return;
    }
    let file = context.file();
    let Some(callee) = node.child(Role::Callee) else { return };
    let name = if node.kind() == Kind::Command { Some(file.node_text(callee).into()) } else { file.refers(callee) };
    let Some(name) = name else { return };
    for ban in context.bans(BanKind::Call).filter(|ban| *ban.name == *name) {
        context.report(callee.span(), format!("{name} is not to be called: {}", ban.because));
    }
}
