use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::Tag;
use crate::markup::elements::{ELEMENTS, attributes_of};
use crate::markup::page::page_of;
use crate::slip::{did_you_mean, nearest};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unknown-attribute",
    concern: Concern::Mistake,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: None,
    what: "an attribute that its element has not",
    why: "Browsers keep it and do nothing with it. Most often the name is misspelt, or belongs to another element; what scripts read has a name of its own, which begins with data-.",
    silent: "For names with hyphens, colons and other signs, which scripts and templates read, for handlers of events, attributes of RDFa, custom elements, SVG and MathML, and in files that hold templates.",
    standards: &["HTML, section 3.2.6", "HTML, index of attributes", "RDFa Lite 1.1, section 2"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong { code: "<input plceholder=\"Quay\">\n", at: &["1:8"], fixed: None },
            Wrong { code: "<div href=\"/tides\">Tides</div>\n", at: &["1:6"], fixed: None },
        ],
        right: &[
            "<input placeholder=\"Quay\" hidden>\n<p data-tide=\"low\" aria-label=\"Tide\" onclick=\"go()\" @click=\"go\" v-if=\"low\">a</p>\n",
            "<html xmlns=\"http://www.w3.org/1999/xhtml\"></html><meta property=\"og:title\" content=\"Tides\"><ferry-board quay=\"north\"></ferry-board><svg viewBox=\"0 0 1 1\"><path d=\"M0 0\"/></svg>\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Element], check),
};

/// Attributes that any element may have by another standard.
const OF_RDFA: [&str; 12] = [
    "about", "content", "datatype", "inlist", "prefix", "property", "rel", "resource", "rev", "role", "typeof", "vocab",
];

fn check(context: &mut Context, element: NodeRef) {
    let file = context.file();
    let Some(tag) = Tag::of(file, element).filter(|tag| ELEMENTS.has(&tag.name)) else { return };
    if page_of(file).is_filled_in {
        return;
    }
    for (name, attribute) in tag.attributes() {
        let is_plain = name.bytes().all(|byte| byte.is_ascii_alphanumeric());
        // What makes a page XML as well has no effect, and is allowed.
        if !is_plain || name.starts_with("on") || name == "xmlns" || OF_RDFA.contains(&&*name) {
            continue;
        }
        let known = || attributes_of(&tag.name);
        if known().any(|own| own == name) {
            continue;
        }
        let place = attribute.child(Role::Name).unwrap_or(attribute).span();
        context
            .report(place, format!("<{}> has no attribute \"{name}\"", tag.name))
            .advice(did_you_mean(nearest(&name, known()), "remove it, or call it data-… where a script reads it"));
    }
}
