use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_ELEMENTS;
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::{Tag, Value, aria, is_blank};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "role-known",
    what: "a role that there is not",
    why: "Browsers leave it out, and assistive technology takes the element for what it is without a role. People who rely on it are not told what the \
          element is. To see it, look at the element in the browser's view of the accessibility tree.",
    silent: "Where the role is computed. Of several roles one has to be known: older programs may want the others.",
    standards: &["WCAG 2.2 A, 4.1.2 Name, Role, Value", "WAI-ARIA 1.2, 5.3"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[
                Wrong { code: "<div role=\"buton\">Book</div>\n", at: &["1:6"], fixed: None },
                Wrong { code: "<ul role=\"dropdown\"></ul>\n", at: &["1:5"], fixed: None },
            ],
            right: &[
                "<div role=\"alert\">High tide</div><p role=\"{{ role }}\"><p role=\"\"><b role=\"doc-note note\">a</b>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong { code: "const tide = <div role=\"tabpane\" />;\n", at: &["1:19"], fixed: None }],
            right: &[
                "const tide = <div role={role} />;\nconst quay = <Panel role=\"tide\" />;\nconst a = <div role={undefined} />;\n",
            ],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element) else { return };
    let Some(attribute) = tag.attribute("role") else { return };
    let Value::Text(roles) = tag.value("role") else { return };
    if is_blank(&roles) || roles.split_whitespace().any(aria::is_role) {
        return;
    }
    let meant = aria::role_meant_by(roles.trim());
    let advice = match meant {
        Some(role) => format!("did you mean \"{role}\"?"),
        None => "take a role of WAI-ARIA 1.2, or leave it out".into(),
    };
    context.report(attribute.span(), format!("there is no role \"{}\"", roles.trim())).advice(advice);
}
