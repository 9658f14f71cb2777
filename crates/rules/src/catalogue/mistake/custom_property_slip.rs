use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::slip::{did_you_mean, is_slip, only_double};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "custom-property-slip",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Css],
    fix: None,
    what: "a custom property that nothing in the sheet sets, and whose name differs by one letter from one that it sets",
    why: "The value of what is not set is nothing: the declaration has no effect, and no browser says so.",
    silent: "Where a fallback stands behind the name, where the sheet uses the name more than once, and where no name in the sheet is alike: another sheet or a script may set it.",
    standards: &["CSS Custom Properties for Cascading Variables Level 1, section 3"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[Wrong {
            code: ":root { --tide-low: 3px; --gap: 1px }\n.quay { margin: var(--tide-lwo) var(--gap) }\n",
            at: &["2:21"],
            fixed: None,
        }],
        right: &[
            ":root { --tide-low: 3px }\n.quay { margin: var(--tide-low) var(--depth) var(--tide-lwo, 2px) }\n",
            ".quay { --a1: 1px; margin: var(--a2) }\n",
        ],
    }],
    needs_names: false,
    check: Check::All(&[Kind::StyleDeclaration, Kind::Call], check),
};

fn check(context: &mut Context, nodes: &[NodeRef]) {
    let file = context.file();
    let set: FxHashSet<&str> = nodes.iter().filter_map(|node| custom_name(file, *node)).collect();
    let mut used: FxHashMap<&str, Vec<(NodeRef, bool)>> = FxHashMap::default();
    for place in nodes.iter().filter_map(|node| read(file, *node)) {
        used.entry(file.node_text(place.0)).or_default().push(place);
    }
    let mut names: Vec<&str> = set.iter().copied().collect();
    names.sort_unstable();
    for (name, places) in used.iter().filter(|(name, _)| !set.contains(*name)) {
        let [(place, false)] = places[..] else { continue };
        let doubles = names.iter().copied().filter(|other| name.len() > SHORT && is_slip(name, other));
        if let Some(meant) = only_double(doubles) {
            context
                .report(place.span(), format!("nothing in this sheet sets {name}"))
                .advice(did_you_mean(Some(meant), ""));
        }
    }
}

/// Names of no more characters than this, the two hyphens included, are alike by chance.
const SHORT: usize = 6;

/// The name of a custom property that a declaration sets.
fn custom_name<'f>(file: File<'f>, node: NodeRef<'_>) -> Option<&'f str> {
    let name = node.child_of(Kind::StyleDeclaration, Role::Name)?;
    Some(file.node_text(name)).filter(|name| name.starts_with("--"))
}

/// The name of a custom property of which a call takes the value, and whether there is another value for the case that it has none.
fn read<'t>(file: File<'_>, call: NodeRef<'t>) -> Option<(NodeRef<'t>, bool)> {
    let callee = call.child_of(Kind::Call, Role::Callee)?;
    let mut arguments =
        call.child(Role::Arguments)?.children().filter(|_| file.node_text(callee).eq_ignore_ascii_case("var"));
    let name = arguments.next().filter(|name| name.kind() == Kind::Name)?;
    Some((name, arguments.next().is_some() || file.node_text(call).contains(',')))
}
