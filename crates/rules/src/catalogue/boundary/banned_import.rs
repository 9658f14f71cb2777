use sieve_meaning::refers::of_item;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{BanKind, Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "banned-import",
    concern: Concern::Boundary,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: None,
    what: "a module that the team does not want imported, with its reason",
    why: "Each entry states its reason, so that nobody has to explain it again in a review.",
    silent: "Without entries `[[ban]] import = \"…\"` in the settings; the examples are as if `tides.old` and `old-tides` were banned. For module names that are built at run time.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "import tides.old\n", at: &["1:8"], fixed: None },
                Wrong { code: "from tides import old, new\n", at: &["1:19"], fixed: None },
                Wrong { code: "from tides.old.north import depth\n", at: &["1:6"], fixed: None },
            ],
            right: &["import tides.older\nfrom tides import new\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "import { depth } from \"old-tides\";\n", at: &["1:23"], fixed: None },
                Wrong { code: "const depth = require(\"old-tides/north\");\n", at: &["1:23"], fixed: None },
            ],
            right: &["import { depth } from \"./old-tides.js\";\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package quay\n\nimport (\n\t\"fmt\"\n\t\"old-tides/north\"\n)\n",
                at: &["5:2"],
                fixed: None,
            }],
            right: &["package quay\n\nimport \"harbour/old-tides\"\n"],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "use tides::{new, old::Depth};\nuse tides::old;\n",
                at: &["1:18", "2:5"],
                fixed: None,
            }],
            right: &["use tides::older::Depth;\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "import tides.old.Depth;\nimport static tides.old.Depth.low;\nimport tides.old.*;\n",
                at: &["1:8", "2:15", "3:8"],
                fixed: None,
            }],
            right: &["import tides.older.Depth;\n"],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "using tides.old;\nusing static tides.old.Depth;\nusing Depth = tides.old.Depth;\n",
                at: &["1:7", "2:14", "3:7"],
                fixed: None,
            }],
            right: &["using tides.older;\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Import, Kind::Export, Kind::Call, Kind::ImportCall], check),
};

fn check(context: &mut Context, node: NodeRef) {
    if context.bans(BanKind::Import).next().is_none() {
        return;
    }
    let file = context.file();
    let imported = imported(file, node);
    for ban in context.bans(BanKind::Import) {
        let holds = |name: &str| {
            name.strip_prefix(&ban.name).is_some_and(|rest| rest.is_empty() || rest.starts_with(['.', '/']))
        };
        if let Some((name, place)) = imported.iter().find(|(name, _)| holds(name)) {
            context.report(place.span(), format!("{name} is not to be imported: {}", ban.because));
        }
    }
}

/// What a statement or a call imports, each with its place.
fn imported<'t>(file: File<'t>, node: NodeRef<'t>) -> Vec<(String, NodeRef<'t>)> {
    if file.traits.dotted_modules {
        return if node.kind() == Kind::Import { from_modules(file, node) } else { Vec::new() };
    }
    let is_leaf = |item: &NodeRef| item.kind() == Kind::ImportItem && item.child(Role::Item).is_none();
    let leaves = || node.descendants().filter(is_leaf);
    let is_path = |item: NodeRef| item.child(Role::Module).is_none_or(|module| module.kind() != Kind::String);
    if node.kind() == Kind::Import && named_module(file, node).is_none() && leaves().next().is_some_and(is_path) {
        let paths = leaves().filter_map(|item| Some((of_item(file.language, file.text, item)?.dotted(), item)));
        return paths.collect();
    }
    // One statement may name a module for each of its items.
    let of_items = node.children_in(Role::Item).filter_map(|item| item.child(Role::Module));
    let modules = named_module(file, node).into_iter().chain(of_items);
    let named = modules.map(|module| {
        let name = file.language.string_value(file.node_text(module)).unwrap_or_default();
        (name.trim_start_matches("node:").to_string(), module)
    });
    named.collect()
}

/// `import tides.old`, `from tides import old`
fn from_modules<'t>(file: File<'t>, node: NodeRef<'t>) -> Vec<(String, NodeRef<'t>)> {
    let module = node.child(Role::Module);
    let mut imported: Vec<(String, NodeRef)> = Vec::new();
    imported.extend(module.map(|module| (file.node_text(module).to_string(), module)));
    for item in node.children_in(Role::Item) {
        let Some(name) = item.child(Role::Module).or_else(|| item.child(Role::Name)) else { continue };
        let whole = match module {
            Some(module) => format!("{}.{}", file.node_text(module), file.node_text(name)),
            None => file.node_text(name).to_string(),
        };
        imported.push((whole, name));
    }
    imported
}

/// The text that names a module: after `from`, or given to `require` or `import`.
fn named_module<'t>(file: File<'_>, node: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let calls = node.kind() == Kind::ImportCall
        || node.child(Role::Callee).is_some_and(|callee| file.node_text(callee) == "require");
    match node.kind() {
        Kind::Import | Kind::Export => node.child(Role::Module),
        _ if calls => node.child(Role::Arguments)?.children().next().filter(|first| first.kind() == Kind::String),
        _ => None,
    }
}
