use super::form::{check_name, chosen_here, id_of, is_of_another_language, is_off, rename_inside};
use sieve_meaning::names::{Binding, DeclarationKind};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, FixKind, Level, Mesh, NameStyle, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "parameter-name",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: Some(FixKind::Review),
    what: "a parameter whose name is not in the chosen style",
    why: "Where names of one kind have one style, readers see at a glance what a name refers to, and nobody has to remember its spelling.",
    silent: "Where nearly all such names of the code base have another style, and settings say nothing, that one is right. Parameters of methods of a class with bases may be determined by the bases; those that hold a type may be named like one.",
    standards: &["PEP 8, Naming Conventions"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "def sail(northQuay):\n    pass\n", at: &["1:10"], fixed: None }],
            right: &[
                "def sail(north_quay, *rest, N=1):\n    pass\n",
                "class Boat(Ship):\n    def sail(self, northQuay):\n        pass\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "const sail = (north_quay) => north_quay;\n",
                at: &["1:15"],
                fixed: Some("const sail = (northQuay) => northQuay;\n"),
            }],
            right: &["const sail = ({ north_quay }) => north_quay;\nconst board = (Item) => Item;\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package quay\n\nfunc sail(next_tide int) int {\n\treturn next_tide\n}\n",
                at: &["3:11"],
                fixed: Some("package quay\n\nfunc sail(nextTide int) int {\n\treturn nextTide\n}\n"),
            }],
            right: &[
                "package quay\n\nfunc sail(nextTide int, userID string, _ bool) (n int, err error) {\n\treturn nextTide, nil\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn sail(nextTide: u8) {\n    wait(nextTide)\n}\n",
                at: &["1:9"],
                fixed: Some("fn sail(next_tide: u8) {\n    wait(next_tide)\n}\n"),
            }],
            right: &["fn sail(next_tide: u8, _: u8) {\n    wait(|tide| tide + next_tide)\n}\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Boat {\n    void sail(int next_tide) {\n        wait(next_tide);\n    }\n}\n",
                at: &["2:19"],
                fixed: Some("class Boat {\n    void sail(int nextTide) {\n        wait(nextTide);\n    }\n}\n"),
            }],
            right: &[
                "class Boat {\n    Runnable sail(int nextTide, String[] N) {\n        return () -> wait(nextTide);\n    }\n}\n",
                "class Boat extends Ship {\n    void sail(int next_tide) {}\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[
                Wrong {
                    code: "class Boat {\n    void Sail(int next_tide) {\n        Wait(next_tide);\n    }\n}\n",
                    at: &["2:19"],
                    fixed: None,
                },
                Wrong {
                    code: "class Boat {\n    Func<int, int> sail = next_tide => next_tide;\n}\n",
                    at: &["2:27"],
                    fixed: Some("class Boat {\n    Func<int, int> sail = nextTide => nextTide;\n}\n"),
                },
            ],
            right: &[
                "class Boat {\n    Action Sail(int nextTide, string[] N) {\n        return () => Wait(nextTide);\n    }\n}\n",
                "class Boat : Ship {\n    void Sail(int next_tide) {}\n}\n",
                "record Boat(int Depth);\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Bindings(check),
};

fn check(context: &mut Context, binding: &Binding) {
    let Some(name) = chosen_here(context, binding, &[DeclarationKind::Parameter]) else { return };
    if !is_off(context, "parameter", context.names().text(binding.name)) {
        return;
    }
    // The members of an enumeration are bound like parameters.
    if name.role() == Role::Name && name.parent().is_some_and(|holder| holder.kind() == Kind::EnumMember) {
        return;
    }
    let method = name.ancestors().find(|around| around.kind().is_function());
    if method.is_some_and(|function| is_of_another_language(context, function)) {
        return;
    }
    let foreign = method.and_then(|method| method.class_around()).is_some_and(|class| context.file().has_bases(class));
    let text = context.names().text(binding.name);
    let is_formula = text.len() < 4 && text.starts_with(char::is_uppercase);
    if foreign || is_formula || NameStyle::UpperCamel.fits(text) || context.file().is_test() {
        return;
    }
    let (span, id) = (name.span(), id_of(context.names(), binding));
    check_name(context, "parameter", "parameter", text, span, |context, new| rename_inside(context, id?, new));
}
