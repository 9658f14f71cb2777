use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Examples, FixKind, Level, Mesh, Rule, Wrong};
use crate::spacing::SpacingSort;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "comma-spacing",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: Some(FixKind::Exact),
    what: "commas and semicolons with a blank before them, or none behind them",
    why: "Code that is spaced in one way is read without stumbling, and reviews show no changes that are none.",
    silent: "Blanks that line something up with the line above or below, and texts.",
    standards: &["PEP 8, Whitespace in Expressions and Statements"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "sail(north,south)\n", at: &["1:11"], fixed: Some("sail(north, south)\n") },
                Wrong { code: "sail(north , south)\n", at: &["1:12"], fixed: Some("sail(north, south)\n") },
            ],
            right: &["x = (1,)\nx[1:, ::2]\nx[a,:]\nsail(north,\n     south)\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "sail(north,south);\n", at: &["1:11"], fixed: Some("sail(north, south);\n") },
                Wrong {
                    code: "for (let i = 0;i < 3;i++) sail();\n",
                    at: &["1:15", "1:21"],
                    fixed: Some("for (let i = 0; i < 3; i++) sail();\n"),
                },
            ],
            right: &["const [, b] = [, 1, , 2];\nfor (;;) { sail(); }\n"],
        },
    ],
    needs_names: false,
    check: Check::Spacing(SpacingSort::Comma),
};
