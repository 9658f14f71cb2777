use rustc_hash::FxHashMap;
use sieve_meaning::doc_comment::doc_comment;
use sieve_meaning::folder_module::ModuleQuestion;
use sieve_meaning::names::{DeclarationKind, ScopeId};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use crate::blocks::{entries, type_of};
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unused-declaration",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Go, Language::Hcl, Language::Json],
    fix: None,
    what: "what only the files of a folder can use, and nothing in them refers to",
    why: "Whoever sets or changes it believes that it does something. Nothing changes, whatever it says.",
    silent: "Where not all of the module is known: a file of it has syntax faults, is in another form or language, is made of a template or by a program, or is a link. In Go, for methods, and for constants that are declared together, of which a program may need some; nor for what has a comment above it that a program reads.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Hcl,
            wrong: &[Wrong {
                code: "# board.tf\nresource \"pier_board\" \"north\" {\n  lines = var.lines\n}\n\n# variables.tf\nvariable \"lines\" {\n  type = number\n}\n\nvariable \"colour\" {\n  type = string\n  validation {\n    condition     = var.colour != \"\"\n    error_message = \"A colour is needed.\"\n  }\n}\n\nlocals {\n  tide = 2\n}\n\ndata \"tide_table\" \"north\" {}\n",
                at: &["11:10", "20:3", "23:19"],
                fixed: None,
            }],
            right: &[
                "# board.tf\nresource \"pier_board\" \"north\" {\n  label = \"north: ${var.lines} ${local.tide[0]}\"\n}\n\n# variables.tf\nvariable \"lines\" {\n  type = number\n}\n\nlocals {\n  tide = [2]\n}\n\ndata \"tide_table\" \"north\" {\n  lifecycle {\n    postcondition {\n      condition = self.low < 3\n    }\n  }\n}\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "// board.go\npackage board\n\nconst lines = 3\n\nfunc Show() string {\n\treturn line(1)\n}\n\n// line.go\npackage board\n\ntype tide struct{ low int }\n\nfunc line(index int) string {\n\treturn \"\"\n}\n\nfunc fold(index int) int {\n\treturn fold(index - 1)\n}\n",
                at: &["4:7", "13:6", "19:6"],
                fixed: None,
            }],
            right: &[
                "// board.go\npackage board\n\nconst lines = 3\n\nfunc Show() string {\n\treturn line(lines)\n}\n\nfunc init() {}\n\n// line.go\npackage board\n\ntype tide struct{ low int }\n\nvar _ = tide{}\n\nfunc line(index int) string {\n\treturn \"\"\n}\n\nconst (\n\tlow = iota\n\thigh\n)\n",
                "// board.go\npackage board\n\n//go:generate make lines\n\nconst lines = 3\n",
                "// board.go\npackage board\n\n// What a board answers.\n//\n// swagger:response lines\ntype lines struct{}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Joined(&[Kind::File], check),
};

fn check(context: &mut Context, _root: NodeRef) {
    let file = context.file();
    if file.traits.capitals_are_public {
        check_package(context);
    }
    let Some(configuration) = file.configuration() else { return };
    for one in &configuration.declared {
        let is_value = one.address.starts_with("var.") || one.address.starts_with("local.");
        let is_looked_up = one.address.starts_with("data.") && !has_conditions(file, file.tree.node(one.node));
        let may_be_unused = is_value || is_looked_up;
        if may_be_unused && file.others.complaint(&ModuleQuestion::Unused(one.address.clone())).is_some() {
            let message = format!("nothing in this folder uses {}", one.address);
            context.report(file.tree.node(one.name).span(), message).advice("remove it, and what sets it");
        }
    }
}

/// Whether a block that looks something up says what must hold of it: that is use enough.
fn has_conditions(file: File<'_>, block: NodeRef) -> bool {
    entries(block).any(|entry| entry.kind() == Kind::ConfigBlock && type_of(file, entry) == "lifecycle")
}

/// Names of a package that other packages do not see.
fn check_package(context: &mut Context) {
    let (file, names) = (context.file(), context.names());
    // All names of one statement have the comment above it.
    let mut for_programs: FxHashMap<NodeId, bool> = FxHashMap::default();
    for binding in names.bindings().filter(|binding| binding.scope == ScopeId::FILE) {
        let name = names.text(binding.name);
        let [only] = binding.declarations.as_slice() else { continue };
        let node = file.tree.node(only.node);
        if only.kind == DeclarationKind::Import || name.starts_with(char::is_uppercase) || is_one_of_several(node) {
            continue;
        }
        let is_unused = file.others.complaint(&ModuleQuestion::Unused(name.to_string())).is_some();
        let mut is_for_program = || {
            let statement = node.ancestors().find(|around| around.role() == Role::Statement);
            statement.is_some_and(|statement| {
                *for_programs.entry(statement.id()).or_insert_with(|| has_directive_above(file, statement))
            })
        };
        if is_unused && !is_for_program() {
            context.report(node.span(), format!("nothing in this folder uses {name}")).advice("remove it");
        }
    }
}

/// Whether the comment above a statement is written for a program, which then finds what it is on: `// swagger:response tides`.
fn has_directive_above(file: File<'_>, statement: NodeRef) -> bool {
    let is_word = |letter: char| letter.is_ascii_lowercase() || letter.is_ascii_digit() || letter == '-';
    let is_directive = |line: &str| {
        let words = line.trim().trim_start_matches("//").trim_start();
        words.split_once(':').is_some_and(|(program, rest)| {
            !program.is_empty() && program.chars().all(is_word) && rest.starts_with(is_word)
        })
    };
    let comment = doc_comment(file.language, file.text, statement);
    comment.is_some_and(|comment| file.text.slice(comment).lines().take(MOST_LINES).any(is_directive))
}

/// So many lines of a comment are looked at.
const MOST_LINES: usize = 100;

/// Whether a constant is one of several that are declared together: the values of a format, say, of which a program needs some.
fn is_one_of_several(name: NodeRef) -> bool {
    let declaration = name.ancestors().find(|around| around.kind() == Kind::Declaration);
    declaration.is_some_and(|declaration| {
        declaration.first_token_kind() == TokenKind::Const && declaration.children_in(Role::Item).nth(1).is_some()
    })
}
