use sieve_syntax::css::dimension;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::slip::{did_you_mean, nearest};
use crate::style::Declaration;
use crate::style::value::{is_unit, units};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unknown-unit",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a unit that there is not",
    why: "Browsers leave the declaration out without a word.",
    silent: "In custom properties, whose values may be for scripts, in values that speak to one old browser, and in the ranges of characters of a font.",
    standards: &["CSS Values and Units Module Level 4, sections 6 and 7"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[
            Wrong { code: ".quay { margin: 10xp }\n", at: &["1:17"], fixed: None },
            Wrong { code: ".quay { width: calc(100% - 2rme) }\n", at: &["1:28"], fixed: None },
        ],
        right: &[
            ".quay { margin: 10px 1rem; transition: 1s; width: 1fr; --x: 10tides }\n",
            "li:nth-child(2n+1) { margin: 0 }\n@font-face { unicode-range: U+4E00-9FFF, U+30a }\n",
            "a { width: 10px\\9 }\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Dimension], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let Some((_, unit)) = dimension(file.node_text(node)) else { return };
    if is_unit(unit) || unit.contains('\\') {
        return;
    }
    let Some(declaration) = node.ancestors().find_map(|around| Declaration::of(file, around)) else { return };
    if declaration.is_custom() || matches!(&*declaration.property, "unicode-range" | "filter" | "-ms-filter") {
        return;
    }
    // An+B in the arguments of a pseudo-class is no dimension.
    let advice = did_you_mean(nearest(&unit.to_ascii_lowercase(), units()), "browsers leave the declaration out");
    let start = node.span().end - unit.len() as u32;
    context
        .report(node.span(), format!("there is no unit {unit}"))
        .anchor(Span::new(start, node.span().end))
        .advice(advice);
}
