use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::in_small_letters;
use crate::slip::{meant_or_listed, nearest};
use crate::style::{Declaration, KEYWORDS, in_known_rules};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unknown-keyword-value",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a value that is one word, where the property takes other words alone",
    why: "Browsers leave the declaration out without a word.",
    silent: "For properties that take more than words, for words with the prefix of a browser, and where a value is computed.",
    standards: &["the index of CSS properties of the W3C"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[
            Wrong { code: ".quay { text-align: centre }\n", at: &["1:21"], fixed: None },
            Wrong { code: ".quay { position: absolut; visibility: hiden }\n", at: &["1:19", "1:40"], fixed: None },
        ],
        right: &[
            ".quay { text-align: -webkit-center; position: sticky; visibility: inherit; float: var(--side); text-align: CENTER }\n@-ms-viewport { width: device-width }\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::StyleDeclaration], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let Some(declaration) = Declaration::of(file, node) else { return };
    let Some(words) = KEYWORDS.get(&declaration.property) else { return };
    let mut components = declaration.components();
    let (Some(value), None) = (components.next(), components.next()) else { return };
    // A sign before it makes it a form of another language.
    if declaration.value.is_none_or(|whole| whole.span().start != value.span().start) {
        return;
    }
    let word = in_small_letters(file.node_text(value));
    // An escape makes it a form of one browser.
    let is_plain = value.kind() == Kind::Name && word.bytes().all(|byte| byte.is_ascii_lowercase() || byte == b'-');
    let is_word = |known: &str| known == word || OF_ALL.contains(&&*word);
    if !is_plain
        || !in_known_rules(file, node)
        || word.starts_with('-')
        || words.split(' ').any(is_word)
        || is_older(&declaration.property, &word)
    {
        return;
    }
    let meant = nearest(&word, words.split(' ').chain(OF_ALL));
    context
        .report(value.span(), format!("{} takes no value \"{word}\"", declaration.property))
        .advice(meant_or_listed(meant, words.split(' ')));
}

/// Words that every property takes ("CSS Cascading and Inheritance 5", 7.3).
const OF_ALL: [&str; 6] = ["inherit", "initial", "revert", "revert-layer", "revert-rule", "unset"];

/// Words of older drafts, and of single browsers.
fn is_older(property: &str, word: &str) -> bool {
    let words: &[&str] = match property {
        "image-rendering" => &["optimizespeed", "optimizequality", "optimize-contrast"],
        "writing-mode" => &["lr", "lr-tb", "rl", "rl-tb", "tb", "tb-rl", "tb-lr", "bt-lr"],
        "word-break" | "overflow-wrap" | "word-wrap" => &["break-word"],
        "page-break-before" | "page-break-after" => &["left", "right", "auto", "always", "avoid"],
        "pointer-events" => &["visiblepainted", "visiblefill", "visiblestroke", "painted", "fill", "stroke", "all"],
        "user-select" => &["element", "elements", "toggle"],
        "width" | "min-width" | "max-width" | "height" | "min-height" | "max-height" => {
            &["intrinsic", "min-intrinsic", "fill-available", "available"]
        }
        "cursor" => &["hand"],
        "display" => &["box", "inline-box", "compact", "marker"],
        "overflow" | "overflow-x" | "overflow-y" | "overflow-block" | "overflow-inline" => &["overlay"],
        "speak" => &["none", "normal", "spell-out", "digits", "literal-punctuation", "no-punctuation"],
        "alignment-baseline" | "resize" => &["auto"],
        "baseline-shift" => &["baseline"],
        "overflow-anchor" => &["visible"],
        "ruby-overhang" => &["none"],
        "box-sizing" => &["padding-box"],
        _ => &[],
    };
    words.contains(&word)
}
