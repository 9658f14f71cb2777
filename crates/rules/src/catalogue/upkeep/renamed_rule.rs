use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "renamed-rule",
    concern: Concern::Upkeep,
    mesh: Mesh::Medium,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: Some(FixKind::Exact),
    what: "a rule called by the name that it had in an earlier release",
    why: "The old name keeps working, but cannot be looked up. The rule checks settings, waivers and the baseline.",
    silent: "Nothing is left undecided.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[Wrong {
            // As if a release had given `unused-import` its name; the tests run it under such a history.
            code: "import tides  # sieve: waive needless-import because it registers itself\n",
            at: &["1:30"],
            fixed: Some("import tides  # sieve: waive unused-import because it registers itself\n"),
        }],
        right: &["import tides  # sieve: waive unused-import because it registers itself\n"],
    }],
    needs_names: false,
    check: Check::Upkeep,
};
