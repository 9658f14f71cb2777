use std::cell::OnceCell;

use sieve_syntax::html::template::may_decide;
use sieve_syntax::html::{is_void, may_stay_open};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::Tag;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unclosed-element",
    concern: Concern::Syntax,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: None,
    what: "an element whose end tag is missing",
    why: "Browsers end it where something around it ends, or not at all: what follows becomes a part of it.",
    silent: "For elements whose end tags may be left out, where parts of templates decide what becomes of the page, and in the upper part of a page that goes on in another file.",
    standards: &["HTML, section 13.1.2"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong { code: "<div><span>Low tide</div>\n", at: &["1:6"], fixed: None },
            Wrong { code: "<section>\n<h1>Tides</h1>\n", at: &["1:1"], fixed: None },
            Wrong { code: "<div/>\n<p>Low</p>\n", at: &["1:1"], fixed: None },
        ],
        right: &[
            "<ul><li>North<li>South</ul><p>Low<p>High<br><img src=\"a.png\" alt=\"\">\n",
            "<svg><path d=\"M0 0\"/></svg>\n",
            "<html lang=\"en\"><title>Tides</title>\n<body>\n<div id=\"page\">\n",
            "{% if low %}<div class=\"low\">{% else %}<div>{% endif %}</div>\n",
        ],
    }],
    needs_names: false,
    check: Check::All(&[Kind::Element, Kind::TemplatePart], check),
};

fn check(context: &mut Context, nodes: &[NodeRef]) {
    let file = context.file();
    if may_be_decided(file, nodes) || !file.tree.faults().is_empty() {
        return;
    }
    // Asked once, if something is not closed.
    let is_upper = OnceCell::new();
    for node in nodes.iter().filter(|node| node.kind() == Kind::Element && node.child(Role::End).is_none()) {
        let Some(tag) = Tag::of(file, *node) else { continue };
        let is_slashed = file.node_text(tag.start()).ends_with("/>");
        if is_void(&tag.name) || may_stay_open(&tag.name) || is_slashed && is_foreign(&tag) {
            continue;
        }
        if *is_upper.get_or_init(|| is_upper_part(file, nodes)) {
            return;
        }
        let (message, advice) = if is_slashed {
            (format!("the slash does not end this <{}>", tag.name), format!("write <{0}></{0}>", tag.name))
        } else {
            (format!("this <{}> is never closed", tag.name), format!("write </{}> where it ends", tag.name))
        };
        context.report(tag.head(), message).advice(advice);
    }
}

/// Whether a page goes on in another file: it opens its body, and nothing in it ends the body or the page.
fn is_upper_part(file: File<'_>, nodes: &[NodeRef]) -> bool {
    let mut opened = false;
    for node in nodes.iter().filter(|node| node.kind() == Kind::Element) {
        let Some(tag) = Tag::of(file, *node).filter(|tag| matches!(&*tag.name, "html" | "body")) else { continue };
        if node.child(Role::End).is_some() {
            return false;
        }
        opened |= tag.name == "body";
    }
    opened
}

/// Elements of SVG and MathML end with a slash in their tags.
fn is_foreign(tag: &Tag<'_>) -> bool {
    std::iter::once(tag.clone()).chain(tag.around().flatten()).any(|one| matches!(&*one.name, "svg" | "math"))
}

/// Whether parts of templates may decide which tags are there.
pub(super) fn may_be_decided(file: File<'_>, nodes: &[NodeRef]) -> bool {
    let decides =
        |node: &NodeRef| node.kind() == Kind::TemplatePart && may_decide(file.node_text(file.tree.node(node.id())));
    nodes.iter().any(decides)
}
