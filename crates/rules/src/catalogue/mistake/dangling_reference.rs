use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::page::page_of;
use crate::markup::{Tag, Value, value_of};
use crate::slip::nearest;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "dangling-reference",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: None,
    what: "a reference to an id that no element of the page has",
    why: "The label names nothing, the link leads nowhere, and what was to be described is not.",
    silent: "In parts of pages, where the rest may be elsewhere, where a template fills something in, and where scripts of the page may make elements.",
    standards: &["HTML, section 4.10.4", "WAI-ARIA 1.2, section 6", "WCAG 2.2 A, 1.3.1 Info and Relationships"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong {
                code: "<html lang=\"en\"><title>Tides</title><label for=\"quai\">Quay</label><input id=\"quay\">\n</html>\n",
                at: &["1:44"],
                fixed: None,
            },
            Wrong {
                code: "<html lang=\"en\"><title>Tides</title><a href=\"#nroth\">North</a><h2 id=\"north\">North</h2></html>\n",
                at: &["1:40"],
                fixed: None,
            },
            Wrong {
                code: "<html lang=\"en\"><title>Tides</title><p aria-labelledby=\"a b\" id=\"a\">x</p></html>\n",
                at: &["1:40"],
                fixed: None,
            },
        ],
        right: &[
            "<html lang=\"en\"><title>Tides</title><label for=\"quay\">Quay</label><input id=\"quay\"><a href=\"#\">Up</a><a href=\"#top\">Top</a></html>\n",
            "<label for=\"quay\">Quay</label>\n",
            "<html lang=\"en\"><title>Tides</title><a href=\"#a\">A</a><a name=\"a\"></a></html>\n",
            "<html lang=\"en\"><title>a</title><label for=\"x\">a</label><script src=\"a.js\"></script></html>\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Attribute], check),
};

fn check(context: &mut Context, attribute: NodeRef) {
    let file = context.file();
    let Some(written) = attribute.child(Role::Name).map(|name| context.text(name)) else { return };
    let is_one = REFERRING.iter().find(|one| one.eq_ignore_ascii_case(written));
    let Some(name) = is_one else { return };
    let Value::Text(value) = value_of(file, attribute) else { return };
    let value = value.trim();
    let ids: Vec<&str> = match *name {
        "href" => value.strip_prefix('#').filter(|id| !id.is_empty() && !leads_anywhere(id)).into_iter().collect(),
        _ => value.split_whitespace().collect(),
    };
    let page = page_of(file);
    // A page whose parts are elsewhere, or to which scripts add, may have the id.
    if ids.is_empty() || page.is_filled_in || page.has_scripts || !page.is_whole {
        return;
    }
    let is_for = *name == "for"
        && attribute
            .ancestors()
            .find(|node| node.kind() == Kind::Element)
            .and_then(|element| Tag::of(file, element))
            .is_none_or(|tag| !matches!(&*tag.name, "label" | "output"));
    if is_for {
        return;
    }
    for id in ids.into_iter().filter(|id| page.by_id(id).is_none() && !(*name == "href" && page.has_anchor(id))) {
        let advice = match nearest(id, page.ids()) {
            Some(meant) => format!("did you mean \"{meant}\"?"),
            None => "give the element that is meant this id, or remove the reference".into(),
        };
        context.report(attribute.span(), format!("no element of this page has the id \"{id}\"")).advice(advice);
    }
}

/// The attributes that name ids.
const REFERRING: &[&str] = &["for", "list", "headers", "href", "aria-labelledby", "aria-describedby"];

/// `#top` leads to the beginning, and what holds other signs is read by scripts.
fn leads_anywhere(id: &str) -> bool {
    id.eq_ignore_ascii_case("top") || id.contains(['/', '!', '=', '%', '~', ':', '?', '&', '{', '<'])
}
