use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::style::{Declaration, at_word_of};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-fallback-family",
    concern: Concern::Mistake,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a list of fonts without a general one at its end",
    why: "Where none of the fonts is there, the browser takes its own, which may look nothing like what was meant.",
    silent: "For single words that stand for something else, variables, and fonts of signs.",
    standards: &["CSS Fonts Module Level 4, section 2.1.1"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[Wrong { code: ".quay { font-family: \"Saltmarsh\", Arial }\n", at: &["1:9"], fixed: None }],
        right: &[
            ".quay { font-family: \"Saltmarsh\", sans-serif }\n",
            ".quay { font-family: var(--font); }\n",
            ".tide { font-family: inherit }\n",
            ".icon { font-family: \"Saltmarsh Icons\" }\n",
            "@font-face { font-family: \"Saltmarsh\" }\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::StyleDeclaration], check),
};

/// The families that every browser has, and words for other values.
const GENERAL: &[&str] = &[
    "serif",
    "sans-serif",
    "monospace",
    "cursive",
    "fantasy",
    "system-ui",
    "ui-serif",
    "ui-sans-serif",
    "ui-monospace",
    "ui-rounded",
    "math",
    "emoji",
    "fangsong",
    "inherit",
    "initial",
    "unset",
    "revert",
    "revert-layer",
    "-apple-system",
];

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let Some(declaration) = Declaration::of(file, node).filter(|declaration| declaration.property == "font-family")
    else {
        return;
    };
    if node.parent().is_some_and(|block| at_word_of(file, block).is_some_and(|word| word == "@font-face")) {
        return;
    }
    let parts: Vec<NodeRef> = declaration.components().collect();
    let is_plain = parts.iter().all(|part| matches!(part.kind(), Kind::Name | Kind::String));
    let says_general = parts.iter().any(|part| GENERAL.contains(&&*file.node_text(*part).to_ascii_lowercase()));
    // Fonts of signs have nothing to fall back to.
    let words = ["icon", "awesome", "glyph", "symbol", "emoji", "katex", "math"];
    let of_signs = declaration
        .value
        .is_some_and(|value| words.iter().any(|word| file.node_text(value).to_ascii_lowercase().contains(word)));
    let is_list = declaration.value.is_some_and(|value| file.node_text(value).contains(','));
    if is_plain && !parts.is_empty() && !says_general && !of_signs && is_list {
        context
            .report(declaration.name.span(), "no general family is in this list")
            .advice("end it with serif, sans-serif, monospace or another one that is always there");
    }
}
