use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_ELEMENTS;
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::hidden::is_hidden;
use crate::markup::name::{Name, name_with_content};
use crate::markup::{Tag, Value};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "link-text",
    what: "a link that does not say where it leads",
    why: "A screen reader spells the address instead, or says \"link\" alone. People who do not see the sign in it do not know where it leads. To see it, \
          let a screen reader list the links of the page.",
    silent: "Where the content is computed, filled in, or made by a component; and for targets of links, which have no address.",
    standards: &["WCAG 2.2 A, 2.4.4 Link Purpose (In Context)", "WCAG 2.2 A, 4.1.2 Name, Role, Value"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[
                Wrong { code: "<a href=\"/tides\"></a>\n", at: &["1:1"], fixed: None },
                Wrong { code: "<a href=\"/tides\"><i class=\"icon-wave\"></i></a>\n", at: &["1:1"], fixed: None },
                Wrong { code: "<a href=\"/\"><img src=\"ferry.png\" alt=\"\"></a>\n", at: &["1:1"], fixed: None },
            ],
            right: &[
                "<a href=\"/tides\">Tides</a>\n<a href=\"/\"><img src=\"ferry.png\" alt=\"Saltmarsh Ferries\"></a>\n<a name=\"top\"></a>\n",
                "<a href=\"/tides\" aria-label=\"Tides\"><i></i></a>\n<a href=\"/x\">{% block link %}{% endblock %}</a>\n<a href=\"/a\">&raquo;</a>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong { code: "const home = <a href=\"/\"><svg /></a>;\n", at: &["1:14"], fixed: None }],
            right: &["const home = <a href=\"/\"><Logo /></a>;\nconst more = <a href={to}>{children}</a>;\n"],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element).filter(is_link) else { return };
    if name_with_content(&tag) != Name::None || is_hidden(&tag) != Some(false) {
        return;
    }
    context
        .report(tag.head(), "this link does not say where it leads")
        .advice("write it in the link, in the text of its image, or in aria-label=\"…\"");
}

fn is_link(tag: &Tag<'_>) -> bool {
    let is_a = tag.name == "a" && matches!(tag.value("href"), Value::Text(_));
    (is_a && tag.role().is_some_and(|role| role == "link")) || tag.value("role").is("link")
}
