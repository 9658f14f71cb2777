use sieve_syntax::language::Language;

use crate::interface::{Certainty, Check, Concern, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "schema-check",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: Language::OF_DATA,
    fix: None,
    what: "a value that the schema of its file does not allow",
    why: "The program that reads the file refuses it, or does something else than was meant, when it runs.",
    silent: "In files that no [[schema]] of the settings names.",
    standards: &["JSON Schema 2020-12"],
    options: &[],
    examples: &[Examples {
        language: Language::Yaml,
        wrong: &[Wrong {
            code: "# sieve.toml\n[[schema]]\npaths = [\"quays/*\"]\nschema = \"quay.yaml\"\n# quay.yaml\nproperties: {depth: {type: integer}}\n# quays/north.yaml\nname: north\ndepth: low\n",
            at: &["9:8"],
            fixed: None,
        }],
        right: &[
            "# sieve.toml\n[[schema]]\npaths = [\"quays/*\"]\nschema = \"quay.yaml\"\n# quay.yaml\nproperties: {depth: {type: integer}}\n# quays/north.yaml\nname: north\ndepth: 3\n",
        ],
    }],
    needs_names: false,
    check: Check::Schemas,
};
