use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_PAGES;
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::{Tag, Value};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "zoom-blocked",
    what: "a page that keeps people from making it larger",
    why: "People who see little make the page larger with two fingers. Where a browser obeys, they cannot read it. To see it, try on a telephone.",
    silent: "Where a template fills the content in.",
    standards: &["WCAG 2.2 AA, 1.4.4 Resize Text"],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong {
                code: "<meta name=\"viewport\" content=\"width=device-width, user-scalable=no\">\n",
                at: &["1:23"],
                fixed: None,
            },
            Wrong { code: "<meta name=viewport content=\"maximum-scale=1.0\">\n", at: &["1:21"], fixed: None },
        ],
        right: &[
            "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n",
            "<meta name=\"viewport\" content=\"maximum-scale=5, user-scalable=yes\">\n",
        ],
    }],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_PAGES
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element).filter(|tag| tag.name == "meta") else { return };
    if !tag.value("name").is("viewport") {
        return;
    }
    let (Value::Text(content), Some(attribute)) = (tag.value("content"), tag.attribute("content")) else { return };
    let settings = content.split([',', ';']).filter_map(|part| part.split_once('='));
    let blocks =
        settings.map(|(name, value)| (name.trim().to_ascii_lowercase(), value.trim())).find(|(name, value)| match name
            .as_str()
        {
            "user-scalable" => matches!(value.to_ascii_lowercase().as_str(), "no" | "0" | "false"),
            "maximum-scale" => value.parse::<f64>().is_ok_and(|largest| (0.0..2.0).contains(&largest)),
            _ => false,
        });
    if let Some((name, value)) = blocks {
        context
            .report(attribute.span(), format!("{name}={value} keeps people from making the page larger"))
            .advice("leave it out");
    }
}
