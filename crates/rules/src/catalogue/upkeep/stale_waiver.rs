use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "stale-waiver",
    concern: Concern::Upkeep,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: Some(FixKind::Exact),
    what: "a waiver that holds nothing back",
    why: "Its finding is gone. If it stays, it holds back the next mistake of that kind, although nobody decided so.",
    silent: "For rules that are off in this run, since they might find what the waiver is for.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong {
                code: "\"\"\"Tides.\"\"\"\nimport tides  # sieve: waive unused-import because it registers itself\n\ntides.today()\n",
                at: &["2:30"],
                fixed: Some("\"\"\"Tides.\"\"\"\nimport tides\n\ntides.today()\n"),
            },
            Wrong {
                code: "# sieve: waive unused-import, repeated-key because old table\nimport tides\n",
                at: &["1:31"],
                fixed: Some("# sieve: waive unused-import because old table\nimport tides\n"),
            },
        ],
        right: &["import tides  # sieve: waive unused-import because it registers itself\n"],
    }],
    needs_names: false,
    check: Check::Upkeep,
};
