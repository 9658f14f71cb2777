use sieve_meaning::configuration::is_of_module;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::blocks::{is_top, labels, value};
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-type",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl],
    fix: None,
    what: "a variable of a module that does not say of which type its values are",
    why: "Whoever calls the module cannot know what to give, and a value of a wrong type fails far from where it was given.",
    silent: "In files of which the folder is no module.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[Wrong {
            code: "# variables.tf\nvariable \"lines\" {\n  default = 3\n}\n",
            at: &["2:10"],
            fixed: None,
        }],
        right: &[
            "# variables.tf\nvariable \"lines\" {\n  type    = number\n  default = 3\n}\n",
            "# variables.pkr.hcl\nvariable \"lines\" {}\n",
        ],
    }],
    needs_names: false,
    check: Check::Joined(&[Kind::ConfigBlock], check),
};

fn check(context: &mut Context, block: NodeRef) {
    let file = context.file();
    if !is_of_module(file.path) || !is_top(file, block, &["variable"]) || value(file, block, "type").is_some() {
        return;
    }
    let (Some(label), Some(name)) = (block.child(Role::Label), labels(file, block).next()) else { return };
    context
        .report(label.span(), format!("the variable \"{name}\" has no type"))
        .advice("say which values it takes: type = …");
}
