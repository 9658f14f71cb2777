use sieve_meaning::names::Binding;
use sieve_syntax::language::Language;

use super::form::{check_name, constant};

use super::script::on_file;

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "constant-name",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::OF_PROGRAMS,
    fix: None,
    what: "a constant whose name is not in the chosen style",
    why: "Where names of one kind have one style, readers see at a glance what a name refers to, and nobody has to remember its spelling.",
    silent: "Where nearly all such names of the code base have another style, and settings say nothing, that one is right. A constant is a module-level name that is bound once, to a number or a string; in scripts a variable that is declared so that it cannot change. Tests are left alone.",
    standards: &["PEP 8, Naming Conventions"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "maxFare = 450\n", at: &["1:1"], fixed: None }],
            right: &[
                "Quay: TypeAlias = \"str | bytes\"\n",
                "MAX_FARE = 450\n",
                "max_fare = 450\nmax_fare += 1\n",
                "boats = load()\n__version__ = \"1.0\"\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "const max_fare = 450;\n", at: &["1:7"], fixed: None }],
            right: &["const MAX_FARE = 450, maxFare = 3;\nlet max_fare = 4;\n"],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong { code: "#!/bin/sh\nreadonly maxFare=450\n", at: &["2:10"], fixed: None }],
            right: &["#!/bin/sh\nreadonly MAX_FARE=450\nreadonly max_fare=3\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong { code: "package quay\n\nconst LOW_TIDE = 2\n", at: &["3:7"], fixed: None }],
            right: &[
                "package quay\n\nconst lowTide = 2\n\nconst HighTide = 4\n\nconst TLS = 1\n\nconst sysAF_INET = 2\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong { code: "pub const maxFare: u8 = 45;\n", at: &["1:11"], fixed: None }],
            right: &["const MAX_FARE: u8 = 45;\n\nfn fare() {\n    let low = 3;\n}\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Fares {\n    static final int maxFare = 450;\n}\n",
                at: &["2:22"],
                fixed: None,
            }],
            right: &[
                "class Fares {\n    static final int MAX_FARE = 450;\n    static int lowFare = 2;\n    final int fare = 3;\n    static final Log log = Log.open();\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Fares {\n    const int max_fare = 450;\n    static readonly string lowFare = \"2\";\n}\n",
                at: &["2:15", "3:28"],
                fixed: None,
            }],
            right: &[
                "class Fares {\n    const int MaxFare = 450;\n    static int lowFare = 2;\n    readonly int fare = 3;\n    static readonly Log log = Log.Open();\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::File(check),
};

fn check(context: &mut Context) {
    on_file(context, "constant", on_binding);
}

fn on_binding(context: &mut Context, binding: &Binding) {
    let Some(name) = constant(context, binding) else { return };
    if context.file().is_test() {
        return;
    }
    let (text, span) = (context.names().text(binding.name), name.span());
    if context.file().traits.special_members.contains(&text) {
        return;
    }
    check_name(context, "constant", "constant", text, span, |_, _| None);
}
