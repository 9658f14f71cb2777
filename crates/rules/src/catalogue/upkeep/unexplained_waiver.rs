use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unexplained-waiver",
    concern: Concern::Upkeep,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: None,
    what: "a waiver that gives no reason",
    why: "Later readers cannot tell whether it still applies, and nobody dares to remove it.",
    silent: "Nothing is left undecided.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong { code: "import tides  # sieve: waive unused-import\n", at: &["1:17"], fixed: None }],
        right: &["import tides  # sieve: waive unused-import because it registers itself\n"],
    }],
    needs_names: false,
    check: Check::Upkeep,
};
