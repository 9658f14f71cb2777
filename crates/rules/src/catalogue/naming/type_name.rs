use sieve_meaning::names::{Binding, DeclarationKind};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::form::{check_name, chosen_here, id_of, rename_inside, says_variance};

use crate::interface::{Certainty, Check, Concern, Context, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "type-name",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: Some(FixKind::Review),
    what: "a type whose name is not in the chosen style",
    why: "Where names of one kind have one style, readers see at a glance what a name refers to, and nobody has to remember its spelling.",
    silent: "Where nearly all such names of the code base have another style, and settings say nothing, that one is right. Types created by a call are variables. Names in capitals alone are those of the system, or abbreviations. Namespaces, and classes that are used like functions — context managers, descriptors, callables — may be named differently (PEP 8, Class Names).",
    standards: &["PEP 8, Naming Conventions"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "class tide_table:\n    pass\n", at: &["1:7"], fixed: None },
                Wrong {
                    code: "def sail():\n    class north_quay:\n        pass\n    return north_quay\n",
                    at: &["2:11"],
                    fixed: Some("def sail():\n    class NorthQuay:\n        pass\n    return NorthQuay\n"),
                },
            ],
            right: &[
                "type Tide_co = float | int\n",
                "class TideTable:\n    pass\n",
                "class HTTPServer2:\n    pass\n\nclass JSON:\n    pass\n\nclass SID_AND_KEY:\n    pass\n",
                "class at_low_tide:\n    def __enter__(self):\n        pass\n\n    def __exit__(self, *what):\n        pass\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "interface tide_table {}\ntype quay = string;\nenum Boat { A }\n",
                at: &["1:11", "2:6"],
                fixed: None,
            }],
            right: &["interface TideTable {}\nclass Quay<T> {}\nnamespace tideTools {}\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong { code: "package quay\n\ntype tide_table struct{}\n", at: &["3:6"], fixed: None }],
            right: &["package quay\n\ntype tideTable struct{}\n\ntype HTTPQuay interface{}\n"],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong { code: "struct tideTable;\ntrait Open_Quay {}\n", at: &["1:8", "2:7"], fixed: None }],
            right: &["enum TideTable {\n    Low,\n}\n\nmod quay {}\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong { code: "class tideTable {}\ninterface Open_Quay {}\n", at: &["1:7", "2:11"], fixed: None }],
            right: &[
                "record TideTable(int low) {}\n\nenum Stage { LOW }\n\n@interface Tide {}\n\nclass Fares_pt_BR extends Bundle {}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class tideTable {}\nstruct Open_Quay {}\ndelegate void onTide();\n",
                at: &["1:7", "2:8", "3:15"],
                fixed: None,
            }],
            right: &[
                "record TideTable(int Low);\n\nenum Stage { Low }\n\nnamespace ferries.tides {\n    interface IOpen {}\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Bindings(check),
};

fn check(context: &mut Context, binding: &Binding) {
    let kinds = [DeclarationKind::Class, DeclarationKind::TypeAlias];
    let Some(name) = chosen_here(context, binding, &kinds) else { return };
    let declared = name.parent();
    let is_other =
        declared.is_some_and(|holder| holder.kind() == Kind::Namespace || is_used_like_a_function(context, holder));
    if context.file().is_test() || is_other {
        return;
    }
    let span = name.span();
    let text = context.names().text(binding.name);
    // The name of a structure of the system or of another language.
    if !text.contains(char::is_lowercase) || says_variance(text) {
        return;
    }
    if context.file().traits.says_visibility && says_language(text) {
        return;
    }
    let id = id_of(context.names(), binding);
    check_name(context, "type", "type", text, span, |context, new| rename_inside(context, id?, new));
}

/// Whether a name ends with the language and the region that something is for, by which it is found: `Fares_de`, `Fares_pt_BR` (RFC 5646).
fn says_language(name: &str) -> bool {
    let is_region = |part: &str| part.len() == 2 && part.bytes().all(|letter| letter.is_ascii_uppercase());
    let is_language = |part: &str| part.len() == 2 && part.bytes().all(|letter| letter.is_ascii_lowercase());
    let mut parts = name.rsplit('_');
    let last = parts.next().unwrap_or_default();
    let is_for = |part: Option<&str>| part.is_some_and(is_language);
    let language = if is_region(last) { parts.next() } else { Some(last) };
    is_for(language) && parts.next().is_some()
}

/// What the language calls where a class represents a function: `with`, a call, or the reading of an attribute.
const CALLED: &[&str] = &["__enter__", "__aenter__", "__call__", "__get__"];

fn is_used_like_a_function(context: &Context, class: NodeRef) -> bool {
    let members = class.child(Role::Body).into_iter().flat_map(|body| body.children());
    let mut methods =
        members.filter(|member| member.kind() == Kind::Function).filter_map(|member| member.child(Role::Name));
    methods.any(|name| CALLED.contains(&context.text(name)))
}
