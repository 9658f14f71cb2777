use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::inside::sums_by_owner;
use crate::size::name_of;

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "many-returns",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_CLASSES,
    fix: None,
    what: "functions with more returns than the limit",
    why: "To know what a function returns, a reader has to find each exit.",
    silent: "Returns without a value, which leave a function early, do not count.",
    standards: &[],
    options: &[OptionFacts {
        name: "limit",
        default: OptionDefault::Count(6),
        about: "the most places where a function may give its value",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "def sail(a):\n    if a == 0: return 0\n    if a == 1: return 1\n    if a == 2: return 2\n    if a == 3: return 3\n    if a == 4: return 4\n    if a == 5: return 5\n    if a == 6: return 6\n",
                at: &["1:5"],
                fixed: None,
            }],
            right: &[
                "def sail(a):\n    if a: return\n    if a: return\n    if a: return\n    if a: return\n    if a: return\n    if a: return\n    if a: return\n    if a: return\n    if a: return\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Desk {\n    int sail(int low) {\n        if (low == 0) return 0; if (low == 1) return 1; if (low == 2) return 2; if (low == 3) return 3; if (low == 4) return 4; if (low == 5) return 5; return low;\n    }\n}\n",
                at: &["2:9"],
                fixed: None,
            }],
            right: &[
                "class Desk {\n    int sail(int low) {\n        if (low == 0) return 0; if (low == 1) return 1; if (low == 2) return 2; if (low == 3) return 3; if (low == 4) return 4; return low;\n    }\n}\n",
                "class Desk {\n    void sail() {\n        if (low) return; if (low) return; if (low) return; if (low) return; if (low) return; if (low) return; if (low) return; if (low) return;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    int Sail(int low)\n    {\n        if (low == 0) return 0; if (low == 1) return 1; if (low == 2) return 2; if (low == 3) return 3; if (low == 4) return 4; if (low == 5) return 5; return low;\n    }\n}\n",
                at: &["3:9"],
                fixed: None,
            }],
            right: &[
                "class Desk\n{\n    int Sail(int low)\n    {\n        if (low == 0) return 0; if (low == 1) return 1; if (low == 2) return 2; if (low == 3) return 3; if (low == 4) return 4; return low;\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::All(&[Kind::Function, Kind::Lambda, Kind::Return], check),
};

fn check(context: &mut Context, nodes: &[NodeRef]) {
    let limit = context.count("limit");
    let with_value = |node: NodeRef| u32::from(node.child(Role::Value).is_some());
    sums_by_owner(nodes, Kind::is_function, with_value, |function, count| {
        let name = name_of(function).filter(|_| count > limit);
        if let Some(name) = name {
            let text = context.text(name);
            context
                .report(name.span(), format!("\"{text}\" returns a value in {count} places, {limit} are allowed"))
                .advice("use a table, or split it");
        }
    });
}
