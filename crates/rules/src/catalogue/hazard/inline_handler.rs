use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::Tag;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "inline-handler",
    concern: Concern::Hazard,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: None,
    what: "code in an attribute that runs at an event",
    why: "A policy that lets no code in from outside, which is what stops injected scripts, cannot be set while a page needs such attributes.",
    silent: "In files among code, whose attributes are functions.",
    standards: &["Content Security Policy Level 3, section 8.3"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[Wrong { code: "<button onclick=\"book()\">Book</button>\n", at: &["1:9"], fixed: None }],
        right: &["<button id=\"book\">Book</button><a once=\"a\" on=\"b\">c</a>\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Element], check),
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::of(context.file(), element) else { return };
    for (name, attribute) in tag.attributes() {
        let event = name
            .strip_prefix("on")
            .filter(|event| event.len() > 3 && event.bytes().all(|one| one.is_ascii_lowercase()));
        // Elements of a page's own may have attributes of their own.
        if event.is_some() && name != "once" && !tag.name.contains('-') && attribute.child(Role::Value).is_some() {
            context
                .report(
                    attribute.span(),
                    format!("{name} holds code, which a strict policy for content does not let run"),
                )
                .advice("listen for the event in a script");
        }
    }
}
