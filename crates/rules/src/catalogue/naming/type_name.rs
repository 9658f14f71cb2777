use sieve_meaning::names::{Binding, DeclarationSort};
use sieve_syntax::language::Language;

use super::form::{check_name, chosen_here, id_of, rename_inside};

use crate::interface::{Certainty, Check, Concern, Context, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "type-name",
    concern: Concern::Naming,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: Some(FixKind::Review),
    what: "a type whose name is not written like one",
    why: "Names of one sort that look alike tell at a glance what a thing is, and nobody has to remember how a certain one is written.",
    silent: "Types that a call makes are variables.",
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
            right: &["class TideTable:\n    pass\n", "class HTTPServer2:\n    pass\n"],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "interface tide_table {}\ntype quay = string;\nenum Boat { A }\n",
                at: &["1:11", "2:6"],
                fixed: None,
            }],
            right: &["interface TideTable {}\nclass Quay<T> {}\n"],
        },
    ],
    needs_names: true,
    check: Check::Bindings(check),
};

fn check(context: &mut Context, binding: &Binding) {
    let sorts = [DeclarationSort::Class, DeclarationSort::TypeAlias];
    let Some(span) = chosen_here(context, binding, &sorts).map(|name| name.span()) else { return };
    if context.file().is_test() {
        return;
    }
    let text = context.names().text(binding.name);
    let id = id_of(context.names(), binding);
    check_name(context, "type", "type", text, span, |context, new| rename_inside(context, id?, new));
}
