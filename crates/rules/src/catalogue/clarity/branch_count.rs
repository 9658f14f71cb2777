use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::inside::{runs_apart, sums_by_owner};
use crate::size::{decisions_at, name_of};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "branch-count",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::OF_PROGRAMS,
    fix: None,
    what: "functions with more independent paths than the limit",
    why: "McCabe's number is e - n + 2 for a control-flow graph of n nodes and e edges; for code without jumps that is one more than its decisions. It is the number of tests needed to take each path once, and functions with a high number have more defects.",
    silent: "Each condition, loop, handler, case, choice between values, and each further operand of `and` and `or` is a decision. Nested functions are counted on their own.",
    standards: &["T. J. McCabe, A Complexity Measure, IEEE Transactions on Software Engineering SE-2 (1976)"],
    options: &[OptionFacts {
        name: "limit",
        default: OptionDefault::Count(10),
        about: "the most independent paths through a function: McCabe's number",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "def sail(a):\n    if a == 0: moor()\n    if a == 1: moor()\n    if a == 2: moor()\n    if a == 3: moor()\n    if a == 4: moor()\n    if a == 5: moor()\n    if a == 6: moor()\n    if a == 7: moor()\n    if a == 8: moor()\n    if a == 9: moor()\n",
                    at: &["1:5"],
                    fixed: None,
                },
                Wrong {
                    code: "def sail(a, b):\n    if a and b or c:\n        pass\n    for x in [y for y in a if y]:\n        while x or a:\n            try: pass\n            except E: pass\n            except F: pass\n    return 1 if a else 2\n",
                    at: &["1:5"],
                    fixed: None,
                },
            ],
            right: &[
                "def sail(a):\n    if a == 0: moor()\n    if a == 1: moor()\n    if a == 2: moor()\n    if a == 3: moor()\n    if a == 4: moor()\n    if a == 5: moor()\n    if a == 6: moor()\n    if a == 7: moor()\n    if a == 8: moor()\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "function sail(a) {\n  switch (a) {\n    case 0: moor(); break;\n    case 1: moor(); break;\n    case 2: moor(); break;\n    case 3: moor(); break;\n    case 4: moor(); break;\n    case 5: moor(); break;\n    case 6: moor(); break;\n    case 7: moor(); break;\n    case 8: moor(); break;\n    case 9: moor(); break;\n    default: b();\n  }\n}\n",
                at: &["1:10"],
                fixed: None,
            }],
            right: &["function sail(a) {\n  return a ?? (b && c);\n}\n"],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong {
                code: "sail() {\n  a || b\n  a || b\n  a || b\n  a || b\n  a || b\n  a || b\n  a || b\n  a || b\n  a || b\n  a || b\n}\n",
                at: &["1:1"],
                fixed: None,
            }],
            right: &["sail() {\n  a || b\n}\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package tide\n\nfunc (q *Quay) sail() {\n\tif a || b {\n\t}\n\tif a || b {\n\t}\n\tif a || b {\n\t}\n\tif a || b {\n\t}\n\tif a || b {\n\t}\n}\n",
                at: &["3:16"],
                fixed: None,
            }],
            right: &[
                "package tide\n\nfunc sail() {\n\tif a {\n\t}\n\tfor b {\n\t}\n\tgo func() {\n\t\tif c {\n\t\t}\n\t}()\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "impl Quay {\n    fn sail(&self) {\n        if a || b {}\n        if a || b {}\n        if a || b {}\n        if a || b {}\n        match c { 1 => d(), 2 => e(), _ => {} }\n    }\n}\n",
                at: &["2:8"],
                fixed: None,
            }],
            right: &[
                "fn sail() {\n    if a {\n        wait();\n    }\n    let f = || if b { 1 } else { 2 };\n    loop {\n        break;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    void sail() {\n        if (a || b) moor();\n        if (a || b) moor();\n        if (a || b) moor();\n        for (;;) a = b ? c : d;\n        switch (e) { case 1: f(); case 2: g(); default: }\n    }\n}\n",
                at: &["2:10"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    void sail() {\n        if (a) moor();\n        run(() -> { if (b) moor(); });\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    void Sail()\n    {\n        if (a || b) Moor();\n        if (a || b) Moor();\n        if (a || b) Moor();\n        foreach (var c in d) e = f ?? g;\n        switch (h) { case 1: I(); break; case 2: J(); break; default: break; }\n    }\n}\n",
                at: &["3:10"],
                fixed: None,
            }],
            right: &[
                "class Quay\n{\n    void Sail()\n    {\n        if (a) Moor();\n        Run(() => { if (b) Moor(); });\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::All(COUNTED, check),
};

/// What decides, and what decisions belong to.
const COUNTED: &[Kind] = &[
    Kind::Function,
    Kind::Lambda,
    Kind::Class,
    Kind::ClassExpression,
    Kind::If,
    Kind::For,
    Kind::While,
    Kind::DoWhile,
    Kind::Catch,
    Kind::Conditional,
    Kind::Logical,
    Kind::Comprehension,
    Kind::ComprehensionClause,
    Kind::Case,
];

fn check(context: &mut Context, nodes: &[NodeRef]) {
    let limit = context.count("limit");
    let file = context.file();
    sums_by_owner(
        nodes,
        runs_apart,
        |node| decisions_at(file, node),
        |owner, decisions| {
            let count = 1 + decisions;
            if count > limit && owner.kind().is_function() {
                on_function(context, owner, count, limit);
            }
        },
    );
}

fn on_function(context: &mut Context, function: NodeRef, count: u32, limit: u32) {
    let Some(name) = name_of(function) else { return };
    let text = context.text(name);
    context
        .report(name.span(), format!("\"{text}\" has {count} independent paths, {limit} are allowed"))
        .advice("split it, or use a table");
}
