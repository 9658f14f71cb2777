use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_ELEMENTS;
use crate::interface::{Certainty, Check, Context, Examples, File, Rule, Wrong};
use crate::markup::Tag;
use crate::markup::elements::is_interactive;
use crate::markup::hidden::is_hidden;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "keyboard-handler",
    certainty: Certainty::Probable,
    what: "something that is to be clicked and that keys do not reach",
    why: "People who do not use a mouse cannot get at it: those who see nothing, whose hands shake, or who work with the keys. To see it, put the mouse \
          away and go through the page with the tab key.",
    silent: "Where something in it can be reached, attributes are spread, or a role or a key handler says that more is done elsewhere; for what lies behind a dialog (a class or a handler with `backdrop`, `overlay` or `scrim`).",
    standards: &["WCAG 2.2 A, 2.1.1 Keyboard"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[Wrong { code: "<div onclick=\"book()\">Book</div>\n", at: &["1:6"], fixed: None }],
            right: &[
                "<button onclick=\"book()\">Book</button>\n<div onclick=\"book()\" tabindex=\"0\" role=\"button\" onkeydown=\"book()\">Book</div>\n",
                "<div onclick=\"close()\"><a href=\"/\">Home</a></div>\n<div onclick=\"x()\" aria-hidden=\"true\"></div><div class=\"backdrop\" onclick=\"x()\"></div>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong { code: "const book = <span onClick={open}>Book</span>;\n", at: &["1:20"], fixed: None }],
            right: &[
                "const book = <span onClick={open} onKeyDown={open} tabIndex={0} role=\"button\">Book</span>;\nconst row = <div onClick={open}><Book /></div>;\nconst other = <Row onClick={open} />;\n",
                "const stop = <div onClick={(event) => event.stopPropagation()}>{children}</div>;\nconst label = <label onClick={open}>Book</label>;\n",
            ],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let file = context.file();
    let Some(tag) = Tag::shown(context, element) else { return };
    let Some(handler) = tag.attribute("onclick") else { return };
    let is_reachable = is_interactive(&tag.name) && !leads_nowhere(&tag) || tag.name.contains('-') || tag.has_more();
    let says_more = |(name, _): &(std::borrow::Cow<str>, NodeRef)| {
        matches!(&**name, "role" | "tabindex" | "contenteditable" | "onkeydown" | "onkeyup" | "onkeypress")
    };
    let is_for_pointers = only_stops(file.node_text(handler)) || is_behind(file, &tag);
    if is_reachable || tag.attributes().any(|attribute| says_more(&attribute)) || is_for_pointers {
        return;
    }
    // Clicks in it may be meant for what is in it.
    let may_be_reached = |node: NodeRef| match node.kind() {
        Kind::Element => {
            Tag::of(file, node).is_none_or(|inner| is_interactive(&inner.name) || !inner.value("tabindex").is_absent())
        }
        Kind::Interpolation | Kind::TemplatePart => {
            node.children().next().is_some() || node.kind() == Kind::TemplatePart
        }
        _ => false,
    };
    let around_reaches = || {
        tag.around()
            .any(|around| around.is_none_or(|around| matches!(&*around.name, "a" | "button" | "label" | "summary")))
    };
    let is_alone = tag.children().all(|child| !may_be_reached(child) && !child.descendants().any(may_be_reached));
    if is_alone && !around_reaches() && is_hidden(&tag) == Some(false) {
        context.report(handler.span(), format!("keys do not reach this <{}>", tag.name)).advice(if tag.name == "a" {
            "give it an href, or make it a <button>"
        } else {
            ADVICE
        });
    }
}

const ADVICE: &str = "make it a <button>, or give it a role, tabindex=\"0\" and a handler for keys";

/// A link without an address, of which nothing says that a script gives it one: keys pass it over (HTML, 6.6.3).
fn leads_nowhere(tag: &Tag<'_>) -> bool {
    let is_plain = |name: &str| matches!(name, "onclick" | "class" | "id" | "style" | "title" | "name");
    tag.name == "a" && tag.attributes().all(|(name, _)| is_plain(&name))
}

/// Whether an element is what lies behind a dialog or a menu: a click on it closes those, and so does a key.
fn is_behind(file: File<'_>, tag: &Tag<'_>) -> bool {
    let written = ["class", "classname", "id", "onclick"].into_iter().filter_map(|name| tag.attribute(name));
    let mut written = written.map(|attribute| file.node_text(attribute).to_ascii_lowercase());
    written.any(|text| ["backdrop", "overlay", "scrim"].iter().any(|word| text.contains(word)))
}

/// Whether a handler only keeps clicks from what is around.
fn only_stops(handler: &str) -> bool {
    handler.contains("stopPropagation") || handler.contains("preventDefault")
}
