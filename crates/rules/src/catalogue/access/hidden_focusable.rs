use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_ELEMENTS;
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::elements::is_reached;
use crate::markup::{Tag, Value};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "hidden-focusable",
    what: "something that keys reach and that is hidden from assistive technology",
    why: "People who use a screen reader come upon it with the tab key and are told nothing. To see it, go through the page with the tab key and a screen \
          reader.",
    silent: "Where attributes are spread, computed or filled in, and where the element may be hidden from everyone.",
    standards: &["WCAG 2.2 A, 4.1.2 Name, Role, Value", "WCAG 2.2 A, 1.3.1 Info and Relationships"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[
                Wrong { code: "<button aria-hidden=\"true\">Book</button>\n", at: &["1:1"], fixed: None },
                Wrong {
                    code: "<div aria-hidden=\"true\"><p><a href=\"/\">Home</a></p></div>\n",
                    at: &["1:28"],
                    fixed: None,
                },
            ],
            right: &[
                "<div aria-hidden=\"true\"><a href=\"/\" tabindex=\"-1\">Home</a><button disabled>Book</button></div>\n",
                "<div aria-hidden=\"true\" style=\"display: none\"><button>Book</button></div>\n<i aria-hidden=\"true\">~</i>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong {
                code: "const home = <span aria-hidden><a href=\"/\">Home</a></span>;\n",
                at: &["1:32"],
                fixed: None,
            }],
            right: &["const home = <span aria-hidden={isOpen}><a href=\"/\">Home</a></span>;\n"],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element) else { return };
    let by_number = match tag.value("tabindex") {
        Value::Unknown => return,
        Value::Absent => None,
        Value::Text(number) => number.trim().parse::<i32>().ok().map(|number| number >= 0),
    };
    if !by_number.or_else(|| is_reached(&tag)).unwrap_or(false) {
        return;
    }
    let mut is_hidden = false;
    for around in std::iter::once(Some(tag.clone())).chain(tag.around()) {
        // What hides from everyone keeps keys away too.
        let Some(around) = around.filter(|around| !may_keep_keys_away(around)) else { return };
        is_hidden |= around.value("aria-hidden").is("true");
    }
    if is_hidden {
        context
            .report(tag.head(), "keys reach this, but assistive technology is told nothing of it")
            .advice("take aria-hidden away, or keep keys from it too: hidden, inert, or tabindex=\"-1\"");
    }
}

/// Whether keys may not reach what is in an element: styles and attributes may hide it from everyone.
fn may_keep_keys_away(tag: &Tag<'_>) -> bool {
    let hides = ["hidden", "inert", "style", "class"].map(|name| tag.value(name));
    let [hidden, inert, style, class] = &hides;
    let by_style = style.is_unknown()
        || style.text().is_some_and(|style| style.contains("display") || style.contains("visibility"));
    // What a class does is in the style sheet; names tell when it hides.
    let words = ["hid", "collaps", "modal", "invisible", "none", "offscreen", "template"];
    let by_class = class.text().is_some_and(|class| words.iter().any(|word| class.to_ascii_lowercase().contains(word)));
    let is_aria_hidden = tag.value("aria-hidden").is("true");
    !hidden.is_absent()
        || !inert.is_absent()
        || by_style
        || by_class
        || (is_aria_hidden && class.is_unknown())
        || matches!(&*tag.name, "template" | "noscript")
}
