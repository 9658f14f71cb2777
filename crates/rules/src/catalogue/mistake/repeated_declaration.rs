use rustc_hash::FxHashMap;
use sieve_syntax::css::dimension;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::style::{Declaration, at_word_of, declarations};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-declaration",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a property that the same block sets again, so that the first value has no effect",
    why: "Only the last one counts. Readers change the first and wonder why nothing happens.",
    silent: "Where the values may be for browsers of different ages: functions, prefixes, newer units and words; where one is written with a capital, which some readers of mail understand alone.",
    standards: &["CSS Cascading and Inheritance Level 4, section 6"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[
            Wrong { code: ".quay { margin: 1px; color: #fff; margin: 1px }\n", at: &["1:35"], fixed: None },
            Wrong { code: ".quay {\n  width: 10px;\n  width: 20px;\n}\n", at: &["3:3"], fixed: None },
        ],
        right: &[
            "p {\n  margin: 0 0 10px;\n  Margin: 0;\n}\n",
            ".quay { background: #fff; background: rgba(255, 255, 255, 0.5) }\n",
            ".quay { height: 100vh; height: 100dvh; display: -webkit-box; display: flex }\n",
            ".quay { margin: 1px !important; margin: 2px }\n",
            "@font-face { src: url(a.eot); src: url(a.woff) }\n",
            "a { margin: 1px; b { margin: 1px } }\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Block], check),
};

fn check(context: &mut Context, block: NodeRef) {
    let file = context.file();
    let mut seen: FxHashMap<String, Declaration> = FxHashMap::default();
    let in_font = at_word_of(file, block).is_some_and(|word| word == "@font-face");
    for declaration in declarations(file, block) {
        let key = format!("{}{}", declaration.property, if declaration.is_important() { "!" } else { "" });
        if let Some(first) = seen.get(&key).filter(|first| !in_font && says_again(file, first, &declaration)) {
            context
                .report(declaration.name.span(), format!("{} is set in this block already", declaration.property))
                .related(first.node.span(), "it is set here too, and this has no effect")
                .advice("remove the one that is not meant");
        }
        seen.insert(key, declaration);
    }
}

/// Whether the second of two declarations takes all effect from the first, in every browser: the values are the same, or both are as old
/// as style sheets are.
fn says_again(file: File<'_>, first: &Declaration<'_>, second: &Declaration<'_>) -> bool {
    let (Some(one), Some(other)) = (first.value, second.value) else { return false };
    // `*zoom` and `\\9` speak to one old browser alone, and `Margin` to some readers of mail.
    let speaks_to_one = |declaration: &Declaration<'_>| {
        let is_marked = declaration.property.starts_with(['*', '_']) || file.node_text(declaration.node).contains('\\');
        is_marked || file.node_text(declaration.name) != &*declaration.property
    };
    if speaks_to_one(first) || speaks_to_one(second) {
        return false;
    }
    file.node_text(one) == file.node_text(other) || is_old(file, first) && is_old(file, second)
}

/// Whether every browser understands a value: numbers, old units, colours of three or six digits.
fn is_old(file: File<'_>, declaration: &Declaration<'_>) -> bool {
    let mut components = declaration.components().peekable();
    components.peek().is_some()
        && components.all(|part| match part.kind() {
            Kind::Number | Kind::Percentage => true,
            Kind::Dimension => dimension(file.node_text(part))
                .is_some_and(|(_, unit)| matches!(unit, "px" | "em" | "pt" | "cm" | "mm" | "in")),
            Kind::HashValue => matches!(file.node_text(part).len(), 4 | 7),
            _ => false,
        })
}
