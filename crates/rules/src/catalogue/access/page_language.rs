use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_PAGES;
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::page::is_package_comment;
use crate::markup::{Tag, Value, is_blank};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "page-language",
    what: "a page that does not say in which language it is written",
    why: "A screen reader reads it with the sounds of another language, braille is made by other rules, and no program offers a translation. People who hear \
          the page cannot understand it. To see it, let a screen reader that speaks another language read the page.",
    silent: "In parts of pages, in `package.html`, of which the body goes into another page, and where a template fills the attribute in.",
    standards: &["WCAG 2.2 A, 3.1.1 Language of Page", "RFC 5646, section 2.1"],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong { code: "<!doctype html>\n<html>\n<title>Tides</title>\n", at: &["2:1"], fixed: None },
            Wrong { code: "<html lang=\"\"><title>Tides</title>\n", at: &["1:7"], fixed: None },
            Wrong { code: "<html lang=\"en_GB\"><title>Tides</title>\n", at: &["1:7"], fixed: None },
        ],
        right: &[
            "<html lang=\"en-GB\"><title>Tides</title>\n",
            "<html lang=\"{{ language }}\"><title>Tides</title>\n",
            "<p>Low tide</p>\n",
            "<html {{ attributes }}><title>Tides</title>\n",
        ],
    }],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_PAGES
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element).filter(|tag| tag.name == "html") else { return };
    if is_package_comment(context.file()) {
        return;
    }
    let advice = "write lang=\"en\", or the tag of the language it is in (BCP 47)";
    let at = tag.attribute("lang").map_or(tag.head(), |attribute| attribute.span());
    let language = match tag.value("lang") {
        Value::Unknown => return,
        Value::Absent => "".into(),
        Value::Text(language) => language,
    };
    if is_blank(&language) {
        context.report(at, "the page does not say in which language it is").advice(advice);
    } else if !is_well_formed(language.trim()) {
        context.report(at, format!("\"{}\" is not the tag of a language", language.trim())).advice(advice);
    }
}

/// "Language-Tag" (RFC 5646, 2.1), as far as its form goes: parts of one to eight letters and digits, the first of letters alone.
fn is_well_formed(tag: &str) -> bool {
    let mut parts = tag.split('-');
    let first = parts.next().unwrap_or_default();
    let is_private = matches!(first.to_ascii_lowercase().as_str(), "x" | "i");
    let is_first = is_private || (2..=3).contains(&first.len()) && first.bytes().all(|byte| byte.is_ascii_alphabetic());
    is_first && parts.all(|part| (1..=8).contains(&part.len()) && part.bytes().all(|byte| byte.is_ascii_alphanumeric()))
}
