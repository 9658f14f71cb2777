use rustc_hash::FxHashSet;
use sieve_meaning::data::path::Path;
use sieve_meaning::data::{Scalar, Shape, Value};
use sieve_meaning::folder_module::ModuleQuestion;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::blocks::{labels, type_of};
use crate::interface::{BlockPath, Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Step, Wrong};
use crate::slip::{meant_or_listed, nearest};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "value-not-listed",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Probable,
    languages: &[Language::Hcl, Language::Json, Language::Jsonc, Language::Toml, Language::Yaml],
    fix: None,
    what: "a value that is none of those that the settings list for its place",
    why: "Sizes, regions and classes are few, and a team knows which it can use and pay for. A value that is none of them is refused, or does harm, only when it is put in place.",
    silent: "Without entries of `[values]` in the settings. Where the value is not written: it comes from outside, or is computed. A reference to a variable or a local value of the module counts as its default or its value.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Hcl,
            wrong: &[Wrong {
                code: "# sieve.toml\n[values]\n\"resource.quay_light.colour\" = [\"red\", \"green\"]\n# lights.tf\nresource \"quay_light\" \"north\" {\n  colour = \"blue\"\n}\n\nresource \"quay_light\" \"south\" {\n  colour = var.colour\n}\n# variables.tf\nvariable \"colour\" {\n  type    = string\n  default = \"gren\"\n}\n",
                at: &["6:12", "10:12"],
                fixed: None,
            }],
            right: &[
                "# sieve.toml\n[values]\n\"resource.quay_light.colour\" = [\"red\", \"green\"]\n# lights.tf\nresource \"quay_light\" \"north\" {\n  colour = var.west ? \"red\" : \"green\"\n}\n\nresource \"quay_light\" \"south\" {\n  colour = var.colour\n}\n\nresource \"quay_lamp\" \"south\" {\n  colour = \"blue\"\n}\n",
            ],
        },
        Examples {
            language: Language::Yaml,
            wrong: &[Wrong {
                code: "# sieve.toml\n[values]\n\"$.quays[*].size\" = [\"small\", \"large\"]\n# quays.yaml\nquays:\n  - size: small\n  - size: huge\n",
                at: &["7:11"],
                fixed: None,
            }],
            right: &[
                "# sieve.toml\n[[scope]]\npaths = [\"harbour/*\"]\nvalues = { \"$.quays[*].size\" = [\"small\", \"large\"] }\n# quays.yaml\nquays:\n  - size: huge\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Joined(&[Kind::File], check),
};

fn check(context: &mut Context, _root: NodeRef) {
    let listed = || context.listed_values().iter().filter(|listed| !listed.allowed.is_empty());
    let in_data: Vec<_> = listed().filter_map(|listed| Some((listed.place.in_data()?, &listed.allowed[..]))).collect();
    let in_blocks: Vec<_> =
        listed().filter_map(|listed| Some((listed.place.in_block()?, &listed.allowed[..]))).collect();
    if !in_data.is_empty() {
        check_data(context, &in_data);
    }
    if !in_blocks.is_empty() {
        check_blocks(context, &in_blocks);
    }
}

/// Following a path takes no more steps than this.
const MOST_STEPS: usize = 1_000_000;

fn check_data(context: &mut Context, listed: &[(&Path, &[String])]) {
    let Some(data) = context.file().values() else { return };
    for (path, allowed) in listed {
        // Aliases lead to the same value from several places.
        let mut seen = FxHashSet::default();
        for document in data.documents() {
            let Ok(found) = path.find(document, MOST_STEPS) else {
                context.unsure(document.span(), "the path takes too many steps in this file");
                continue;
            };
            for value in found.into_iter().filter(|value| seen.insert(value.span())) {
                check_value(context, value, allowed);
            }
        }
    }
}

fn check_value(context: &mut Context, value: Value<'_, '_>, allowed: &[String]) {
    let known = value.resolved();
    let items = known.children().filter(|_| known.shape() == Shape::List);
    let single = Some(value).filter(|_| known.shape() == Shape::Scalar);
    for one in items.chain(single) {
        let written = match one.resolved().scalar() {
            Some(Scalar::String(text)) => text,
            Some(Scalar::Null) => "null".to_string(),
            Some(Scalar::Boolean(flag)) => flag.to_string(),
            Some(Scalar::Whole(number)) => number.to_string(),
            Some(Scalar::Real(_)) => context.text(one.resolved().node()).to_string(),
            None => continue,
        };
        check_written(context, one.span(), None, &written, allowed);
    }
}

fn check_blocks(context: &mut Context, listed: &[(&BlockPath, &[String])]) {
    let file = context.file();
    if file.configuration().is_none() {
        return;
    }
    let named = file.tree.nodes().filter(|node| matches!(node.kind(), Kind::Assignment | Kind::Pair));
    for entry in named {
        let Some((value, way)) = entry.child(Role::Value).zip(way_to(file, entry)) else { continue };
        for (_, allowed) in listed.iter().filter(|(path, _)| path.fits(way.iter().rev().copied())) {
            check_expression(context, value, allowed);
        }
    }
}

/// The steps to an entry, the innermost first; nothing where it is in what is computed.
fn way_to<'f>(file: File<'f>, entry: NodeRef<'_>) -> Option<Vec<Step<'f>>> {
    let mut way = Vec::new();
    let step = |name: &'f str, is_label| Step { name, is_label };
    for around in std::iter::once(entry).chain(entry.ancestors()) {
        match around.kind() {
            Kind::Assignment => way.push(step(file.node_text(around.child(Role::Target)?), false)),
            Kind::Pair => way.push(step(file.node_text(around.child(Role::Key)?).trim_matches('"'), false)),
            // A block that is made for each of some values says in its label what it is.
            Kind::ConfigBlock if is_content(file, around) => {}
            Kind::ConfigBlock if type_of(file, around) == "dynamic" => {
                way.extend(labels(file, around).map(|label| step(label, false)));
            }
            Kind::ConfigBlock => {
                let first = way.len() + 1;
                way.push(step(type_of(file, around), false));
                way.extend(labels(file, around).map(|label| step(label, true)));
                way[first - 1..].reverse();
            }
            Kind::Dictionary | Kind::List | Kind::Group | Kind::Block | Kind::File => {}
            _ => return None,
        }
    }
    Some(way)
}

/// Whether a block is what blocks are made of: `dynamic "lamp" { content { … } }`.
fn is_content(file: File<'_>, block: NodeRef<'_>) -> bool {
    let around = || block.ancestors().find(|node| node.kind() == Kind::ConfigBlock);
    type_of(file, block) == "content" && around().is_some_and(|around| type_of(file, around) == "dynamic")
}

/// Expressions within each other are looked into this far.
const DEEPEST: usize = 8;

fn check_expression(context: &mut Context, value: NodeRef, allowed: &[String]) {
    let mut left = vec![(value, 0)];
    while let Some((node, depth)) = left.pop() {
        match node.kind() {
            _ if depth > DEEPEST => {}
            Kind::Group => left.extend(node.child(Role::Value).map(|inner| (inner, depth + 1))),
            Kind::List => left.extend(node.children().map(|element| (element, depth + 1))),
            Kind::Conditional => {
                left.extend([Role::Value, Role::Else].iter().filter_map(|role| Some((node.child(*role)?, depth + 1))));
            }
            _ => check_plain(context, node, allowed),
        }
    }
}

fn check_plain(context: &mut Context, node: NodeRef, allowed: &[String]) {
    let file = context.file();
    let address = Some(file.node_text(node)).filter(|_| node.kind() == Kind::Member);
    let written = match node.kind() {
        Kind::String => file.language.string_value(file.node_text(node)),
        Kind::Number | Kind::Boolean => Some(file.node_text(node).to_string()),
        _ => address.and_then(|address| {
            let question = ModuleQuestion::Value(address.to_string());
            file.others.complaint(&question)?.into_iter().next()
        }),
    };
    if let Some(written) = written {
        check_written(context, node.span(), address, &written, allowed);
    }
}

/// Reports a value that is not allowed; that of a variable or a local value is given with its address.
fn check_written(context: &mut Context, span: Span, address: Option<&str>, written: &str, allowed: &[String]) {
    if allowed.iter().any(|one| one == written) {
        return;
    }
    let what =
        address.map_or(format!("\"{written}\" is"), |address| format!("{address} is \"{written}\" here, which is"));
    let names = || allowed.iter().map(String::as_str);
    context
        .report(span, format!("{what} none of the values that the settings list"))
        .advice(meant_or_listed(nearest(written, names()), names()));
}
