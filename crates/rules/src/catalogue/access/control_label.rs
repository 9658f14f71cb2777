use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::{OF_ELEMENTS, is_named};
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::Tag;
use crate::markup::elements::input_type;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "control-label",
    what: "a control of a form that nothing names",
    why: "A screen reader says \"edit\" and not what is to be written. People who do not see the words beside it, or who speak to their computer, cannot \
          fill it in. To see it, click the words beside the control: the control is not chosen.",
    silent: "Where attributes are spread or filled in; among code, where an id may be that of a label elsewhere, and within components; for controls that keys pass over (`tabindex=\"-1\"`).",
    standards: &[
        "WCAG 2.2 A, 4.1.2 Name, Role, Value",
        "WCAG 2.2 A, 3.3.2 Labels or Instructions",
        "WCAG 2.2 A, 1.3.1 Info and Relationships",
    ],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[
                Wrong { code: "<p>Quay <input name=\"quay\"></p>\n", at: &["1:9"], fixed: None },
                Wrong {
                    code: "<label for=\"quay\">Quay</label><select id=\"quai\"></select>\n",
                    at: &["1:31"],
                    fixed: None,
                },
                Wrong { code: "<label></label><textarea></textarea>\n", at: &["1:16"], fixed: None },
            ],
            right: &[
                "<label>Quay <input name=\"quay\"></label>\n",
                "<label for=\"tide\">Tide</label>\n<select id=\"tide\"><option>low</select>\n",
                "<input type=\"hidden\" name=\"a\"><input type=\"submit\"><input aria-label=\"Quay\"><input title=\"Tide\">\n",
                "<b id=\"q\">Quay</b><input aria-labelledby=\"q\">\n<input id=\"{{ id }}\">\n<select tabindex=\"-1\"></select>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong { code: "const quay = <div><input name=\"quay\" /></div>;\n", at: &["1:19"], fixed: None }],
            right: &[
                "const quay = <label>Quay <input /></label>;\nconst tide = <input id=\"tide\" />;\nconst boat = <Field><input /></Field>;\nconst other = <input {...field} />;\n",
            ],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element).filter(is_control) else { return };
    if is_named(context, &tag) {
        return;
    }
    // What keys pass over mostly represents another control.
    if tag.is_presentational() || tag.value("tabindex").is("-1") {
        return;
    }
    context
        .report(tag.head(), "nothing names this control")
        .advice("put it and its words in a <label>, or name its id in the label's \"for\"");
}

fn is_control(tag: &Tag<'_>) -> bool {
    match &*tag.name {
        "select" | "textarea" => true,
        "input" => {
            input_type(tag).is_some_and(|kind| !matches!(&*kind, "hidden" | "submit" | "reset" | "button" | "image"))
        }
        _ => false,
    }
}
