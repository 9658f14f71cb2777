use super::form::{check_name, chosen_here, constant, id_of, is_off, rename_inside, says_variance};
use super::script::on_file;
use sieve_meaning::names::{Binding, DeclarationKind, ScopeId, ScopeKind};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, FixKind, Level, Mesh, NameStyle, Rule, Wrong};
use crate::modifier::kinds_before;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "variable-name",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_VARIABLES,
    fix: Some(FixKind::Review),
    what: "a variable whose name is not in the chosen style",
    why: "Where names of one kind have one style, readers see at a glance what a name refers to, and nobody has to remember its spelling.",
    silent: "Where nearly all such names of the code base have another style, and settings say nothing, that one is right. Names may also have the style of types, which variables may hold, and module-level names that of constants. Destructured names and imports keep the names of their origin. In infrastructure files, names of resources and modules are left alone: what exists is known by them. In shell scripts, environment variables and those that another script may read are left alone.",
    standards: &["PEP 8, Naming Conventions"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "def sail():\n    nextTide = 3\n    return nextTide\n",
                    at: &["2:5"],
                    fixed: Some("def sail():\n    next_tide = 3\n    return next_tide\n"),
                },
                Wrong { code: "for quayName in load():\n    print(quayName)\n", at: &["1:5"], fixed: None },
            ],
            right: &[
                "Boat_co = TypeVar(\"Boat_co\", covariant=True)\n",
                "Point = namedtuple(\"Point\", \"x y\")\nlogger = get()\nALL = load()\nimport tides as T2\n",
                "def sail():\n    N1 = 3\n    T = load()\n    next_tide = N1\n    return next_tide, T\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "function sail() {\n  const next_tide = 3;\n  return { next_tide };\n}\n",
                at: &["2:9"],
                fixed: Some("function sail() {\n  const nextTide = 3;\n  return { next_tide: nextTide };\n}\n"),
            }],
            right: &["const { next_tide } = load();\nconst ALL_TIDES = load();\n"],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong {
                code: "#!/bin/sh\nnextTide=3\nfor quayName in north south; do\n  nextTide=$(load \"$quayName\")\ndone\n",
                at: &["2:1", "3:5"],
                fixed: None,
            }],
            right: &[
                "#!/bin/sh\nnext_tide=3\nALL_TIDES=4\nPATH=/quays\nexport lowTide=2\nseaState=1 sail\n",
                "nextTide=3\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package quay\n\nfunc sail() int {\n\tnext_tide := 3\n\treturn next_tide\n}\n",
                at: &["4:2"],
                fixed: Some("package quay\n\nfunc sail() int {\n\tnextTide := 3\n\treturn nextTide\n}\n"),
            }],
            right: &[
                "package quay\n\nfunc sail() int {\n\tnextTide := 3\n\tuserID := 4\n\treturn nextTide + userID\n}\n",
            ],
        },
        Examples {
            language: Language::Hcl,
            wrong: &[Wrong {
                code: "# This is infra/lines.tf.\nvariable \"lineCount\" {\n  type = number\n}\n\nlocals {\n  LowTide = 2\n}\n\noutput \"next-tide\" {\n  value = local.LowTide\n}\n",
                at: &["2:10", "7:3", "10:8"],
                fixed: None,
            }],
            right: &[
                "# This is infra/lines.tf.\nvariable \"line_count\" {\n  type = number\n}\n\nresource \"pier_board\" \"northBoard\" {\n  lineCount = var.line_count\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn sail() {\n    let mut nextTide = 3;\n    nextTide += 1;\n    println!(\"{nextTide}\");\n}\n",
                at: &["2:13"],
                fixed: Some(
                    "fn sail() {\n    let mut next_tide = 3;\n    next_tide += 1;\n    println!(\"{next_tide}\");\n}\n",
                ),
            }],
            right: &[
                "static LOW: u8 = 1;\n\nfn sail() {\n    let next_tide = 3;\n    for tide in next_tide..LOW {\n        go(tide);\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Boat {\n    int sail() {\n        int next_tide = 3;\n        return next_tide;\n    }\n}\n",
                at: &["3:13"],
                fixed: Some(
                    "class Boat {\n    int sail() {\n        int nextTide = 3;\n        return nextTide;\n    }\n}\n",
                ),
            }],
            right: &[
                "class Boat {\n    int sail() {\n        final int LOW_TIDE = 2;\n        int nextTide = LOW_TIDE;\n        for (var tide : tides) nextTide += tide;\n        return nextTide;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Boat {\n    int Sail() {\n        int next_tide = 3;\n        return next_tide;\n    }\n}\n",
                at: &["3:13"],
                fixed: Some(
                    "class Boat {\n    int Sail() {\n        int nextTide = 3;\n        return nextTide;\n    }\n}\n",
                ),
            }],
            right: &[
                "class Boat {\n    int Sail() {\n        const int LOW_TIDE = 2;\n        int nextTide = LOW_TIDE;\n        foreach (var tide in tides) nextTide += tide;\n        return nextTide;\n    }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::File(check),
};

const KINDS: &[DeclarationKind] = &[
    DeclarationKind::Assignment,
    DeclarationKind::Unpacking,
    DeclarationKind::NamedExpression,
    DeclarationKind::Annotation,
    DeclarationKind::Update,
    DeclarationKind::LoopTarget,
    DeclarationKind::WithTarget,
    DeclarationKind::CaughtException,
    DeclarationKind::Deletion,
];

fn check(context: &mut Context) {
    if context.file().configuration().is_some() {
        return on_declarations(context);
    }
    on_file(context, "variable", on_binding);
}

/// What a file of a module declares, but for what lives on under its name: resources and modules.
fn on_declarations(context: &mut Context) {
    let file = context.file();
    for one in file.configuration().into_iter().flat_map(|configuration| &configuration.declared) {
        let Some((noun, name)) = one.value_name() else { continue };
        check_name(context, "variable", noun, name, file.tree.node(one.name).span(), |_, _| None);
    }
}

/// Whether a declaration is one of a variable: neither `const` nor `static` is before its name.
fn says_variable(declaration: NodeRef) -> bool {
    !kinds_before(declaration).any(|(_, kind)| matches!(kind, TokenKind::Const | TokenKind::StaticWord))
}

/// Whether a variable says that it cannot change, so that it is a constant of its function.
fn says_final(context: &Context, binding: &Binding) -> bool {
    let file = context.file();
    let first = binding.declarations.first().map(|one| file.tree.node(one.node));
    let declaration = first.and_then(|name| name.ancestors().find(|around| around.kind() == Kind::Declaration));
    declaration.is_some_and(|declaration| file.node_text(declaration).starts_with("final"))
}

fn on_binding(context: &mut Context, binding: &Binding) {
    let names = context.names();
    let text = names.text(binding.name);
    let at_top = binding.scope == ScopeId::FILE;
    if !is_off(context, "variable", text)
        || names.scope(binding.scope).kind == ScopeKind::Class
        || constant(context, binding).is_some()
    {
        return;
    }
    let Some(name) = chosen_here(context, binding, KINDS) else { return };
    let span = name.span();
    // A variable that never changes is a constant where the language has a word for variables of its own.
    let declaration = name.ancestors().find(|around| around.kind() == Kind::Declaration);
    if context.file().traits.says_visibility && declaration.is_some_and(|declaration| !says_variable(declaration)) {
        return;
    }
    // What a call makes for the whole file may be a constant or a type; capitals alone may be a sign of a formula.
    let is_other =
        NameStyle::UpperCamel.fits(text) || says_variance(text) || at_top && NameStyle::UpperSnake.fits(text);
    let is_formula = text.len() < 4 && text.starts_with(char::is_uppercase);
    let is_other = is_other || NameStyle::UpperSnake.fits(text) && says_final(context, binding);
    if is_other || is_formula || context.file().is_test() {
        return;
    }
    let id = id_of(names, binding);
    check_name(context, "variable", "variable", text, span, |context, new| rename_inside(context, id?, new));
}
