use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "expired-waiver",
    concern: Concern::Upkeep,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: None,
    what: "a waiver whose last day is over",
    why: "It holds nothing back any more: its findings are reported again, as was decided when it was written.",
    silent: "Nothing is left undecided.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong {
            code: "tide = 3  # sieve: waive magic-number because measured by hand until 2020-03-01\n",
            at: &["1:13"],
            fixed: None,
        }],
        right: &["import tides  # sieve: waive unused-import because it registers itself until 9000-01-01\n"],
    }],
    needs_names: false,
    check: Check::Upkeep,
};
