use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unknown-waived-rule",
    concern: Concern::Upkeep,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: None,
    what: "a waiver that names an unknown rule or concern, or none at all",
    why: "It holds nothing back, although it looks as if it did.",
    silent: "Nothing is left undecided.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong {
                code: "tide = 3  # sieve: waive unused-imprt because it registers itself\n",
                at: &["1:26"],
                fixed: None,
            },
            Wrong { code: "tide = 3  # sieve: waive because it registers itself\n", at: &["1:20"], fixed: None },
        ],
        right: &["import tides  # sieve: waive unused-import because it registers itself\n"],
    }],
    needs_names: false,
    check: Check::Upkeep,
};
