use rustc_hash::FxHashMap;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::blocks::entries;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-attribute",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Html, Language::Hcl],
    fix: None,
    what: "an attribute that is there twice",
    why: "Browsers take the first and leave the second out. In an infrastructure file nothing can be planned until one of them is gone.",
    silent: "Where a template stands between them, so that only one of them may come to be.",
    standards: &["HTML, section 13.2.5.33", "HCL native syntax, Structural Elements"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[Wrong { code: "<p class=\"low\" id=\"a\" class=\"tide\">Low</p>\n", at: &["1:23"], fixed: None }],
            right: &[
                "<p class=\"low\" id=\"a\">Low</p>\n",
                "<p {% if low %}class=\"low\"{% else %}class=\"high\"{% endif %}>Low</p>\n",
            ],
        },
        Examples {
            language: Language::Hcl,
            wrong: &[Wrong { code: "board {\n  lines = 3\n  tide  = 1\n  lines = 4\n}\n", at: &["4:3"], fixed: None }],
            right: &["board {\n  lines = 3\n\n  lamp {\n    lines = 4\n  }\n}\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::StartTag, Kind::ConfigBlock], check),
};

fn check(context: &mut Context, node: NodeRef) {
    if node.kind() == Kind::ConfigBlock { in_block(context, node) } else { in_tag(context, node) }
}

fn in_block(context: &mut Context, block: NodeRef) {
    let mut seen: FxHashMap<&str, Span> = FxHashMap::default();
    let targets = entries(block).filter(|entry| entry.kind() == Kind::Assignment);
    for target in targets.filter_map(|entry| entry.child(Role::Target)) {
        let name = context.text(target);
        if let Some(first) = seen.insert(name, target.span()) {
            context
                .report(target.span(), format!("{name} has a value already in this block"))
                .related(first, "this one is there already")
                .advice("remove the one that is not meant");
        }
    }
}

fn in_tag(context: &mut Context, start: NodeRef) {
    let file = context.file();
    if start.children().any(|part| part.kind() == Kind::TemplatePart) {
        return;
    }
    let mut seen: Vec<(String, NodeRef)> = Vec::new();
    for attribute in start.children_in(Role::Attribute) {
        let Some(name) = attribute.child(Role::Name).map(|name| context.text(name).to_ascii_lowercase()) else {
            continue;
        };
        if let Some((_, first)) = seen.iter().find(|(known, _)| *known == name && !name.contains(['{', '<'])) {
            let first = first.span();
            context
                .report(attribute.span(), format!("{name} is there already, and this has no effect"))
                .related(first, "this one counts")
                .advice("remove the one that is not meant");
        }
        // Tags with more attributes than that are made by programs.
        if seen.len() < MOST {
            seen.push((name, file.tree.node(attribute.id())));
        }
    }
}

/// How many attributes of a tag are remembered.
const MOST: usize = 100;
