use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Examples, FixKind, Level, Mesh, Rule, Wrong};
use crate::spacing::SpacingSort;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "keyword-spacing",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: Some(FixKind::Exact),
    what: "words of the language with no blank, or several, beside them",
    why: "Code that is spaced in one way is read without stumbling, and reviews show no changes that are none.",
    silent: "Blanks that line something up with the line above or below, and texts.",
    standards: &["PEP 8, Whitespace in Expressions and Statements"],
    options: &[],
    examples: &[
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
    needs_names: false,
    check: Check::Spacing(SpacingSort::Keyword),
};
