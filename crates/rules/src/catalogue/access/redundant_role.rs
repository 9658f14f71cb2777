use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_ELEMENTS;
use crate::interface::{Check, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::Tag;
use crate::markup::elements::own_role;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "redundant-role",
    mesh: Mesh::Fine,
    level: Level::Note,
    what: "a role that the element has by itself",
    why: "It does nothing, and hides from readers that HTML says so already.",
    silent: "For lists and tables, which browsers take for none where they are styled as something else.",
    standards: &["ARIA in HTML, 2"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[Wrong { code: "<button role=\"button\">Book</button>\n", at: &["1:9"], fixed: None }],
            right: &[
                "<ul role=\"list\"><li>a</ul><div role=\"button\">Book</div><a role=\"link\">x</a><table role=\"table\"><tr role=\"row\"></table>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong { code: "const tides = <nav role=\"navigation\">a</nav>;\n", at: &["1:20"], fixed: None }],
            right: &["const tides = <nav role={role}>a</nav>;\nconst a = <Nav role=\"navigation\" />;\n"],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

/// Roles that browsers do not give everything that has the element: lists and tables that are styled as something else lose theirs.
const LOST_BY_STYLE: &[&str] = &[
    "list",
    "listitem",
    "table",
    "rowgroup",
    "row",
    "columnheader",
    "rowheader",
    "cell",
    "gridcell",
    "presentation",
    "form",
];

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element) else { return };
    let Some(attribute) = tag.attribute("role") else { return };
    let Some(role) = own_role(&tag).filter(|role| !LOST_BY_STYLE.contains(role)) else {
        return;
    };
    if tag.value("role").is(role) {
        context
            .report(attribute.span(), format!("<{}> has the role \"{role}\" by itself", tag.name))
            .advice("leave the role out");
    }
}
