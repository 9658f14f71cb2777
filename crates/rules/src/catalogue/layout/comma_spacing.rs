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
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "class Desk {\n    void sail() {\n        sail(north,south) ;\n    }\n}\n",
                    at: &["3:19", "3:27"],
                    fixed: Some("class Desk {\n    void sail() {\n        sail(north, south);\n    }\n}\n"),
                },
                Wrong {
                    code: "class Desk {\n    void sail() {\n        for (int i = 0;i < 3;i++) sail();\n    }\n}\n",
                    at: &["3:23", "3:29"],
                    fixed: Some(
                        "class Desk {\n    void sail() {\n        for (int i = 0; i < 3; i++) sail();\n    }\n}\n",
                    ),
                },
            ],
            right: &[
                "class Desk {\n    void sail() {\n        int[] fares = { 3, 5, };\n        for (;;) sail();\n    }\n}\n",
                "enum Tide { LOW, HIGH; }\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[
                Wrong {
                    code: "class Desk { int Low { get;set; } }\n",
                    at: &["1:27"],
                    fixed: Some("class Desk { int Low { get; set; } }\n"),
                },
                Wrong {
                    code: "class Desk\n{\n    void Sail()\n    {\n        Sail(north ,south);\n    }\n}\n",
                    at: &["5:20"],
                    fixed: Some("class Desk\n{\n    void Sail()\n    {\n        Sail(north, south);\n    }\n}\n"),
                },
            ],
            right: &[
                "class Desk\n{\n    void Sail()\n    {\n        int[,] map = new int[2, 3];\n        var kind = typeof(Map<,>);\n        int[] fares = { 3, 5, };\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::Css,
            wrong: &[Wrong {
                code: ".quay, .deck, a { margin: 0 ;color: rgb(1 , 2,3); }\n",
                at: &["1:29", "1:43", "1:46"],
                fixed: Some(".quay, .deck, a { margin: 0; color: rgb(1, 2, 3); }\n"),
            }],
            right: &[
                ".quay,\n.deck { width: var(--tide,); --fare:; --low: ; color: red;}\n",
                "a,b { color: rgb(1,2,3); }\n",
            ],
        },
        Examples {
            language: Language::Hcl,
            wrong: &[Wrong {
                code: "ports = [22 ,443,8080]\n",
                at: &["1:13", "1:17"],
                fixed: Some("ports = [22, 443, 8080]\n"),
            }],
            right: &["ports = [\n  22,\n  443,\n]\nlow = max(1, 2,)\n"],
        },
    ],
);
