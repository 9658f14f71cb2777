use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "nested-rules",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a style rule within more others than settings allow",
    why: "Its selector is put together of all those around it: it fits only elements in one place, and to override it takes as much.",
    silent: "At-rules around it do not count.",
    standards: &[],
    options: &[OptionFacts {
        name: "limit",
        default: OptionDefault::Count(2),
        about: "how many rules may be around one",
    }],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[Wrong { code: ".a { .b { .c { .d { color: red } } } }\n", at: &["1:16"], fixed: None }],
        right: &[".a { @media print { .b { .c { color: red } } } }\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::StyleRule], check),
};

fn check(context: &mut Context, rule: NodeRef) {
    let around = rule.ancestors().skip(1).filter(|node| node.kind() == Kind::StyleRule).count() as u32;
    // The first one that is too deep is reported, not each in it.
    if around == context.count("limit") + 1
        && let Some(selector) = rule.child(Role::Selector)
    {
        context
            .report(selector.span(), format!("this rule is within {around} others"))
            .advice("give it a class, and put it at the top");
    }
}
