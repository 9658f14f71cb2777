use sieve_meaning::names::{Binding, DeclarationKind, ScopeId};
use sieve_syntax::language::Language;

use super::form::chosen_here;

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "banned-name",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: None,
    what: "a name that says nothing, or that is easily misread",
    why: "Some letters look like digits in many fonts, and placeholders stay for years.",
    silent: "Names from elsewhere, such as imports and keys, are left alone, and so are tests.",
    standards: &["PEP 8, Names to Avoid"],
    options: &[OptionFacts {
        name: "names",
        default: OptionDefault::Words(&["l", "O", "I", "foo", "bar", "baz"]),
        about: "names that are not wanted; the letters l, O and I count in Python only, whose published style bans them",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "def foo():\n    l = 1\n    return l\n", at: &["1:5", "2:5"], fixed: None }],
            right: &["from boats import foo\n\ndef sail(n):\n    return n\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "const foo = 1;\n", at: &["1:7"], fixed: None }],
            right: &["const { foo } = load();\nfor (let i = 0, l = foo.length; i < l; i++) sail(foo[i]);\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Desk {\n    int sail(int low) {\n        int foo = low; return foo;\n    }\n}\n",
                at: &["3:13"],
                fixed: None,
            }],
            right: &["class Desk {\n    int sail(int low) {\n        int quay = low; return quay;\n    }\n}\n"],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk\n{\n    int Sail(int low)\n    {\n        int foo = low; return foo;\n    }\n}\n",
                at: &["5:13"],
                fixed: None,
            }],
            right: &["class Desk\n{\n    int Sail(int low)\n    {\n        int quay = low; return quay;\n    }\n}\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package fares\n\nfunc due(low int) int {\n	foo := low\n	return foo\n}\n",
                at: &["4:2"],
                fixed: None,
            }],
            right: &["package fares\n\nfunc due(low int) int {\n	quay := low\n	return quay\n}\n"],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn due(low: u8) -> u8 {\n    let foo = low;\n    foo\n}\n",
                at: &["2:9"],
                fixed: None,
            }],
            right: &["fn due(low: u8) -> u8 {\n    let quay = low;\n    quay\n}\n"],
        },
    ],
    needs_names: true,
    check: Check::Bindings(check),
};

const KINDS: &[DeclarationKind] = &[
    DeclarationKind::Function,
    DeclarationKind::Class,
    DeclarationKind::Assignment,
    DeclarationKind::Parameter,
    DeclarationKind::LoopTarget,
    DeclarationKind::Unpacking,
];

fn check(context: &mut Context, binding: &Binding) {
    let text = context.names().text(binding.name);
    if !context.words("names").iter().any(|name| name == text) || context.file().is_test() {
        return;
    }
    let digit = looks_like(text);
    if digit.is_some() && !context.file().traits.has_common_style {
        return;
    }
    // A bar is a thing of its own, unless a foo is beside it.
    let names = context.names();
    if text == "bar" && names.lookup(binding.scope, "foo").or_else(|| names.lookup(ScopeId::FILE, "foo")).is_none() {
        return;
    }
    let Some(name) = chosen_here(context, binding, KINDS) else { return };
    let message = match digit {
        Some(digit) => format!("\"{text}\" looks like the digit {digit} in many fonts"),
        None => format!("\"{text}\" says nothing about what it means"),
    };
    context.report(name.span(), message).advice("say what it is");
}

/// The digit that a letter is taken for (PEP 8, Names to Avoid).
fn looks_like(name: &str) -> Option<char> {
    match name {
        "l" | "I" => Some('1'),
        "O" => Some('0'),
        _ => None,
    }
}
