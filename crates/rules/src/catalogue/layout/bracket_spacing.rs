use sieve_syntax::language::Language;

use super::spacing_facts::rule;
use crate::interface::SpacingKind;
use crate::interface::{Examples, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = rule(
    "bracket-spacing",
    SpacingKind::Bracket,
    Language::WITH_SPACING,
    "spaces inside of brackets, or before the brackets of a call",
    &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "sail( north )\n", at: &["1:5", "1:13"], fixed: Some("sail(north)\n") },
                Wrong {
                    code: "sail (north)\nfares [3]\n",
                    at: &["1:6", "2:7"],
                    fixed: Some("sail(north)\nfares[3]\n"),
                },
                Wrong { code: "x = { 1: 2 }\n", at: &["1:5", "1:12"], fixed: Some("x = {1: 2}\n") },
            ],
            right: &["x = (1, 2)\nprint((3, 4)[0], not [1], [2])\ndel (a)\n", "def sail(north): return (north)\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "const a = {b: 1}, c = { d: 2 }, e = { f: 3 };\n",
                    at: &["1:11", "1:16"],
                    fixed: Some("const a = { b: 1 }, c = { d: 2 }, e = { f: 3 };\n"),
                },
                Wrong { code: "sail (north);\n", at: &["1:6"], fixed: Some("sail(north);\n") },
                Wrong { code: "if (x){sail() }\n", at: &["1:7"], fixed: Some("if (x) { sail() }\n") },
            ],
            right: &[
                "import {a} from \"./a.js\";\nconst b = {c: 1}, e = {};\n",
                "const f = function () { return 1; };\nif (a) { b(); }\nx = [1, , 2,];\nlist = [ ];\n",
            ],
        },
    ],
);
