use sieve_syntax::language::Language;

use super::spacing_facts::rule;
use crate::interface::SpacingKind;
use crate::interface::{Examples, OptionDefault, OptionFacts, Rule, Wrong};
use crate::spacing::ARITHMETIC;

pub(in crate::catalogue) static RULE: Rule = Rule {
    options: &[OptionFacts {
        name: ARITHMETIC,
        default: OptionDefault::Choice("even", &["even", "one"]),
        about: "the spaces around arithmetic: even is as many on either side, one is one on both",
    }],
    ..FACTS
};

const FACTS: Rule = rule(
    "operator-spacing",
    SpacingKind::Operator,
    Language::WITH_OPERATORS,
    "operators with no space where one belongs, or with spaces where none do",
    &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "fare=adult\n", at: &["1:5"], fixed: Some("fare = adult\n") },
                Wrong { code: "x = a +b\n", at: &["1:7"], fixed: Some("x = a + b\n") },
                Wrong { code: "sail(quay = 3)\n", at: &["1:11"], fixed: Some("sail(quay=3)\n") },
                Wrong { code: "x = - 1\n", at: &["1:5"], fixed: Some("x = -1\n") },
                Wrong { code: "if a==b: pass\n", at: &["1:5"], fixed: Some("if a == b: pass\n") },
                Wrong { code: "fare  =  3\n", at: &["1:7"], fixed: Some("fare = 3\n") },
            ],
            right: &[
                "match boat:\n    case Ferry(decks=2, name=\"Tern\") if late:\n        wait()\n",
                "x = a*b + c\n",
                "def sail(quay=3, *rest, tide: int = 2) -> None: ...\n",
                "a   = 1\nbcd = 2\n",
                "f\"{a=}\"\nx[-1]\n",
                "print(*quays, **tides)\nlambda *all: -1\nfrom . import quays\nfrom .tides import x\n",
                "x = 3 .real\ny = a if b else -c\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "const a=b;\n", at: &["1:8"], fixed: Some("const a = b;\n") },
                Wrong { code: "const f = x=>x;\n", at: &["1:12"], fixed: Some("const f = x => x;\n") },
                Wrong { code: "a = b ?c : d;\n", at: &["1:7"], fixed: Some("a = b ? c : d;\n") },
                Wrong { code: "x = a && b||c;\n", at: &["1:11"], fixed: Some("x = a && b || c;\n") },
            ],
            right: &[
                "const a = b + c*2, d = -e, f = !g;\n",
                "const g = (x, ...rest) => a?.b ?? c;\nfunction* all() { yield* all(); }\n",
                "x = + +y;\nx = a - -b;\n",
                "x = `${a+b}`;\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "type A ={ a: string };\n",
                at: &["1:8"],
                fixed: Some("type A = { a: string };\n"),
            }],
            right: &[
                "type A = B | C;\nlet a!: number, b = c!;\nfunction f<T = string>(a?: T): a is T { return a!; }\n",
            ],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong {
                code: "ls|sort&&echo done\n",
                at: &["1:3", "1:8"],
                fixed: Some("ls | sort && echo done\n"),
            }],
            right: &["ls | sort || true\n", "echo \"a|b\"\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "class Desk {\n    void sail() {\n        int fare=3;\n    }\n}\n",
                    at: &["3:17"],
                    fixed: Some("class Desk {\n    void sail() {\n        int fare = 3;\n    }\n}\n"),
                },
                Wrong {
                    code: "class Desk {\n    void sail() {\n        if (low==high&&open) wait();\n    }\n}\n",
                    at: &["3:16", "3:22"],
                    fixed: Some(
                        "class Desk {\n    void sail() {\n        if (low == high && open) wait();\n    }\n}\n",
                    ),
                },
                Wrong {
                    code: "class Desk {\n    void sail() {\n        fare+= a -b;\n    }\n}\n",
                    at: &["3:13", "3:18"],
                    fixed: Some("class Desk {\n    void sail() {\n        fare += a - b;\n    }\n}\n"),
                },
                Wrong {
                    code: "class Desk {\n    void sail() {\n        boats.forEach(boat->boat .sail());\n    }\n}\n",
                    at: &["3:27", "3:34"],
                    fixed: Some(
                        "class Desk {\n    void sail() {\n        boats.forEach(boat -> boat.sail());\n    }\n}\n",
                    ),
                },
            ],
            right: &[
                "class Desk {\n    void sail() {\n        int x = a*b + c, y = -1;\n    }\n}\n",
                "@Quay(name=\"north\")\nclass Desk<T extends Boat> {\n    List<? extends Quay>[] all = low ? null : new List<?>[3];\n}\n",
                "class Desk {\n    void sail() {\n        for (Boat boat : boats) boat.sail(Boat::new, x -> { });\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[
                Wrong {
                    code: "class Desk\n{\n    void Sail()\n    {\n        fare=low??high;\n    }\n}\n",
                    at: &["5:13", "5:17"],
                    fixed: Some("class Desk\n{\n    void Sail()\n    {\n        fare = low ?? high;\n    }\n}\n"),
                },
                Wrong {
                    code: "class Desk\n{\n    void Sail()\n    {\n        var sail = boats.Select(boat=>boat?. Name);\n    }\n}\n",
                    at: &["5:37", "5:43"],
                    fixed: Some(
                        "class Desk\n{\n    void Sail()\n    {\n        var sail = boats.Select(boat => boat?.Name);\n    }\n}\n",
                    ),
                },
                Wrong { code: "class Boat:Ship { }\n", at: &["1:11"], fixed: Some("class Boat : Ship { }\n") },
            ],
            right: &[
                "[Quay(Name=\"north\")]\nclass Desk\n{\n    int? Low => high;\n    public static bool operator ==(Desk a, Desk b) => a is null;\n}\n",
                "class Desk\n{\n    void Sail()\n    {\n        int* p = &low;\n        var last = all[^1] is > 3 and < 5 ? all[1..3] : null;\n        p->Low = -*p;\n    }\n}\n",
                "class Desk\n{\n    void Sail()\n    {\n        var s = $\"{a+b:N2}\";\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::Css,
            wrong: &[Wrong { code: ".quay> a { top: 0; }\n", at: &["1:6"], fixed: Some(".quay > a { top: 0; }\n") }],
            right: &[".quay>a { top: 0; }\n.quay > a { top: 0; }\n.quay {\n  > a { top: 0; }\n}\n"],
        },
        Examples {
            language: Language::Hcl,
            wrong: &[
                Wrong { code: "depth=4\n", at: &["1:6"], fixed: Some("depth = 4\n") },
                Wrong {
                    code: "low = var.tide==\"low\"&& !var.open ?1 : 2\n",
                    at: &["1:15", "1:22", "1:35"],
                    fixed: Some("low = var.tide == \"low\" && !var.open ? 1 : 2\n"),
                },
                Wrong {
                    code: "all = { for k, v in var.fares : k=>v }\n",
                    at: &["1:34"],
                    fixed: Some("all = { for k, v in var.fares : k => v }\n"),
                },
            ],
            right: &["depth     = 4\nquay_name = -2 * 3\nlow       = \"${var.tide}\"\n"],
        },
        Examples {
            language: Language::Html,
            wrong: &[Wrong {
                code: "<p class = \"fare\">low</p>\n",
                at: &["1:10"],
                fixed: Some("<p class=\"fare\">low</p>\n"),
            }],
            right: &["<input value=\"a = b\" disabled>\n"],
        },
    ],
);
