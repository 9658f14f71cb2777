use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::size::{lines_of_code, name_of};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "long-function",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::OF_PROGRAMS,
    fix: None,
    what: "functions with more lines than the limit",
    why: "A function that does not fit on a screen is understood in pieces, and its variables live longer than a reader remembers them.",
    silent: "Lines without code do not count: blank lines, comments, and the docstring. Functions without a name, and tests, are left alone.",
    standards: &[],
    options: &[OptionFacts {
        name: "limit",
        default: OptionDefault::Count(60),
        about: "the most lines of code that a function may have",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "def sail():\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n",
                at: &["1:5"],
                fixed: None,
            }],
            right: &[
                "def sail():\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n    moor()\n",
                "def sail():\n    \"\"\"Sails.\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n\n    \"\"\"\n    moor()\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "const sail = () => {\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n};\n",
                at: &["1:7"],
                fixed: None,
            }],
            right: &[
                "describe(() => {\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n  moor();\n});\n",
            ],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong {
                code: "sail() {\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n}\n",
                at: &["1:1"],
                fixed: None,
            }],
            right: &[
                "sail() {\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n  moor\n}\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package tide\n\nfunc sail() {\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n}\n",
                at: &["3:6"],
                fixed: None,
            }],
            right: &[
                "package tide\n\nfunc sail() {\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n\tmoor()\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn sail() {\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n}\n",
                at: &["1:4"],
                fixed: None,
            }],
            right: &[
                "fn sail() {\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n    moor();\n}\n",
                "fn sail() {\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n    moor();\n    // one more\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    void sail() {\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n    }\n}\n",
                at: &["2:10"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    void sail() {\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n        moor();\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    void Sail()\n    {\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n    }\n}\n",
                at: &["3:10"],
                fixed: None,
            }],
            right: &[
                "class Quay\n{\n    void Sail()\n    {\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n        Moor();\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Function, Kind::Lambda], check),
};

fn check(context: &mut Context, function: NodeRef) {
    let limit = context.count("limit");
    let Some(name) = name_of(function).filter(|_| !context.file().is_test()) else { return };
    let Some(body) = function.child(Role::Body).filter(|body| body.kind() == Kind::Block) else { return };
    // Nothing of fewer lines can have as many lines of code.
    let spanned = context.line(body.span().end) - context.line(body.span().start);
    if spanned < limit {
        return;
    }
    let lines = lines_of_code(context.file(), body);
    if lines > limit {
        let text = context.text(name);
        context
            .report(name.span(), format!("\"{text}\" has {lines} lines, {limit} are allowed"))
            .advice("move parts of it to functions of their own");
    }
}
