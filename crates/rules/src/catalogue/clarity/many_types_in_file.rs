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
    languages: Language::WITH_NAMES,
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
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::File], check),
};

fn check(context: &mut Context, file: NodeRef) {
    let limit = context.count("limit") as usize;
    if context.file().is_test() || context.file().only_describes() {
        return;
    }
    let mut names = Vec::new();
    for statement in file.children() {
        let exported = statement.child(Role::Value).filter(|_| statement.kind() == Kind::Export);
        let declared = exported.unwrap_or(statement);
        if matches!(declared.kind(), Kind::Class | Kind::Enum | Kind::Interface) {
            names.extend(declared.child(Role::Name).map(|name| name.span()));
        }
    }
    if let Some(first) = names.get(limit) {
        context
            .report(*first, format!("{} types in one file, {limit} are allowed", names.len()))
            .advice("split the file by topic")
            .anchor(Span::at(0));
    }
}
