use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_PAGES;
use crate::interface::{Check, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::Tag;
use crate::markup::hidden::is_hidden;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "heading-order",
    mesh: Mesh::Fine,
    level: Level::Note,
    what: "a heading that leaves out a level",
    why: "People who hear the page go from heading to heading, and look for the level between. To see it, let a screen reader list the headings.",
    silent: "Where templates, or parts of pages, may bring the level between.",
    standards: &["WCAG 2.2 A, 1.3.1 Info and Relationships", "WCAG 2.2 AA, 2.4.6 Headings and Labels"],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[Wrong { code: "<h1>Tides</h1>\n<h3>North quay</h3>\n", at: &["2:1"], fixed: None }],
        right: &[
            "<h1>Tides</h1><h2>North quay</h2><h3>Low</h3><h2>South quay</h2>\n",
            "<h3>North quay</h3>\n",
            "<h1>Tides</h1>{% include \"a\" %}<h3>Low</h3>\n",
        ],
    }],
    check: Check::All(&[Kind::Element, Kind::TemplatePart], check),
    ..OF_PAGES
};

fn check(context: &mut Context, nodes: &[NodeRef]) {
    let mut before: Option<u8> = None;
    for node in nodes {
        if node.kind() == Kind::TemplatePart {
            before = None;
            continue;
        }
        let Some(tag) = Tag::shown(context, *node) else { continue };
        let own = own_level(&tag.name);
        if own.is_none() && !tag.value("role").is("heading") {
            continue;
        }
        // After a heading whose level is not known, or that is none after all, nothing is known of the next.
        let Some(level) = level_of(&tag, own).filter(|_| is_hidden(&tag) == Some(false)) else {
            before = None;
            continue;
        };
        if let Some(before) = before.filter(|before| level > before + 1) {
            context
                .report(tag.head(), format!("after a heading of level {before} comes one of level {level}"))
                .advice(format!("make it one of level {}, or add the heading that is missing", before + 1));
        }
        before = Some(level);
    }
}

/// The level of the elements that are headings by themselves.
fn own_level(name: &str) -> Option<u8> {
    match name.as_bytes() {
        [b'h', level @ b'1'..=b'6'] => Some(level - b'0'),
        _ => None,
    }
}

/// The level of a heading: by its element, or by its role and what gives the level of that (WAI-ARIA 1.2, `heading`). Nothing for headings
/// that have the role of something else.
fn level_of(tag: &Tag<'_>, own: Option<u8>) -> Option<u8> {
    let role = tag.value("role");
    if role.is_absent() {
        return own;
    }
    let level = tag.value("aria-level");
    match level.text() {
        _ if !role.is("heading") => None,
        Some(level) => level.trim().parse().ok().filter(|level| *level > 0),
        None => own.filter(|_| level.is_absent()),
    }
}
