use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "deep-nesting",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::OF_PROGRAMS,
    fix: None,
    what: "blocks nested deeper than the limit",
    why: "Each level is one more condition to keep in mind; deeply nested code is read last and tested least.",
    silent: "The branches of a chain of conditions count as one level, and so do a `try` and its handlers.",
    standards: &[],
    options: &[OptionFacts {
        name: "limit",
        default: OptionDefault::Count(4),
        about: "the most levels of blocks within a function, or in a file outside of functions",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "def sail():\n    for a in b:\n        if a:\n            while c:\n                with d:\n                    if e:\n                        moor()\n",
                at: &["6:21"],
                fixed: None,
            }],
            right: &[
                "def sail():\n    for a in b:\n        if a:\n            while c:\n                with d:\n                    moor()\n",
                "def sail():\n    if a: pass\n    elif b: pass\n    elif c: pass\n    elif d: pass\n    elif e: pass\n    elif f: pass\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "if (a) { for (const b of c) { if (d) { while (e) { if (f) { g(); } } } } }\n",
                at: &["1:52"],
                fixed: None,
            }],
            right: &["if (a) { b(); } else if (c) { d(); } else { e(); }\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package tide\n\nfunc sail() {\n\tfor a {\n\t\tif b {\n\t\t\tfor c {\n\t\t\t\tif d {\n\t\t\t\t\tif e {\n\t\t\t\t\t}\n\t\t\t\t}\n\t\t\t}\n\t\t}\n\t}\n}\n",
                at: &["8:6"],
                fixed: None,
            }],
            right: &[
                "package tide\n\nfunc sail() {\n\tif a {\n\t} else if b {\n\t} else if c {\n\t} else if d {\n\t} else if e {\n\t} else if g {\n\t}\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn sail() {\n    for a in b {\n        if let Some(c) = a {\n            loop {\n                match c {\n                    d => while e {},\n                }\n            }\n        }\n    }\n}\n",
                at: &["6:26"],
                fixed: None,
            }],
            right: &[
                "fn sail() {\n    if a {\n    } else if b {\n    } else if c {\n    } else if d {\n    } else if e {\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    void sail() {\n        for (;;) {\n            if (a) {\n                while (b) {\n                    switch (c) {\n                        case 1: if (d) moor();\n                    }\n                }\n            }\n        }\n    }\n}\n",
                at: &["7:33"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    void sail() {\n        if (a) b(); else if (c) d(); else if (e) f(); else if (g) h(); else if (i) j(); else k();\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    void Sail()\n    {\n        foreach (var a in b) {\n            if (a) {\n                while (c) {\n                    using (D()) {\n                        if (e) Moor();\n                    }\n                }\n            }\n        }\n    }\n}\n",
                at: &["9:25"],
                fixed: None,
            }],
            right: &[
                "class Quay\n{\n    void Sail()\n    {\n        if (a) B(); else if (c) D(); else if (e) F(); else if (g) H(); else if (i) J(); else K();\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::All(COUNTED, check),
};

/// Statements that nest, and what begins to count anew.
const COUNTED: &[Kind] = &[
    Kind::If,
    Kind::For,
    Kind::While,
    Kind::DoWhile,
    Kind::Try,
    Kind::With,
    Kind::Match,
    Kind::Function,
    Kind::Lambda,
    Kind::Class,
];

fn check(context: &mut Context, nodes: &[NodeRef]) {
    let limit = context.count("limit");
    // The ends of the nodes around, with their depths.
    let mut around: Vec<(NodeId, u32)> = Vec::new();
    for node in nodes {
        while around.last().is_some_and(|(end, _)| *end <= node.id()) {
            around.pop();
        }
        let outer = around.last().map_or(0, |(_, depth)| *depth);
        let depth = match node.kind() {
            kind if kind.is_function() || kind == Kind::Class => 0,
            _ if goes_on(*node) => outer,
            _ => outer + 1,
        };
        around.push((node.end(), depth));
        // Deeper statements are part of the same finding.
        if depth == limit + 1 && outer == limit {
            report(context, *node, depth, limit);
        }
    }
}

fn report(context: &mut Context, statement: NodeRef, depth: u32, limit: u32) {
    let head = statement.tree().token_span(statement.token_range().start);
    context
        .report(head, format!("nested {depth} levels deep, {limit} are allowed"))
        .advice("return early, or move the inner part to a function of its own")
        .anchor(statement.span());
}

/// Whether a condition is a further branch of the one before.
fn goes_on(statement: NodeRef) -> bool {
    statement.kind() == Kind::If && statement.role() == Role::Else
}
