use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_ELEMENTS;
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::Tag;
use crate::markup::elements::input_type;
use crate::markup::hidden::is_hidden;
use crate::markup::name::{Name, name_with_content};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "button-text",
    what: "a button that does not say what it does",
    why: "A screen reader says \"button\", and no more. People who do not see the sign on it do not know what it does, and nobody can choose it by voice. \
          To see it, let a screen reader go from button to button.",
    silent: "Where the content is computed, filled in, or made by a component.",
    standards: &["WCAG 2.2 A, 4.1.2 Name, Role, Value"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[
                Wrong { code: "<button><i class=\"icon-close\"></i></button>\n", at: &["1:1"], fixed: None },
                Wrong { code: "<div role=\"button\" tabindex=\"0\"></div>\n", at: &["1:1"], fixed: None },
                Wrong { code: "<button><img src=\"x.png\" alt=\"\"></button>\n", at: &["1:1"], fixed: None },
                Wrong { code: "<input type=\"button\">\n", at: &["1:1"], fixed: None },
            ],
            right: &[
                "<button>Book</button>\n<button aria-label=\"Close\"><i></i></button>\n<button title=\"Close\"><i></i></button>\n",
                "<button><img src=\"x.png\" alt=\"Close\"></button>\n<button><svg><title>Close</title></svg></button>\n",
                "<button>{{ word }}</button>\n<input type=\"button\" value=\"Book\">\n<button hidden></button>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong {
                code: "const close = <button onClick={hide}><i /></button>;\n",
                at: &["1:15"],
                fixed: None,
            }],
            right: &[
                "const close = <button><Icon /></button>;\nconst book = <button>{word}</button>;\nconst a = <button {...rest} />;\n",
            ],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element).filter(is_button) else { return };
    if name_with_content(&tag) != Name::None || is_hidden(&tag) != Some(false) {
        return;
    }
    context
        .report(tag.head(), "this button does not say what it does")
        .advice("write it in the button, or in aria-label=\"…\" where a sign is to be seen");
}

fn is_button(tag: &Tag<'_>) -> bool {
    match &*tag.name {
        "button" => tag.role().is_some_and(|role| role == "button"),
        "input" => input_type(tag).is_some_and(|kind| kind == "button"),
        _ => tag.value("role").is("button"),
    }
}
