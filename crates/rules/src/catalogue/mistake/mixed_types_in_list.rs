use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "mixed-types-in-list",
    concern: Concern::Mistake,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Guess,
    languages: Language::OF_DATA,
    fix: None,
    what: "a number in a list of numbers in quotes, or the reverse",
    why: "The version 3.10 without quotes is the number 3.1, and the port \"80\" is no port to a program that wants a number.",
    silent: "Lists with fewer than two others that agree, and strings that are no numbers.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Yaml,
            wrong: &[Wrong { code: "tables: [\"3.8\", \"3.9\", 3.10]\n", at: &["1:24"], fixed: None }],
            right: &["tables: [\"3.8\", \"3.9\", \"3.10\"]\nmixed: [low, 3, high, 4]\npair: [1, \"2\"]\n"],
        },
        Examples {
            language: Language::Json,
            wrong: &[Wrong { code: "[80, 443, \"8080\"]\n", at: &["1:11"], fixed: None }],
            right: &["[80, 443, 8080]\n", "[80, 443, \"low\"]\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::List], check),
};

/// Fewer others say nothing.
const LEAST: usize = 2;

fn check(context: &mut Context, list: NodeRef) {
    let mut odd = None;
    let (mut numbers, mut strings) = (Vec::new(), Vec::new());
    for element in list.children_in(Role::Element) {
        match element.kind() {
            Kind::Number => numbers.push(element),
            Kind::String if is_number_in_quotes(context, element) => strings.push(element),
            _ => return,
        }
    }
    if numbers.len() == 1 && strings.len() >= LEAST {
        odd = Some((
            numbers[0],
            "a number among strings that hold numbers",
            "put quotes around it, as around the others",
        ));
    } else if strings.len() == 1 && numbers.len() >= LEAST {
        odd = Some((strings[0], "a string among numbers", "write it without quotes, as the others"));
    }
    if let Some((element, message, advice)) = odd {
        context.report(element.span(), message).advice(advice);
    }
}

fn is_number_in_quotes(context: &Context, string: NodeRef) -> bool {
    let written = context.text(string);
    let inner = written.trim_matches(['"', '\'']);
    inner.len() + 2 == written.len()
        && inner.starts_with(|first: char| first.is_ascii_digit())
        && inner.bytes().all(|byte| byte.is_ascii_digit() || byte == b'.')
        && inner.parse::<f64>().is_ok()
}
