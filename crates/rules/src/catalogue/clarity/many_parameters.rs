use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::size::name_of;

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "many-parameters",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: None,
    what: "functions with more parameters than the limit",
    why: "Callers have to look up each position; parameters that always go together are an object without a name.",
    silent: "The object that a method is called on, marks between parameters, and keyword-only parameters do not count. Signatures without a body are left alone: another declaration determines them.",
    standards: &[],
    options: &[OptionFacts {
        name: "limit",
        default: OptionDefault::Count(6),
        about: "the most parameters that are given by their place",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "def sail(a, b, c, d, e, f, g):\n    pass\n", at: &["1:5"], fixed: None }],
            right: &[
                "class Boat:\n    def sail(self, a, b, c, d, e, f):\n        pass\n",
                "def sail(a, b, *, c, d, e, f, g, h=1):\n    pass\n",
                "def sail(a, b, c, d, e, f, *rest, **more):\n    pass\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "function sail(a, b, c, d, e, f, g) {}\n", at: &["1:10"], fixed: None }],
            right: &[
                "define(['a', 'b', 'c', 'd', 'e', 'f', 'g'], function (a, b, c, d, e, f, g) {\n  return a;\n});\n",
                "const sail = ({ a, b, c, d, e, f, g }) => a;\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "function sail(a: A, b: B, c: C, d: D, e: E, f: F, g: G) {}\n",
                at: &["1:10"],
                fixed: None,
            }],
            right: &[
                "function sail(a: A, b: B, c: C, d: D, e: E, f: F, g: G): void;\nfunction sail(...all: any[]) {}\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package tide\n\nfunc sail(a, b, c, d int, e, f, g string) {}\n",
                at: &["3:6"],
                fixed: None,
            }],
            right: &[
                "package tide\n\nfunc (q Quay) sail(a, b, c, d int, e, f string) {}\n\ntype Sail interface {\n\tsail(a, b, c, d, e, f, g int)\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn fare(a: u8, b: u8, c: u8, d: u8, e: u8, f: u8, g: u8) {}\n",
                at: &["1:4"],
                fixed: None,
            }],
            right: &["impl Quay {\n    fn fare(&mut self, a: u8, b: u8, c: u8, d: u8) {}\n}\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    int fare(int a, int b, int c, int d, int e, int f, int g) { return a; }\n}\n",
                at: &["2:9"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    int fare(Quay this, int a, int b, int c, int d) { return a; }\n    abstract int due(int a, int b, int c, int d, int e, int f);\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    int Fare(int a, int b, int c, int d, int e, int f, int g) => a;\n}\n",
                at: &["3:9"],
                fixed: None,
            }],
            right: &[
                "class Quay\n{\n    int Fare(int a, int b, int c, int d) => a;\n    abstract int Due(int a, int b, int c, int d, int e, int f, int g);\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Function, Kind::Lambda], check),
};

/// Whether a function is given to a call behind a list that says what it gets: `define(["tides", "quays"], function (tides, quays) {})`.
fn takes_listed(function: NodeRef) -> bool {
    let mut outer = function;
    while let Some(group) = outer.parent().filter(|parent| parent.kind() == Kind::Group) {
        outer = group;
    }
    let before = outer.parent().filter(|list| list.kind() == Kind::Arguments).and(outer.previous_sibling());
    before.is_some_and(|before| before.kind() == Kind::List)
}

fn check(context: &mut Context, function: NodeRef) {
    let limit = context.count("limit");
    let Some(parameters) = function.child(Role::Parameters).filter(|_| function.child(Role::Body).is_some()) else {
        return;
    };
    let mut count = 0;
    for (index, parameter) in parameters.children_in(Role::Parameter).enumerate() {
        let text = context.text(parameter);
        if text.starts_with('*') || text.starts_with("...") {
            break;
        }
        let name = parameter.child(Role::Name).map_or(text, |name| context.text(name));
        let is_receiver = index == 0 && matches!(name, "self" | "cls" | "this") || text.starts_with("this:");
        // Several names may share a type.
        let names = parameter.children_in(Role::Name).count().max(1) as u32;
        count += if text == "/" || is_receiver { 0 } else { names };
    }
    if count > limit && !takes_listed(function) {
        let place = name_of(function).unwrap_or(parameters);
        context
            .report(place.span(), format!("{count} parameters, {limit} are allowed"))
            .advice("group those that belong together");
    }
}
