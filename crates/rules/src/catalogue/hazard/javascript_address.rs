use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::{Value, value_of};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "javascript-address",
    concern: Concern::Hazard,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_ELEMENTS,
    fix: None,
    what: "a link to a script",
    why: "The address runs as code where it is opened. Policies that keep foreign scripts out have to let all of them in, and keys and new tabs get nothing.",
    silent: "Where the address is computed.",
    standards: &["HTML, section 7.4.2.3.2"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[Wrong { code: "<a href=\"javascript:book()\">Book</a>\n", at: &["1:4"], fixed: None }],
        right: &[
            "<button onclick=\"book()\">Book</button>\n<a href=\"/book\">Book</a>\n<a href=\"javascript:void(0)\">x</a>\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Attribute], check),
};

fn check(context: &mut Context, attribute: NodeRef) {
    let is_address = attribute.child(Role::Name).is_some_and(|name| {
        let name = context.text(name);
        ["href", "src", "action", "formaction", "xlink:href"].iter().any(|known| name.eq_ignore_ascii_case(known))
    });
    if !is_address {
        return;
    }
    let Value::Text(address) = value_of(context.file(), attribute) else { return };
    let Some(script) = strip_scheme(address.trim()) else { return };
    // What does nothing is an old way to write a button.
    let does_nothing =
        matches!(script.trim().trim_end_matches(';').trim(), "" | "void(0)" | "void 0" | "undefined" | "false" | "//");
    if !does_nothing {
        context
            .report(attribute.span(), "this address runs as a script")
            .advice("use a <button> with a handler, and a link for what has an address");
    }
}

fn strip_scheme(address: &str) -> Option<&str> {
    let scheme = "javascript:";
    address.get(..scheme.len()).filter(|start| start.eq_ignore_ascii_case(scheme)).map(|_| &address[scheme.len()..])
}
