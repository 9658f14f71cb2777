use sieve_meaning::folder_module::ModuleQuestion;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::blocks::{entries, type_of};
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "file-placement",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl],
    fix: None,
    what: "a variable, an output or the versions of a module in another file than the one that the folder has for them",
    why: "Whoever calls the module looks into variables.tf and outputs.tf for what it takes and gives, and misses what is elsewhere.",
    silent: "Where the folder has no file of that name, as in small modules. In files whose names begin with the same word, such as variables-pier.tf. Where not all of the module is known.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[Wrong {
            code: "# board.tf\nvariable \"lines\" {\n  type = number\n}\n\noutput \"lines\" {\n  value = var.lines\n}\n\n# variables.tf\nvariable \"colour\" {\n  type = string\n}\n",
            at: &["2:1"],
            fixed: None,
        }],
        right: &[
            "# board.tf\nvariable \"lines\" {\n  type = number\n}\n\n# tides.tf\nvariable \"colour\" {\n  type = string\n}\n",
            "# variables-pier.tf\nvariable \"lines\" {\n  type = number\n}\n\n# variables.tf\nvariable \"colour\" {\n  type = string\n}\n",
        ],
    }],
    needs_names: false,
    check: Check::Joined(&[Kind::File], check),
};

fn check(context: &mut Context, root: NodeRef) {
    let file = context.file();
    if file.configuration().is_none() {
        return;
    }
    let own = file.path.rsplit('/').next().unwrap_or_default();
    for block in root.children().filter(|node| node.kind() == Kind::ConfigBlock) {
        let Some((word, what)) = home(file, block).filter(|(word, _)| !own.starts_with(word)) else { continue };
        let place = file.others.complaint(&ModuleQuestion::FileNamed(word.to_string()));
        let Some(place) = place.and_then(|names| names.into_iter().next()) else { continue };
        let name = block.child(Role::Name).unwrap_or(block);
        context.report(name.span(), format!("{what} of this folder are in {place}")).advice("move it there");
    }
}

/// How the name of the file begins in which people look for a block, and what such blocks are.
fn home(file: File<'_>, block: NodeRef<'_>) -> Option<(&'static str, &'static str)> {
    let says_versions = || {
        entries(block).any(|entry| match entry.kind() {
            Kind::ConfigBlock => type_of(file, entry) == "required_providers",
            _ => entry.child(Role::Target).is_some_and(|name| file.node_text(name) == "required_version"),
        })
    };
    match type_of(file, block) {
        "variable" => Some(("variables", "the variables")),
        "output" => Some(("outputs", "the outputs")),
        "terraform" if says_versions() => Some(("versions", "the versions")),
        _ => None,
    }
}
