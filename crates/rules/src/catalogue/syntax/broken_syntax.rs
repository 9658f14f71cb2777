use sieve_syntax::language::Language;
use sieve_syntax::tree::{Fault, Problem};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "broken-syntax",
    concern: Concern::Syntax,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: None,
    what: "code that the language does not allow",
    why: "The file cannot run. Rules about meaning stay silent in the part that could not be parsed.",
    silent: "Only the first error of a logical line is reported: the others are most often its consequences.",
    standards: &[
        "The Python Language Reference 3.14, chapter 10",
        "ECMAScript 2025",
        "POSIX.1-2024, Shell Command Language",
    ],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "fares = (1,\ndef sell():\n    pass\n", at: &["1:9"], fixed: None },
                Wrong { code: "if tide = 3:\n    sail()\n", at: &["1:9"], fixed: None },
                Wrong { code: "quay = 'North\n", at: &["1:8"], fixed: None },
            ],
            right: &["if tide == 3:\n    sail()\n", "match tide:\n    case 3:\n        sail()\n"],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[
                Wrong { code: "const tide = ;\n", at: &["1:14"], fixed: None },
                Wrong { code: "function sail(boat: ) {\n  boat.go();\n}\n", at: &["1:21"], fixed: None },
            ],
            right: &["const sail = <T,>(boat: T): boat is T & Boat => boat !== null\nsail(heron)\n"],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong { code: "if tide; then\n  sail\n", at: &["3:1"], fixed: None }],
            right: &["if tide; then\n  sail\nfi\n"],
        },
    ],
    needs_names: false,
    check: Check::Faults(check),
};

fn check(context: &mut Context, fault: &Fault) {
    if !matches!(fault.problem, Problem::TooDeep(_)) {
        context.report(fault.span, fault.problem.to_string());
    }
}
