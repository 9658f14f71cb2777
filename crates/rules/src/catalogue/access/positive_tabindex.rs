use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_ELEMENTS;
use crate::interface::{Certainty, Check, Context, Examples, Rule, Wrong};
use crate::markup::{Tag, Value};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "positive-tabindex",
    certainty: Certainty::Probable,
    what: "an element that jumps to the front of the order in which keys reach elements",
    why: "It is reached before all elements without a number, wherever they are, so that the order of the keys and that of the page differ. People who \
          use the keys lose their place. To see it, go through the page with the tab key.",
    silent: "Where the number is computed.",
    standards: &["WCAG 2.2 A, 2.4.3 Focus Order"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[Wrong { code: "<input aria-label=\"Quay\" tabindex=\"3\">\n", at: &["1:26"], fixed: None }],
            right: &["<div tabindex=\"0\">a</div><div tabindex=\"-1\">b</div><div tabindex=\"{{ n }}\">c</div>\n"],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong { code: "const quay = <div tabIndex={2}>North</div>;\n", at: &["1:19"], fixed: None }],
            right: &["const quay = <div tabIndex={0}>North</div>;\nconst tide = <div tabIndex={index}>Low</div>;\n"],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element) else { return };
    let Some(attribute) = tag.attribute("tabindex") else { return };
    let Value::Text(number) = tag.value("tabindex") else { return };
    if number.trim().parse::<i32>().is_ok_and(|number| number > 0) {
        context
            .report(attribute.span(), format!("tabindex {} puts this before everything else", number.trim()))
            .advice("use 0, and put the element where it is to be reached");
    }
}
