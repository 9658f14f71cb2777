use sieve_meaning::folder_module::ModuleQuestion;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::slip::{did_you_mean, nearest};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "undeclared-reference",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl, Language::Json],
    fix: None,
    what: "a reference to a variable, local value, resource or module that nothing in the folder declares",
    why: "Nothing can be planned or applied: the reference stops it. Most often the name is misspelt, or what it names was renamed or has moved to another folder.",
    silent: "Where not all of the module is known: a file of it has syntax faults, is in another form, is made of a template, or is a link. Where the folder declares nothing of the kind that is referred to, as if a part of it were elsewhere. In what names things that were moved or removed, and where a provider is named. For outputs of modules that are no folders of the code base.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[
            Wrong {
                code: "# board.tf\nresource \"pier_board\" \"north\" {\n  lines = var.lnes\n  tide  = local.tide\n}\n\n# variables.tf\nvariable \"lines\" {\n  type = number\n}\n\nlocals {\n  tides = 2\n}\n",
                at: &["3:11", "4:11"],
                fixed: None,
            },
            Wrong {
                code: "# main.tf\nmodule \"quay\" {\n  source = \"./quay\"\n}\n\noutput \"depth\" {\n  value = module.quay.dept\n}\n\n# quay/outputs.tf\noutput \"depth\" {\n  value = 3\n}\n",
                at: &["7:23"],
                fixed: None,
            },
            Wrong {
                code: "# main.tf\ndata \"tide_table\" \"north\" {}\n\nresource \"pier_board\" \"north\" {\n  table = data.tide_table.south.id\n  berth = pier_berth.north[0].id\n}\n",
                at: &["5:11", "6:11"],
                fixed: None,
            },
        ],
        right: &[
            "# board.tf\nresource \"pier_board\" \"north\" {\n  for_each = var.lines\n  name     = each.value.name\n  tides    = [for tide in local.tides : tide.low if tide.low > 2]\n\n  dynamic \"lamp\" {\n    for_each = var.lines\n    content {\n      colour = lamp.value.colour\n    }\n  }\n}\n\n# variables.tf\nvariable \"lines\" {\n  type = map(object({ name = string, colour = string }))\n}\n\nlocals {\n  tides = []\n}\n",
            "# a.tf\nresource \"pier_board\" \"north\" {\n  lines    = var.lines\n  provider = pier.east\n}\n",
            "# a.tf\nvariable \"lines\" {}\n\nlocals {\n  lines = var.berths\n}\n\n# b.tf\nvariable \"berths\" {\n",
        ],
    }],
    needs_names: false,
    check: Check::Joined(&[Kind::File], check),
};

fn check(context: &mut Context, _root: NodeRef) {
    let file = context.file();
    let Some(configuration) = file.configuration() else { return };
    for used in configuration.used.iter().filter(|used| used.must_exist) {
        let address = used.address.clone();
        let question = ModuleQuestion::Lacks { folder: String::new(), address };
        if let Some(near) = file.others.complaint(&question) {
            let advice = advice(&used.address, &near, "declare it, or correct the name");
            let message = format!("nothing in this folder declares {}", used.address);
            context.report(file.tree.node(used.node).span(), message).advice(advice);
            continue;
        }
        let Some(output) = used.output.map(|output| file.tree.node(output)) else { continue };
        let name = file.node_text(output).to_string();
        let question = ModuleQuestion::GivesNot { call: used.address.clone(), output: name.clone() };
        if let Some(near) = file.others.complaint(&question) {
            let advice = advice(&format!("output.{name}"), &near, "add the output to the module, or correct the name");
            context.report(output.span(), format!("{} has no output \"{name}\"", used.address)).advice(advice);
        }
    }
}

fn advice(address: &str, near: &[String], otherwise: &str) -> String {
    let meant = nearest(address, near.iter().map(String::as_str));
    did_you_mean(meant.map(|meant| meant.strip_prefix("output.").unwrap_or(meant)), otherwise)
}
