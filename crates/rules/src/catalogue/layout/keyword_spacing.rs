use sieve_syntax::language::Language;

use super::spacing_facts::rule;
use crate::interface::SpacingKind;
use crate::interface::{Examples, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = rule(
    "keyword-spacing",
    SpacingKind::Keyword,
    Language::WITH_STATEMENT_WORDS,
    "keywords with no space, or several, beside them",
    &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "if(tide):\n    pass\n", at: &["1:1"], fixed: Some("if (tide):\n    pass\n") },
                Wrong { code: "import  tides\n", at: &["1:1"], fixed: Some("import tides\n") },
                Wrong { code: "x = (a)and b\n", at: &["1:8"], fixed: Some("x = (a) and b\n") },
            ],
            right: &[
                "lambda: 0\nfrom .tides import x\nlambda *a: 1\nreturn_value = 3\n",
                "x = a if b else c\nfor i in (1, 2): pass\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "if(tide) sail();\n", at: &["1:1"], fixed: Some("if (tide) sail();\n") },
                Wrong {
                    code: "if (a) {\n  b();\n}else {\n  c();\n}\n",
                    at: &["3:2"],
                    fixed: Some("if (a) {\n  b();\n} else {\n  c();\n}\n"),
                },
            ],
            right: &[
                "const o = { if: 1, for: 2 };\no.catch(x);\nreturn_(x);\n",
                "do { sail(); } while (x);\ntry { a(); } catch { b(); } finally { c(); }\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "class Desk {\n    void sail() {\n        if(low) return(fare);\n    }\n}\n",
                    at: &["3:9", "3:17"],
                    fixed: Some("class Desk {\n    void sail() {\n        if (low) return (fare);\n    }\n}\n"),
                },
                Wrong {
                    code: "class Desk {\n    void sail() {\n        try { sail(); }catch(Storm storm) { } finally{ moor(); }\n    }\n}\n",
                    at: &["3:24", "3:47"],
                    fixed: Some(
                        "class Desk {\n    void sail() {\n        try { sail(); } catch (Storm storm) { } finally { moor(); }\n    }\n}\n",
                    ),
                },
            ],
            right: &[
                "class Desk {\n    void sail() {\n        do sail(); while (low);\n        return;\n    }\n}\n",
                "class Desk {\n    void sail() {\n        switch (tide) { case 1: return; default: }\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    void Sail()\n    {\n        foreach(var boat in boats) lock(boat) boat.Sail();\n    }\n}\n",
                at: &["5:9", "5:36"],
                fixed: Some(
                    "class Desk\n{\n    void Sail()\n    {\n        foreach (var boat in boats) lock (boat) boat.Sail();\n    }\n}\n",
                ),
            }],
            right: &[
                "class Desk\n{\n    void Sail()\n    {\n        using (var boat = Open()) { throw; }\n        var fare = tide switch { 1 => 2, _ => throw new Storm() };\n    }\n}\n",
                "class Desk\n{\n    void Sail()\n    {\n        var size = sizeof(int) + default(int);\n    }\n}\n",
            ],
        },
    ],
);
