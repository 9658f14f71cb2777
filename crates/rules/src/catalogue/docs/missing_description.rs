use sieve_meaning::configuration::is_of_module;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::blocks::{is_top, labels, plain, type_of, value};
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-description",
    concern: Concern::Docs,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl],
    fix: None,
    what: "a variable or an output of a module without a description",
    why: "Whoever calls the module has to read its files to learn what to give and what comes out.",
    silent: "In files of which the folder is no module. A comment is no description: programs that list what a module takes do not show it.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[Wrong {
            code: "# main.tf\nvariable \"lines\" {\n  type = number\n}\n\noutput \"depth\" {\n  value       = 3\n  description = \"\"\n}\n",
            at: &["2:10", "6:8"],
            fixed: None,
        }],
        right: &[
            "# main.tf\nvariable \"lines\" {\n  description = \"How many lines the board has.\"\n  type        = number\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Joined(&[Kind::ConfigBlock], check),
};

fn check(context: &mut Context, block: NodeRef) {
    let file = context.file();
    if !is_of_module(file.path) || !is_top(file, block, &["variable", "output"]) {
        return;
    }
    let says_nothing = |value: NodeRef| plain(file, value).is_some_and(|text| text.trim().is_empty());
    if value(file, block, "description").is_some_and(|value| !says_nothing(value)) {
        return;
    }
    let (Some(label), Some(name)) = (block.child(Role::Label), labels(file, block).next()) else { return };
    let message = format!("the {} \"{name}\" is not described", type_of(file, block));
    context.report(label.span(), message).advice("say what it is: description = …");
}
