use sieve_meaning::folder_module::ModuleQuestion;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::blocks::folder_calls;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::slip::{did_you_mean, nearest};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unknown-argument",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl, Language::Json],
    fix: None,
    what: "a value that is given to a module of the code base which has no variable for it",
    why: "Nothing can be planned or applied: the module refuses what it does not declare. Most often the name is misspelt, or the variable was renamed or removed.",
    silent: "For modules that are no folders of the code base. Where not all of the module is known: a file of it has syntax faults, is in another form, is made of a template, or is a link.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[Wrong {
            code: "# main.tf\nmodule \"quay\" {\n  source = \"./quay\"\n  dept   = 3\n}\n\n# quay/variables.tf\nvariable \"depth\" {\n  type    = number\n  default = 2\n}\n",
            at: &["4:3"],
            fixed: None,
        }],
        right: &[
            "# main.tf\nmodule \"quay\" {\n  source     = \"./quay\"\n  count      = 2\n  depends_on = [module.tides]\n  depth      = 3\n}\n\nmodule \"tides\" {\n  source = \"harbour/tides/pier\"\n  level  = 3\n}\n\n# quay/variables.tf\nvariable \"depth\" {\n  type = number\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Joined(&[Kind::File], check),
};

fn check(context: &mut Context, _root: NodeRef) {
    let file = context.file();
    for (call, folder) in folder_calls(file) {
        for (name, place) in &call.given {
            let address = format!("var.{name}");
            let question = ModuleQuestion::Lacks { folder: folder.to_string(), address: address.clone() };
            let Some(near) = file.others.complaint(&question) else { continue };
            let meant = nearest(&address, near.iter().map(String::as_str));
            let meant = meant.and_then(|meant| meant.strip_prefix("var."));
            let assignment = file.tree.node(*place);
            let span = assignment.child(Role::Target).unwrap_or(assignment).span();
            context
                .report(span, format!("the module in {folder} has no variable \"{name}\""))
                .advice(did_you_mean(meant, "remove it, or declare the variable there"));
        }
    }
}
