use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};
use crate::markup::{Tag, is_blank, value_of};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "empty-attribute",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: Some(FixKind::Review),
    what: "an attribute that has no effect as it has no value",
    why: "It looks as if something were there. Most often its value was removed, or never written.",
    silent: "For attributes that mean something without a value, and where the value is filled in.",
    standards: &["HTML, section 3.2.6"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong { code: "<p class=\"\">Tides</p>\n", at: &["1:4"], fixed: Some("<p>Tides</p>\n") },
            Wrong {
                code: "<p id=\"\" title=\"Low\">Tides</p>\n",
                at: &["1:4"],
                fixed: Some("<p title=\"Low\">Tides</p>\n"),
            },
        ],
        right: &[
            "<img src=\"a.png\" alt=\"\"><p class=\"{{ kind }}\" title=\"\">Tides</p><p class=\"low\" hidden>a</p>\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Element], check),
};

fn check(context: &mut Context, element: NodeRef) {
    let file = context.file();
    let Some(tag) = Tag::of(file, element) else { return };
    for (name, attribute) in tag.attributes().filter(|(name, _)| NAMES.contains(&&**name)) {
        if !value_of(file, attribute).text().is_some_and(is_blank) {
            continue;
        }
        let span = attribute.span();
        let before = file.text.source()[..span.start as usize].trim_end().len() as u32;
        context
            .report(span, format!("{name} has no value, and no effect"))
            .advice("remove it, or say what is meant")
            .fix_to_review(Some(vec![Edit::remove(Span::new(before, span.end))]));
    }
}

/// Attributes that mean nothing without a value.
const NAMES: [&str; 7] = ["class", "style", "id", "for", "name", "headers", "list"];
