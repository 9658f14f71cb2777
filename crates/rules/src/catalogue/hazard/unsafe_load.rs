use sieve_meaning::declared::{class_of, only_value};
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
    silent: "In tests, for what is dumped right before, and where the loader is safe: one of those by name, or a class of the file that is made from one. Where the loader is a parameter, nobody can know.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "import pickle\npickle.loads(ticket)\n", at: &["2:1"], fixed: None },
            Wrong { code: "import yaml\nyaml.load(ticket)\n", at: &["2:1"], fixed: None },
            Wrong { code: "import yaml\nyaml.load(ticket, Loader=yaml.UnsafeLoader)\n", at: &["2:1"], fixed: None },
        ],
        right: &[
            "import pickle, yaml\nfrom yaml import SafeLoader\n\nclass Tides(SafeLoader):\n    pass\n\nyaml.load(ticket, Tides)\ncopy = pickle.loads(pickle.dumps(ticket))\n",
            "import json, yaml\njson.loads(ticket)\nyaml.safe_load(ticket)\nyaml.load(ticket, Loader=yaml.SafeLoader)\n",
        ],
    }],
    needs_names: true,
    check: Check::Named(&[Kind::Call], RUNS, check),
};

const RUNS: &[&str] = &[
    "pickle.load",
    "pickle.loads",
    "pickle.Unpickler",
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
    if file.is_test() || gives_back_own(context, call) {
        return;
    }
    let loader = if *name == *"yaml.load" { loader_of(context, call) } else { Loader::Open };
    match loader {
        Loader::Safe => {}
        Loader::Unknown => context.unsure(call.span(), "the loader is not known here"),
        Loader::Open => {
            context
                .report(call.span(), format!("{name} can run code from the data"))
                .advice("use a format for plain data, such as JSON");
        }
    }
}

/// What a loader lets the data do.
enum Loader {
    Safe,
    Unknown,
    Open,
}

/// The loader that a call is given, by keyword or as its second argument.
fn loader_of(context: &Context, call: NodeRef) -> Loader {
    let mut arguments = call.child(Role::Arguments).into_iter().flat_map(|arguments| arguments.children());
    let named = |one: &NodeRef| {
        let name = one.child_of(Kind::KeywordArgument, Role::Name);
        name.is_some_and(|name| context.text(name) == "Loader")
    };
    let spreads = |one: NodeRef| one.kind() == Kind::Spread && context.text(one).starts_with("**");
    let given = arguments.clone().find(named).and_then(|given| given.child(Role::Value));
    match given.or_else(|| arguments.clone().nth(1).filter(|one| one.kind() != Kind::Spread)) {
        Some(loader) => kind_of(context, loader),
        None if arguments.any(spreads) => Loader::Unknown,
        None => Loader::Open,
    }
}

/// Loaders that construct any object.
const OPEN: &[&str] = &["yaml.Loader", "yaml.CLoader", "yaml.UnsafeLoader", "yaml.CUnsafeLoader"];

fn kind_of(context: &Context, loader: NodeRef) -> Loader {
    let file = context.file();
    let is_safe = |node: NodeRef| ["Safe", "Base"].iter().any(|word| file.node_text(node).contains(word));
    if file.refers_to(loader, OPEN).is_some() {
        return Loader::Open;
    }
    // A class of the file with a safe one as its base, or a variable that is one.
    let of_class = class_of(context.names(), loader).and_then(|class| class.child(Role::Arguments));
    let of_variable = || only_value(context.names(), loader);
    if is_safe(loader) || of_class.or_else(of_variable).is_some_and(is_safe) { Loader::Safe } else { Loader::Unknown }
}

/// Whether what is loaded was dumped right here: `loads(dumps(tide))`.
fn gives_back_own(context: &Context, call: NodeRef) -> bool {
    let first = call.child(Role::Arguments).and_then(|arguments| arguments.children().next());
    let is_dump = |value: NodeRef| {
        value.kind() == Kind::Call
            && value.child(Role::Callee).is_some_and(|callee| context.text(callee).ends_with("dumps"))
    };
    first.is_some_and(|first| {
        is_dump(first) || first.kind() == Kind::Name && only_value(context.names(), first).is_some_and(is_dump)
    })
}
