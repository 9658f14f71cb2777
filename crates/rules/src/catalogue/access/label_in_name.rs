use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_ELEMENTS;
use crate::interface::{Certainty, Check, Context, Examples, Rule, Wrong};
use crate::markup::name::{Name, content};
use crate::markup::{Tag, Value};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "label-in-name",
    certainty: Certainty::Probable,
    what: "a control that is named otherwise than by the words on it",
    why: "People who speak to their computer say the words that they see, and nothing happens. To see it, choose the control by voice.",
    silent: "Where either is computed, for single letters and signs, and where whole words stand for others.",
    standards: &["WCAG 2.2 A, 2.5.3 Label in Name"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[Wrong {
                code: "<button aria-label=\"Reserve a crossing\">Book now</button>\n",
                at: &["1:9"],
                fixed: None,
            }],
            right: &[
                "<button aria-label=\"Book now for the north quay\">Book now</button>\n<button aria-label=\"Close\">x</button>\n",
                "<a href=\"/\" aria-label=\"Tides, next page\">Next page</a>\n<button aria-label=\"{{ name }}\">Book</button>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong {
                code: "const book = <a href=\"/book\" aria-label=\"Reserve\">Book now</a>;\n",
                at: &["1:30"],
                fixed: None,
            }],
            right: &["const book = <a href=\"/book\" aria-label={name}>Book now</a>;\n"],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element) else { return };
    let Some(attribute) = tag.attribute("aria-label") else { return };
    let is_control = tag
        .role()
        .is_some_and(|role| matches!(&*role, "button" | "link" | "menuitem" | "tab" | "checkbox" | "radio" | "switch"));
    let Value::Text(named) = tag.value("aria-label") else { return };
    if !is_control || !tag.value("aria-labelledby").is_absent() {
        return;
    }
    // Images in it are not words that are seen.
    let has_image = element.descendants().any(|node| {
        node.kind() == Kind::Element && Tag::of(context.file(), node).is_none_or(|inner| inner.name == "img")
    });
    let Name::Is(seen) = content(&tag, 8) else { return };
    if has_reference(&seen) || has_reference(&named) {
        return;
    }
    let (named, seen) = (letters(&named), letters(&seen));
    let says_words = seen.chars().filter(|letter| letter.is_alphabetic()).count() > 2;
    if says_words && !has_image && !named.is_empty() && !holds(&named, &seen) {
        context
            .report(attribute.span(), "the words on this control are not in its name")
            .advice("let the name begin with the words that are seen, or leave it out");
    }
}

/// Whether a name holds the words that are seen; where elements part a word, no space is in it.
fn holds(named: &str, seen: &str) -> bool {
    let joined = |text: &str| text.replace(' ', "");
    named.contains(seen) || joined(named).contains(&joined(seen))
}

/// Whether a character is written by a name that is not read here: `&eacute;`.
fn has_reference(text: &str) -> bool {
    text.split('&')
        .skip(1)
        .any(|rest| rest.split_once(';').is_some_and(|(name, _)| name.bytes().all(|byte| byte.is_ascii_alphanumeric())))
}

/// Words as they are spoken: in small letters, without signs.
fn letters(text: &str) -> String {
    let spoken: String = text.chars().map(|letter| if letter.is_alphanumeric() { letter } else { ' ' }).collect();
    spoken.to_lowercase().split_whitespace().collect::<Vec<_>>().join(" ")
}
