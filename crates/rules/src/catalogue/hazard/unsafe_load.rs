use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unsafe-load",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "data loaded in a way that lets it run code",
    why: "The format can construct objects and call functions. Whoever writes the file controls the program.",
    silent: "In tests, and where a safe loader is named.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "import pickle\npickle.loads(ticket)\n", at: &["2:1"], fixed: None },
            Wrong { code: "import yaml\nyaml.load(ticket)\n", at: &["2:1"], fixed: None },
        ],
        right: &[
            "import json, yaml\njson.loads(ticket)\nyaml.safe_load(ticket)\nyaml.load(ticket, Loader=yaml.SafeLoader)\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::Call], check),
};

const RUNS: &[&str] = &[
    "pickle.load",
    "pickle.loads",
    "pickle.Unpickler",
    "marshal.load",
    "marshal.loads",
    "shelve.open",
    "yaml.load",
    "yaml.unsafe_load",
    "dill.load",
    "dill.loads",
    "jsonpickle.decode",
];

fn check(context: &mut Context, call: NodeRef) {
    let file = context.file();
    let Some(name) = call.child(Role::Callee).and_then(|callee| file.refers_to(callee, RUNS)) else { return };
    let plain = || file.node_text(call).contains("SafeLoader");
    let runs = *name != *"yaml.load" || !plain();
    if runs && !file.is_test() {
        context
            .report(call.span(), format!("{name} can run code from the data"))
            .advice("use a format for plain data, such as JSON");
    }
}
