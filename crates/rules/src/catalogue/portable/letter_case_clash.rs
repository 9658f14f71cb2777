use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "letter-case-clash",
    concern: Concern::Portable,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: None,
    what: "two paths that differ only in case",
    why: "On a case-insensitive file system a checkout keeps only one of the two.",
    silent: "For files that are not sifted.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong { code: "web/Quay.py\nweb/quay.py\n", at: &["2:1"], fixed: None }],
        right: &["web/quay.py\nweb/quays.py\n"],
    }],
    needs_names: false,
    check: Check::Paths,
};
