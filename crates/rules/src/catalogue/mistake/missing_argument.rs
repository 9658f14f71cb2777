use sieve_meaning::folder_module::ModuleQuestion;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::blocks::folder_calls;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-argument",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl, Language::Json],
    fix: None,
    what: "a call of a module of the code base that lacks a value which the module needs",
    why: "Nothing can be planned or applied until the value is given: its variable has no default.",
    silent: "For modules that are no folders of the code base. Where not all of the module is known: a file of it has syntax faults, is in another form, is made of a template, or is a link.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[Wrong {
            code: "# main.tf\nmodule \"quay\" {\n  source = \"./quay\"\n  name   = \"north\"\n}\n\n# quay/variables.tf\nvariable \"depth\" {\n  type = number\n}\n\nvariable \"name\" {\n  type = string\n}\n",
            at: &["2:8"],
            fixed: None,
        }],
        right: &[
            "# main.tf\nmodule \"quay\" {\n  source = \"./quay\"\n  depth  = 3\n}\n\n# quay/variables.tf\nvariable \"depth\" {\n  type = number\n}\n\nvariable \"name\" {\n  type    = string\n  default = null\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Joined(&[Kind::File], check),
};

fn check(context: &mut Context, _root: NodeRef) {
    let file = context.file();
    for (call, folder) in folder_calls(file) {
        let given = call.given.iter().map(|(name, _)| name.clone()).collect();
        let question = ModuleQuestion::NotGiven { folder: folder.to_string(), given };
        let Some(lacking) = file.others.complaint(&question) else { continue };
        let names: Vec<String> = lacking.iter().map(|name| format!("\"{name}\"")).collect();
        let what = if names.len() == 1 { "a value" } else { "values" };
        context
            .report(
                file.tree.node(call.name).span(),
                format!("the module in {folder} needs {what} for {}", names.join(", ")),
            )
            .advice("give it here, or a default there");
    }
}
