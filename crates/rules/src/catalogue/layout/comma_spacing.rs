use sieve_syntax::language::Language;

use super::spacing_facts::rule;
use crate::interface::SpacingKind;
use crate::interface::{Examples, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = rule(
    "comma-spacing",
    SpacingKind::Comma,
    Language::WITH_SPACING,
    "commas and semicolons with a space before them, or none after them",
    &[
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
);
