use sieve_syntax::language::Language;

use super::spacing_facts::rule;
use crate::interface::SpacingKind;
use crate::interface::{Examples, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = rule(
    "keyword-spacing",
    SpacingKind::Keyword,
    Language::WITH_NAMES,
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
    ],
);
