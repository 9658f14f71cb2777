use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::page::page_of;
use crate::markup::{Tag, is_blank};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-id",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: None,
    what: "an id that several elements of a page have",
    why: "Labels, links and scripts find the first of them alone.",
    silent: "Where parts of templates decide which of them is there.",
    standards: &[
        "HTML, section 3.2.6",
        "WCAG 2.2 A, 1.3.1 Info and Relationships",
        "WCAG 2.2 A, 4.1.2 Name, Role, Value",
    ],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[Wrong { code: "<p id=\"north\">a</p>\n<p id=\"north\">b</p>\n", at: &["2:4"], fixed: None }],
        right: &[
            "<p id=\"north\">a</p>\n<p id=\"south\">b</p>\n",
            "{% if low %}<p id=\"north\">a</p>{% else %}<p id=\"north\">b</p>{% endif %}\n",
            "<h2 id=\"${quay.link}\">a</h2>\n<h2 id=\"${quay.link}\">b</h2>\n",
            "<p id=\"{{ quay }}\">a</p><p id=\"{{ quay }}\">b</p>\n<template><p id=\"a\"></template><p id=\"a\">\n",
        ],
    }],
    needs_names: false,
    check: Check::File(check),
};

fn check(context: &mut Context) {
    let file = context.file();
    let page = page_of(file);
    if page.is_filled_in {
        return;
    }
    let mut repeated: Vec<(NodeRef, NodeRef, &str)> = Vec::new();
    for (id, nodes) in page.repeated().filter(|(id, _)| !is_blank(id)) {
        let stands = nodes.iter().map(|node| file.tree.node(*node)).filter(|node| !in_template(file, *node));
        let mut stands = stands.collect::<Vec<_>>().into_iter();
        if let Some(first) = stands.next() {
            repeated.extend(stands.map(|other| (other, first, id)));
        }
    }
    repeated.sort_by_key(|(other, ..)| other.id());
    let place =
        |node: NodeRef| Tag::of(file, node).and_then(|tag| tag.attribute("id")).map_or(node.span(), |id| id.span());
    for (other, first, id) in repeated {
        context
            .report(place(other), format!("the id \"{id}\" is there already"))
            .related(place(first), "this element has it too")
            .advice("give one of them another id");
    }
}

/// What is in a `template` is copied by scripts, and SVG that is put in twice brings its ids along.
fn in_template(file: File<'_>, node: NodeRef<'_>) -> bool {
    let around = node.ancestors().filter(|around| around.kind() == Kind::Element);
    around.filter_map(|around| Tag::of(file, around)).any(|tag| matches!(&*tag.name, "template" | "svg" | "noscript"))
}
