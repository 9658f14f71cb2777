use std::collections::hash_map::Entry;

use rustc_hash::FxHashMap;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::style::at_word_of;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-selector",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a rule with the same selector as one above it in the same block",
    why: "What an element looks like is said in two places. Who changes one does not see the other.",
    silent: "In keyframes, and where the selectors are written in another order.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[Wrong {
            code: ".quay { color: red }\n.tide { margin: 0 }\n.quay { margin: 0 }\n",
            at: &["3:1"],
            fixed: None,
        }],
        right: &[
            ".quay { color: red }\n@media print { .quay { color: black } }\n",
            "@font-face { font-family: a }\n@font-face { font-family: b }\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::File, Kind::Block], check),
};

fn check(context: &mut Context, holder: NodeRef) {
    let file = context.file();
    if at_word_of(file, holder).is_some_and(|word| word.ends_with("keyframes")) {
        return;
    }
    let mut seen: FxHashMap<String, Span> = FxHashMap::default();
    let rules = holder.children().filter(|child| child.kind() == Kind::StyleRule);
    for list in rules.filter_map(|rule| rule.child(Role::Selector)) {
        let text = file.node_text(list).split_whitespace().collect::<Vec<_>>().join(" ");
        match seen.entry(text) {
            Entry::Vacant(new) => drop(new.insert(list.span())),
            Entry::Occupied(first) => {
                let line = context.line(first.get().start);
                context
                    .report(list.span(), format!("line {line} has a rule for the same elements"))
                    .related(*first.get(), "this one")
                    .advice("put the two together, unless what is between them must come in between");
            }
        }
    }
}
