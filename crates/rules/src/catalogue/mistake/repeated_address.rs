use sieve_meaning::folder_module::ModuleQuestion;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-address",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl, Language::Json],
    fix: None,
    what: "a second declaration of a variable, local value, output, resource or module in one folder",
    why: "Nothing can be planned or applied: each name of a kind is declared once in the files of a folder. One of the two was copied, or is left over.",
    silent: "Where not all of the module is known: a file of it has syntax faults, is in another form, is made of a template, or is a link. In files that override others (`override.tf`, `…_override.tf`).",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[Wrong {
            code: "# board.tf\nvariable \"lines\" {\n  type = number\n}\n\n# variables.tf\nvariable \"lines\" {\n  type = string\n}\n",
            at: &["2:10", "7:10"],
            fixed: None,
        }],
        right: &[
            "# board.tf\nvariable \"lines\" {\n  type = number\n}\n\n# board_override.tf\nvariable \"lines\" {\n  type = string\n}\n",
            "# a/board.tf\nvariable \"lines\" {}\n\n# b/board.tf\nvariable \"lines\" {}\n",
        ],
    }],
    needs_names: false,
    check: Check::Joined(&[Kind::File], check),
};

fn check(context: &mut Context, _root: NodeRef) {
    let file = context.file();
    let Some(configuration) = file.configuration() else { return };
    for one in &configuration.declared {
        if file.others.complaint(&ModuleQuestion::Repeated(one.address.clone())).is_some() {
            let message = format!("{} is declared more than once in this folder", one.address);
            context.report(file.tree.node(one.name).span(), message).advice("remove one of the two, or rename it");
        }
    }
}
