use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::Tag;
use crate::markup::elements::ELEMENTS;
use crate::markup::page::page_of;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unknown-element",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: None,
    what: "an element that there is not",
    why: "Browsers take it for an element without any meaning.",
    silent: "For custom elements, whose names have a hyphen, elements of SVG and MathML, and in files that hold templates.",
    standards: &["HTML, section 4", "HTML, section 16.2"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[Wrong { code: "<sectoin><h1>Tides</h1></sectoin>\n", at: &["1:1"], fixed: None }],
        right: &[
            "<section><h1>Tides</h1></section>\n<ferry-board></ferry-board>\n<svg><feblend/></svg>\n",
            "{{ tide }}<quay></quay>\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Element], check),
};

fn check(context: &mut Context, element: NodeRef) {
    let file = context.file();
    let Some(tag) = Tag::of(file, element) else { return };
    let is_other = tag.name.contains(['-', ':', '.']) || matches!(&*tag.name, "svg" | "math" | "image");
    if is_other || ELEMENTS.has(&tag.name) || page_of(file).is_filled_in {
        return;
    }
    let in_foreign = |around: Tag| matches!(&*around.name, "svg" | "math") || around.name.contains('-');
    if tag.around().flatten().any(in_foreign) {
        return;
    }
    // Frameworks have elements of their own; a slip is near to one that there is.
    let Some(meant) = ELEMENTS.meant_by(&tag.name).filter(|_| tag.name.len() > 3) else { return };
    context
        .report(tag.head(), format!("there is no element <{}>", tag.name))
        .advice(format!("did you mean <{meant}>?"));
}
