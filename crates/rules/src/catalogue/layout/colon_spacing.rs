use sieve_syntax::language::Language;

use super::spacing_facts::rule;
use crate::interface::SpacingKind;
use crate::interface::{Examples, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = rule(
    "colon-spacing",
    SpacingKind::Colon,
    Language::WITH_SPACING,
    "colons with a space before them, or none after them",
    &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "fares = {1:450}\n", at: &["1:11"], fixed: Some("fares = {1: 450}\n") },
                Wrong {
                    code: "def sail(quay:int) : pass\n",
                    at: &["1:14", "1:20"],
                    fixed: Some("def sail(quay: int): pass\n"),
                },
            ],
            right: &["x[1:2]\nx[a : b]\nlambda: 0\nfare: int = 3\nf\"{x:>3}\"\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "const fares = { adult:450 };\n",
                at: &["1:22"],
                fixed: Some("const fares = { adult: 450 };\n"),
            }],
            right: &["const x = a ? b : c;\nswitch (x) {\n  case 1:\n    sail();\n}\n"],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong { code: "let fare:number = 3;\n", at: &["1:9"], fixed: Some("let fare: number = 3;\n") }],
            right: &["function f(a?: number): string { return `${a}`; }\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Desk {\n    void sail() {\n        switch (tide) { case 1 : sail(); }\n    }\n}\n",
                at: &["3:32"],
                fixed: Some("class Desk {\n    void sail() {\n        switch (tide) { case 1: sail(); }\n    }\n}\n"),
            }],
            right: &[
                "class Desk {\n    void sail() {\n        assert low : \"tide\";\n        int x = low ? 1 : 2;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    void Sail()\n    {\n        Sail(quay : north);\n    }\n}\n",
                at: &["5:19"],
                fixed: Some("class Desk\n{\n    void Sail()\n    {\n        Sail(quay: north);\n    }\n}\n"),
            }],
            right: &["class Boat<T> : Ship where T : Quay\n{\n    Boat(int a) : base(a) { }\n}\n"],
        },
        Examples {
            language: Language::Css,
            wrong: &[Wrong {
                code: ".quay { color : red; left: 0; }\n@media (min-width: 30em) { a { top:0; } }\n",
                at: &["1:15", "2:35"],
                fixed: Some(".quay { color: red; left: 0; }\n@media (min-width: 30em) { a { top: 0; } }\n"),
            }],
            right: &[
                "a:hover, :not(:focus) { --tide: ; --low:; }\n@container (--fare) { a { top: 0; } }\n",
                "a {top:0}\nb {top:1px}\n",
            ],
        },
        Examples {
            language: Language::Hcl,
            wrong: &[Wrong {
                code: "tags = { quay :\"north\" }\n",
                at: &["1:15"],
                fixed: Some("tags = { quay : \"north\" }\n"),
            }],
            right: &["tags = { quay: \"north\" }\nall = [for quay in var.quays : quay]\nlow = a ? b : c\n"],
        },
    ],
);
