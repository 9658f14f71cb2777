use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::elements::input_type;
use crate::markup::{Tag, Value};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "bad-nesting",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_ELEMENTS,
    fix: None,
    what: "something that can be clicked in something else that can",
    why: "Browsers do not agree on which of the two is meant, and keys and screen readers reach only one of them.",
    silent: "Where a component may be between or around.",
    standards: &["HTML, section 3.2.5.2.7", "WCAG 2.2 A, 4.1.2 Name, Role, Value"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong { code: "<a href=\"/\"><button>Home</button></a>\n", at: &["1:13"], fixed: None },
            Wrong { code: "<button>Book <a href=\"/\">here</a></button>\n", at: &["1:14"], fixed: None },
            Wrong { code: "<label>Quay <label>North</label></label>\n", at: &["1:13"], fixed: None },
        ],
        right: &[
            "<label>Quay <input></label><p><a href=\"/\">Home</a><button>Book</button></p>\n",
            "<button><input type=\"hidden\"></button><a><button>x</button></a>\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Element], check),
};

fn check(context: &mut Context, element: NodeRef) {
    let file = context.file();
    let Some(tag) = Tag::of(file, element).filter(can_be_clicked) else { return };
    for around in tag.around() {
        let Some(around) = around else { return };
        let holds = match &*around.name {
            "a" => matches!(around.value("href"), Value::Text(_)) && tag.name != "label",
            "button" => true,
            "label" => tag.name == "label",
            _ => false,
        };
        if holds {
            context
                .report(tag.head(), format!("this <{}> is in <{}>", tag.name, around.name))
                .related(around.head(), "both can be clicked")
                .advice("put one beside the other");
            return;
        }
    }
}

/// Whether an element is one that people act upon.
fn can_be_clicked(tag: &Tag<'_>) -> bool {
    match &*tag.name {
        "a" => matches!(tag.value("href"), Value::Text(_)),
        "button" | "select" | "textarea" | "label" | "details" => true,
        "input" => input_type(tag).is_some_and(|kind| kind != "hidden"),
        _ => false,
    }
}
