use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::{Tag, Value};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "new-window-opener",
    concern: Concern::Hazard,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: None,
    what: "a link that opens another site in a new window and does not say that the page is to be out of its reach",
    why: "In browsers before 2021 the other page can lead this one elsewhere, to a copy that asks for a password.",
    silent: "For addresses on the same site, and where the address or the relation is filled in.",
    standards: &["HTML, section 4.6.6.13"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[Wrong {
            code: "<a href=\"https://tides.example/\" target=\"_blank\">Tides</a>\n",
            at: &["1:34"],
            fixed: None,
        }],
        right: &[
            "<a href=\"https://tides.example/\" target=\"_blank\" rel=\"noopener\">Tides</a>\n<a href=\"/tides\" target=\"_blank\">Tides</a><a href=\"https://tides.example/\">Tides</a>\n<a href=\"{{ url }}\" target=\"_blank\">Tides</a>\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Element], check),
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::of(context.file(), element).filter(|tag| matches!(&*tag.name, "a" | "area")) else { return };
    let leads_away = tag.value("href").text().is_some_and(|href| {
        let href = href.trim();
        href.starts_with("//") || ["http://", "https://"].iter().any(|scheme| href.starts_with(scheme))
    });
    let Some(target) = tag.attribute("target").filter(|_| leads_away && tag.value("target").is("_blank")) else {
        return;
    };
    let keeps_apart = match tag.value("rel") {
        Value::Absent => false,
        Value::Unknown => true,
        Value::Text(words) => words
            .split_whitespace()
            .any(|word| ["noopener", "noreferrer", "opener"].iter().any(|known| word.eq_ignore_ascii_case(known))),
    };
    if !keeps_apart {
        context
            .report(target.span(), "the page that this opens may reach back to this one in old browsers")
            .advice("add rel=\"noopener\"");
    }
}
