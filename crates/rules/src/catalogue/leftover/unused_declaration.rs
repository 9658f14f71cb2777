use sieve_meaning::configuration::ModuleQuestion;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unused-declaration",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl],
    fix: None,
    what: "a variable or local value that nothing in the folder refers to",
    why: "Whoever sets it believes that it does something. Nothing changes, whatever its value.",
    silent: "Where not all of the module is known: a file of it has syntax faults, is in another form, is made of a template, or is a link.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[Wrong {
            code: "# board.tf\nresource \"pier_board\" \"north\" {\n  lines = var.lines\n}\n\n# variables.tf\nvariable \"lines\" {\n  type = number\n}\n\nvariable \"colour\" {\n  type = string\n  validation {\n    condition     = var.colour != \"\"\n    error_message = \"A colour is needed.\"\n  }\n}\n\nlocals {\n  tide = 2\n}\n",
            at: &["11:10", "20:3"],
            fixed: None,
        }],
        right: &[
            "# board.tf\nresource \"pier_board\" \"north\" {\n  label = \"north: ${var.lines} ${local.tide[0]}\"\n}\n\n# variables.tf\nvariable \"lines\" {\n  type = number\n}\n\nlocals {\n  tide = [2]\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Joined(&[Kind::File], check),
};

fn check(context: &mut Context, _root: NodeRef) {
    let file = context.file();
    let Some(configuration) = file.configuration() else { return };
    for one in &configuration.declared {
        let may_be_unused = one.address.starts_with("var.") || one.address.starts_with("local.");
        if may_be_unused && file.others.complaint(&ModuleQuestion::Unused(one.address.clone())).is_some() {
            let message = format!("nothing in this folder uses {}", one.address);
            context.report(file.tree.node(one.name).span(), message).advice("remove it, and what sets it");
        }
    }
}
