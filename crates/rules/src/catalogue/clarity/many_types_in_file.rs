use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "many-types-in-file",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_CLASSES,
    fix: None,
    what: "files that declare more types than the limit",
    why: "Readers look for a type by the name of its file; a file with many types holds unrelated ones.",
    silent: "Nested types, types in functions and type aliases do not count. Tests and declaration files are left alone.",
    standards: &[],
    options: &[OptionFacts {
        name: "limit",
        default: OptionDefault::Count(12),
        about: "the most classes, interfaces and enumerations that a file may declare",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "class Quay0:\n    pass\nclass Quay1:\n    pass\nclass Quay2:\n    pass\nclass Quay3:\n    pass\nclass Quay4:\n    pass\nclass Quay5:\n    pass\nclass Quay6:\n    pass\nclass Quay7:\n    pass\nclass Quay8:\n    pass\nclass Quay9:\n    pass\nclass Quay10:\n    pass\nclass Quay11:\n    pass\nclass Quay12:\n    pass\n",
                at: &["25:7"],
                fixed: None,
            }],
            right: &[
                "class Quay0:\n    pass\nclass Quay1:\n    pass\nclass Quay2:\n    pass\nclass Quay3:\n    pass\nclass Quay4:\n    pass\nclass Quay5:\n    pass\nclass Quay6:\n    pass\nclass Quay7:\n    pass\nclass Quay8:\n    pass\nclass Quay9:\n    pass\nclass Quay10:\n    pass\nclass Quay11:\n    pass\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "export class Quay0 {}\nexport class Quay1 {}\nexport class Quay2 {}\nexport class Quay3 {}\nexport class Quay4 {}\nexport class Quay5 {}\nexport class Quay6 {}\nexport class Quay7 {}\nexport class Quay8 {}\nexport class Quay9 {}\nexport class Quay10 {}\nexport class Quay11 {}\nexport class Quay12 {}\n",
                at: &["13:14"],
                fixed: None,
            }],
            right: &[
                "type Quay0 = string;\ntype Quay1 = string;\ntype Quay2 = string;\ntype Quay3 = string;\ntype Quay4 = string;\ntype Quay5 = string;\ntype Quay6 = string;\ntype Quay7 = string;\ntype Quay8 = string;\ntype Quay9 = string;\ntype Quay10 = string;\ntype Quay11 = string;\ntype Quay12 = string;\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "namespace Ferry\n{\n    class Quay0 { }\n    class Quay1 { }\n    class Quay2 { }\n    class Quay3 { }\n    class Quay4 { }\n    class Quay5 { }\n    class Quay6 { }\n    class Quay7 { }\n    class Quay8 { }\n    class Quay9 { }\n    class Quay10 { }\n    class Quay11 { }\n    class Quay12 { }\n}\n",
                at: &["15:11"],
                fixed: None,
            }],
            right: &["namespace Ferry\n{\n    class Quay { }\n    enum Tide { Low }\n}\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay0 { }\nclass Quay1 { }\nclass Quay2 { }\nclass Quay3 { }\nclass Quay4 { }\nclass Quay5 { }\nclass Quay6 { }\nclass Quay7 { }\nclass Quay8 { }\nclass Quay9 { }\nclass Quay10 { }\nclass Quay11 { }\nclass Quay12 { }\n",
                at: &["13:7"],
                fixed: None,
            }],
            right: &["class Quay { class Berth { } }\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::File], check),
};

fn check(context: &mut Context, file: NodeRef) {
    let limit = context.count("limit") as usize;
    if context.file().is_test() || context.file().only_describes() {
        return;
    }
    let types = file.tree().nodes_of_any(&[Kind::Class, Kind::Enum, Kind::Interface]);
    let names: Vec<Span> = types
        .into_iter()
        .filter(|declared| is_at_top(*declared, context.file().traits.open_namespaces))
        .filter_map(|declared| Some(declared.child(Role::Name)?.span()))
        .collect();
    if let Some(first) = names.get(limit) {
        context
            .report(*first, format!("{} types in one file, {limit} are allowed", names.len()))
            .advice("split the file by topic")
            .anchor(Span::at(0));
    }
}

/// Whether a declaration is directly in the file, or in a namespace where that is how all are.
fn is_at_top(declared: NodeRef, in_namespaces: bool) -> bool {
    declared.ancestors().all(|around| match around.kind() {
        Kind::File | Kind::Export => true,
        Kind::Namespace => in_namespaces,
        Kind::Block => around.parent().is_some_and(|holder| holder.kind() == Kind::Namespace),
        _ => false,
    })
}
