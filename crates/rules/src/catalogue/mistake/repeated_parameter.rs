use rustc_hash::FxHashSet;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-parameter",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "two parameters of a function with one name",
    why: "The language refuses the function when the file is loaded.",
    silent: "Nothing is left undecided.",
    standards: &["The Python Language Reference 3.14, section 8.7"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "def book(quay, tide, quay):\n    return quay\n", at: &["1:22"], fixed: None },
                Wrong { code: "sail = lambda boat, *boat: boat\n", at: &["1:22"], fixed: None },
            ],
            right: &["def book(quay, tide, *quays, **options):\n    return quay\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "function book(quay, tide, quay) {\n  return quay;\n}\n",
                at: &["1:27"],
                fixed: None,
            }],
            right: &["function book(quay, { tide, ...rest }, ...quays) {}\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Parameters], check),
};

fn check(context: &mut Context, parameters: NodeRef) {
    // One parameter has no name twice.
    if parameters.children().nth(1).is_none() {
        return;
    }
    let mut seen = FxHashSet::default();
    for parameter in parameters.children() {
        let Some(name) = parameter.child(Role::Name) else { continue };
        let text = context.text(name);
        if !seen.insert(text) {
            context
                .report(name.span(), format!("\"{text}\" is the name of two parameters"))
                .advice("give each parameter a name of its own");
        }
    }
}
