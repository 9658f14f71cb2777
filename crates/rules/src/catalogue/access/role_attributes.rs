use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_ELEMENTS;
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::elements::own_role;
use crate::markup::{Tag, Value, aria, is_blank, value_of};
use crate::slip::did_you_mean;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "role-attributes",
    what: "a state or property that there is not, that has a value it cannot have, or that a role lacks",
    why: "Browsers leave out what they do not know, so that people who do not see the page are not told whether something is checked, open or how far it is. \
          To see it, look at the element in the browser's view of the accessibility tree.",
    silent: "Where values are computed or attributes spread, and where HTML itself gives an element the state.",
    standards: &["WCAG 2.2 A, 4.1.2 Name, Role, Value", "WAI-ARIA 1.2, 6"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[
                Wrong { code: "<input aria-lable=\"Quay\" title=\"Quay\">\n", at: &["1:8"], fixed: None },
                Wrong { code: "<button aria-expanded=\"yes\">Quays</button>\n", at: &["1:9"], fixed: None },
                Wrong { code: "<div role=\"checkbox\" tabindex=\"0\">Return</div>\n", at: &["1:1"], fixed: None },
                Wrong { code: "<div aria-live=\"loud\"></div>\n", at: &["1:6"], fixed: None },
            ],
            right: &[
                "<button aria-expanded=\"false\" aria-label=\"Quays\">q</button><input type=\"checkbox\" role=\"switch\" title=\"Return\">\n",
                "<div role=\"checkbox\" aria-checked=\"{{ on }}\">a</div><div role=\"heading\" aria-level=\"2\">b</div><p aria-live=\"\">\n",
                "<p aria-label$=\"[[quay]]\">low</p>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong {
                code: "const on = <div role=\"switch\" tabIndex={0}>Return</div>;\n",
                at: &["1:12"],
                fixed: None,
            }],
            right: &[
                "const on = <div role=\"switch\" aria-checked={on}>Return</div>;\nconst a = <div role=\"slider\" {...rest} />;\nconst b = <div aria-hidden />;\n",
            ],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

/// Whether a name is one of ARIA's, or is meant to be. Frameworks bind to such attributes under names with other signs.
fn is_of_aria(name: &str) -> bool {
    name.strip_prefix("aria-").is_some_and(|rest| rest.bytes().all(|byte| byte.is_ascii_alphanumeric() || byte == b'-'))
}

fn check(context: &mut Context, element: NodeRef) {
    let file = context.file();
    let Some(tag) = Tag::shown(context, element) else { return };
    for (name, attribute) in tag.attributes().filter(|(name, _)| is_of_aria(name)) {
        let Some(values) = aria::values_of(&name) else {
            let otherwise = "take a state or property of WAI-ARIA 1.2, or leave it out";
            let advice = did_you_mean(aria::attribute_meant_by(&name), otherwise);
            context.report(attribute.span(), format!("there is no attribute {name}")).advice(advice);
            continue;
        };
        // An empty value is that of an attribute that is not there.
        if let Value::Text(value) = value_of(file, attribute)
            && !is_blank(&value)
            && !values.allow(&value)
        {
            let message = format!("{name} cannot be \"{}\"", value.trim());
            context.report(attribute.span(), message).advice(format!("it is {}", values.describe()));
        }
    }
    missing(context, &tag);
}

/// What a role requires and what is not there.
fn missing(context: &mut Context, tag: &Tag<'_>) {
    let Value::Text(role) = tag.value("role") else { return };
    let has_own = own_role(tag).is_some() || matches!(&*tag.name, "input" | "summary");
    if has_own || tag.has_more() {
        return;
    }
    let role = role.trim().to_ascii_lowercase();
    let missing: Vec<&str> = aria::required(&role).filter(|name| tag.value(name).is_absent()).collect();
    if !missing.is_empty() {
        context
            .report(tag.head(), format!("the role \"{role}\" says nothing without {}", missing.join(" and ")))
            .advice("say its state, or take the element of HTML that has it by itself");
    }
}
