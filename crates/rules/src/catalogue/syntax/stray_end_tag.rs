use rustc_hash::FxHashMap;
use sieve_syntax::html::is_void;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::unclosed_element::may_be_decided;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::Tag;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "stray-end-tag",
    concern: Concern::Syntax,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: None,
    what: "an end tag that ends nothing",
    why: "Browsers leave it out, or end something else with it. Most often the start tag was removed, or two elements end in the wrong order.",
    silent: "Where parts of templates decide what becomes of the page, in the lower part of a page that another file begins, and where an element of the same name beside it is reported as unclosed.",
    standards: &["HTML, section 13.2.6"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong { code: "<h1>Tides</h2>\n", at: &["1:10"], fixed: None },
            Wrong { code: "<p>Low tide</p></div>\n", at: &["1:16"], fixed: None },
            Wrong { code: "<img src=\"a.png\" alt=\"\"></img>\n", at: &["1:25"], fixed: None },
        ],
        right: &[
            "<div><p>Low tide</p></div>\n",
            "{% if low %}<div>{% endif %}</div></div>\n",
            "<b><i>Low</b> tide</i>\n",
            "<p>Low tide</p>\n</div>\n</body>\n</html>\n",
        ],
    }],
    needs_names: false,
    check: Check::All(&[Kind::Element, Kind::EndTag, Kind::TemplatePart], check),
};

fn check(context: &mut Context, nodes: &[NodeRef]) {
    let file = context.file();
    if may_be_decided(file, nodes) || !file.tree.faults().is_empty() {
        return;
    }
    let mut unclosed = implied(context, nodes);
    // The lower part of a page ends more that another file opens.
    if unclosed.contains_key("body") {
        return;
    }
    for node in nodes {
        if node.kind() == Kind::Element {
            let Some(tag) = Tag::of(file, *node).filter(|tag| node.child(Role::End).is_none() && !is_void(&tag.name))
            else {
                continue;
            };
            *unclosed.entry(tag.name.to_string()).or_default() += 1;
        } else if node.role() == Role::End {
            other_heading(context, *node);
        } else {
            let Some(name) = stray_name(context, *node) else { continue };
            // What is not nested is one mistake: the element that is never closed is reported.
            if let Some(count) = unclosed.get_mut(&name).filter(|count| **count > 0) {
                *count -= 1;
                continue;
            }
            context
                .report(node.span(), format!("this ends no <{name}>"))
                .advice("remove it, or write the start tag that it ends");
        }
    }
}

/// Elements that every page has, with a start tag or without one ("Optional tags", HTML, 13.1.2.4).
const IN_EVERY_PAGE: &[&str] = &["html", "head", "body"];

/// What such elements' end tags end where no start tag began it: the lower part of a page ends what it never opens.
fn implied(context: &Context, nodes: &[NodeRef]) -> FxHashMap<String, usize> {
    let strays = nodes.iter().filter_map(|node| stray_name(context, *node));
    let ends = strays.filter(|name| IN_EVERY_PAGE.contains(&name.as_str()));
    let mut implied: FxHashMap<String, usize> = ends.map(|name| (name, 1)).collect();
    if !implied.is_empty() {
        for tag in nodes.iter().filter_map(|node| Tag::of(context.file(), *node)) {
            implied.remove(tag.name.as_ref());
        }
    }
    implied
}

/// The name in an end tag that is none of an element's.
fn stray_name(context: &Context, node: NodeRef) -> Option<String> {
    let name = node.child_of(Kind::EndTag, Role::Name).filter(|_| node.role() != Role::End)?;
    Some(context.text(name).to_ascii_lowercase())
}

/// The end tag of any heading ends the one that is open.
fn other_heading(context: &mut Context, end: NodeRef) {
    let Some(tag) = end.parent().and_then(|element| Tag::of(context.file(), element)) else { return };
    let Some(name) = end.child(Role::Name).map(|name| context.text(name).to_ascii_lowercase()) else { return };
    if name != tag.name {
        context
            .report(end.span(), format!("this ends an <{}> as if it were an <{name}>", tag.name))
            .related(tag.head(), "it begins here")
            .advice(format!("write </{}>", tag.name));
    }
}
