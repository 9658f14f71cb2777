use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "too-specific",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a selector of more classes than settings allow",
    why: "Nothing overrides it but what is longer still, and it fits elements in one place alone.",
    silent: "What is in `:where()` does not count; of several selectors in `:is()`, `:not()` and `:has()` the longest does.",
    standards: &["Selectors Level 4, section 17"],
    options: &[OptionFacts {
        name: "limit",
        default: OptionDefault::Count(6),
        about: "how many classes, attributes and states a selector may ask for",
    }],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[Wrong {
            code: ".quay .board .line .time .low .red .bold { color: red }\n",
            at: &["1:1"],
            fixed: None,
        }],
        right: &[".quay .board :where(.line .time .low) { color: red }\n.quay .board a:hover { color: red }\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Selector], check),
};

fn check(context: &mut Context, selector: NodeRef) {
    let is_inner = selector.parent().and_then(NodeRef::parent).is_some_and(|holder| holder.kind() == Kind::Arguments);
    let most = context.count("limit");
    if !is_inner {
        let count = classes(context, selector, 0);
        if count > most {
            context
                .report(selector.span(), format!("{count} classes, attributes and states make this selector specific"))
                .advice(format!("{most} are the most; give the element a class of its own"));
        }
    }
}

/// How many classes, attributes and states a selector asks for ("Selectors 4", 17: the second number of its specificity).
fn classes(context: &Context, selector: NodeRef, depth: u32) -> u32 {
    let count = |part: NodeRef| match part.kind() {
        Kind::ClassSelector | Kind::AttributeSelector => 1,
        Kind::PseudoSelector => {
            let text = context.text(part);
            let inner = || {
                let lists = part.child(Role::Arguments).into_iter().flat_map(NodeRef::children);
                let selectors = lists.flat_map(NodeRef::children).filter(|inner| inner.kind() == Kind::Selector);
                selectors
                    .map(|inner| if depth < DEEPEST { classes(context, inner, depth + 1) } else { 0 })
                    .max()
                    .unwrap_or(0)
            };
            match text.split('(').next().unwrap_or(text) {
                ":where" => 0,
                ":is" | ":not" | ":has" => inner(),
                name if name.starts_with("::") => 0,
                _ => 1,
            }
        }
        _ => 0,
    };
    selector.children().map(count).sum()
}

/// Selectors within more others than these do not count.
const DEEPEST: u32 = 32;
