use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "idle-scope",
    concern: Concern::Upkeep,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: None,
    what: "a pattern in the settings that matches no file",
    why: "The folder was moved or is misspelt: the entry has no effect, and nobody notices.",
    silent: "Where only a part of the settings' folder is sifted.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong {
                code: "[[scope]]\npaths = [\"bokking/**\"]\nrules = { long-line = \"off\" }\n",
                at: &["2:10"],
                fixed: None,
            },
            Wrong { code: "[files]\nskip = [\"booking/**\", \"vendor/**\"]\n", at: &["2:23"], fixed: None },
        ],
        right: &["[[scope]]\npaths = [\"booking/**\"]\nrules = { long-line = \"off\" }\n"],
    }],
    needs_names: false,
    check: Check::Settings,
};
