use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{BanKind, Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "banned-import",
    concern: Concern::Boundary,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_SCOPES,
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
            language: Language::Java,
            wrong: &[Wrong {
                code: "import tides.old.Depth;\nimport static tides.old.Depth.low;\nimport tides.old.*;\n",
                at: &["1:8", "2:15", "3:8"],
                fixed: None,
            }],
            right: &["import tides.older.Depth;\n"],
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
    let mut imported: Vec<(String, NodeRef)> = Vec::new();
    let of_item = node.children_in(Role::Item).find_map(|item| item.child(Role::Module));
    let is_path = of_item.is_some_and(|module| module.kind() != Kind::String);
    if file.traits.dotted_modules || is_path {
        if node.kind() != Kind::Import {
            return;
        }
        let module = node.child(Role::Module);
        imported.extend(module.map(|module| (file.node_text(module).to_string(), module)));
        for item in node.children_in(Role::Item) {
            let Some(name) = item.child(Role::Module).or_else(|| item.child(Role::Name)) else { continue };
            let whole = match (module, item.child(Role::Name).filter(|last| *last != name)) {
                (Some(module), _) => format!("{}.{}", file.node_text(module), file.node_text(name)),
                (None, Some(last)) => format!("{}.{}", file.node_text(name), file.node_text(last)),
                (None, None) => file.node_text(name).to_string(),
            };
            imported.push((whole, name));
        }
    } else {
        // One statement may name a module for each of its items.
        let of_items = node.children_in(Role::Item).filter_map(|item| item.child(Role::Module));
        for module in named_module(file, node).into_iter().chain(of_items) {
            let name = file.language.string_value(file.node_text(module)).unwrap_or_default();
            imported.push((name.trim_start_matches("node:").to_string(), module));
        }
    }
    for ban in context.bans(BanKind::Import) {
        let holds = |name: &str| {
            name.strip_prefix(&ban.name).is_some_and(|rest| rest.is_empty() || rest.starts_with(['.', '/']))
        };
        if let Some((name, place)) = imported.iter().find(|(name, _)| holds(name)) {
            context.report(place.span(), format!("{name} is not to be imported: {}", ban.because));
        }
    }
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
