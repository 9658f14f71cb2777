use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "broken-directive",
    concern: Concern::Upkeep,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: None,
    what: "a directive in a comment that cannot be understood",
    why: "A waiver with an invalid last day would hold back findings for ever, or never; a `resume` without a pause shows that another rule was meant to be paused.",
    silent: "Nothing is left undecided.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong {
                code: "import tides  # sieve: wave unused-import because it registers itself\n",
                at: &["1:24"],
                fixed: None,
            },
            Wrong {
                code: "import tides  # sieve: waive todo-marker because of the new quay until 1.3.2027\n",
                at: &["1:72"],
                fixed: None,
            },
            Wrong { code: "# sieve: resume long-line\n", at: &["1:17"], fixed: None },
        ],
        right: &["# sieve: pause long-line because a table of tides\nTABLE = 1\n# sieve: resume long-line\n"],
    }],
    needs_names: false,
    check: Check::Upkeep,
};
