use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::{OF_ELEMENTS, is_named};
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::elements::input_type;
use crate::markup::{Tag, Value};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "image-text",
    what: "an image that says nothing to those who do not see it",
    why: "A screen reader reads the name of the file instead, or nothing. People who are blind, or whose images do not load, are left out of what the \
          image says. To see it, switch images off, or let a screen reader read the page.",
    silent: "Where attributes are spread, filled in by a template, or the output of a component is not known; and for images that are hidden.",
    standards: &["WCAG 2.2 A, 1.1.1 Non-text Content"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[
                Wrong { code: "<img src=\"north-quay.jpg\">\n", at: &["1:1"], fixed: None },
                Wrong { code: "<input type=\"image\" src=\"search.png\">\n", at: &["1:1"], fixed: None },
                Wrong {
                    code: "<map name=\"m\"><area href=\"/north\" coords=\"0,0,9,9\"></map>\n",
                    at: &["1:15"],
                    fixed: None,
                },
                Wrong { code: "<div role=\"img\"><span>*</span></div>\n", at: &["1:1"], fixed: None },
            ],
            right: &[
                "<img src=\"north-quay.jpg\" alt=\"The ferry at the north quay\">\n<img src=\"line.png\" alt=\"\">\n<img src=\"wave.png\" alt>\n",
                "<img src=\"wave.png\" role=\"presentation\">\n<span aria-hidden=\"true\"><img src=\"wave.png\"></span>\n",
                "<img src=\"{{ quay }}\" {{ attributes }}>\n<img src=\"a.png\" aria-label=\"Tide\">\n",
                "<div role=\"img\" aria-label=\"High tide\">~</div>\n<input type=\"image\" src=\"a.png\" alt=\"Search\">\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong { code: "const quay = <img src={picture} />;\n", at: &["1:14"], fixed: None }],
            right: &[
                "const quay = <img src={picture} alt={t(\"quay\")} />;\nconst tide = <img {...picture} />;\nconst other = <Image src={a} />;\n",
            ],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element).filter(is_image) else { return };
    // An empty text says that the image only decorates.
    let alternative = tag.value("alt");
    let decorates = tag.name == "img" && !alternative.is_absent();
    if decorates || tag.role().is_none_or(|role| matches!(&*role, "presentation" | "none")) {
        return;
    }
    if is_named(context, &tag) {
        return;
    }
    let (message, advice) = match &*tag.name {
        "img" => ("this image has no text", "say in alt=\"…\" what it says; alt=\"\" if it only decorates"),
        "input" => ("this button is an image without a text", "say in alt=\"…\" what the button does"),
        "area" => ("this link in an image has no text", "say in alt=\"…\" where it leads"),
        _ => ("this element is an image by its role and has no text", "say in aria-label=\"…\" what it says"),
    };
    context.report(tag.head(), message).advice(advice);
}

fn is_image(tag: &Tag<'_>) -> bool {
    match &*tag.name {
        "img" => true,
        "input" => input_type(tag).is_some_and(|kind| kind == "image"),
        "area" => matches!(tag.value("href"), Value::Text(_)),
        _ => tag.value("role").is("img"),
    }
}
