use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_PAGES;
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::Tag;
use crate::markup::hidden::is_hidden;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "table-headers",
    what: "a table of data none of whose cells is a header",
    why: "A screen reader says the headers of a cell when one moves to it. Without them, people who hear the table get numbers and do not know of what. To see it, walk through the table with a screen reader.",
    silent: "Where nothing says that the table is one of data: it has no caption and no head. Where a role makes something else of it, and where a template or a component may put cells in.",
    standards: &["WCAG 2.2 A, 1.3.1 Info and Relationships"],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong {
                code: "<table><caption>Tides</caption><tr><td>Quay<td>Low<tr><td>North<td>3</table>\n",
                at: &["1:1"],
                fixed: None,
            },
            Wrong {
                code: "<table><thead><tr><td>Quay<td>Low</thead><tr><td>North<td>3</table>\n",
                at: &["1:1"],
                fixed: None,
            },
        ],
        right: &[
            "<table><caption>Tides</caption><tr><th>Quay<th>Low<tr><td>North<td>3</table>\n",
            "<table><tr><td>Quay<td>Low<tr><td>North<td>3</table>\n",
            "<table><thead><tr>{{ heads }}</thead><tr><td>North<td>3</table>\n",
            "<table><thead><tr><td role=\"columnheader\">Quay</thead><tr><td>North</table>\n",
            "<table><thead></thead><tbody><tr><td>North</table>\n",
        ],
    }],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_PAGES
};

fn check(context: &mut Context, element: NodeRef) {
    let file = context.file();
    let Some(table) = Tag::shown(context, element).filter(|tag| tag.name == "table") else { return };
    if !table.value("role").is_absent() || is_hidden(&table) != Some(false) {
        return;
    }
    let (mut is_of_data, mut cells) = (false, 0);
    // What is in a table within it is none of its own.
    let mut end = element.id();
    for node in element.descendants().filter(|node| *node != element) {
        if node.id() < end {
            continue;
        }
        match node.kind() {
            Kind::Element => {}
            Kind::TemplatePart => return,
            _ => continue,
        }
        let Some(tag) = Tag::of(file, node) else { return };
        match &*tag.name {
            "table" => end = node.end(),
            "caption" => is_of_data = true,
            "thead" => is_of_data |= tag.children().any(|row| row.kind() == Kind::Element),
            "td" if tag.value("role").is_absent() => cells += 1,
            "th" | "td" => return,
            name if name.contains('-') => return,
            _ => {}
        }
    }
    if is_of_data && cells > 1 {
        context
            .report(table.head(), "no cell of this table is a header")
            .advice("make cells that say what is below or beside them <th>");
    }
}
