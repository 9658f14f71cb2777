use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use sieve_meaning::doc_comment::doc_comment;

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "empty-doc",
    concern: Concern::Docs,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_CLASSES,
    fix: None,
    what: "a docstring or doc comment without words",
    why: "The code looks documented and is not.",
    silent: "Tags with words count as documentation.",
    standards: &["PEP 257"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "def sail():\n    \"\"\" \"\"\"\n", at: &["2:5"], fixed: None }],
            right: &["def sail():\n    \"\"\"Sails.\"\"\"\n", "x = \"\"\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "/**\n *\n */\nfunction sail() {}\n", at: &["1:1"], fixed: None }],
            right: &["/** Sails. */\nfunction sail() {}\n", "/***/\n/** @internal */\nfunction moor() {}\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong { code: "/**\n *\n */\nclass Desk { }\n", at: &["1:1"], fixed: None }],
            right: &["/** Sells. */\nclass Desk { }\n"],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong { code: "///\n///\nclass Desk { }\n", at: &["1:1"], fixed: None }],
            right: &["/// <summary>Sells.</summary>\nclass Desk { }\n", "// ---\nclass Quay { }\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::File, Kind::Class, Kind::Function], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let Some(described) = doc_comment(context.file().language, context.file().text, node) else { return };
    let text = context.file().text.slice(described);
    if !text.contains(char::is_alphanumeric) {
        context.report(described, "this doc comment has no words").advice("say what it is for, or remove the comment");
    }
}
