use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::slip::did_you_mean;
use crate::style::PSEUDO;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unknown-pseudo",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a pseudo-class or pseudo-element that there is not",
    why: "Browsers leave out the whole rule, with all its selectors, without a word.",
    silent: "For names with the prefix of a browser, and where tools that put style sheets together have names of their own.",
    standards: &["Selectors Level 4", "CSS Pseudo-Elements Module Level 4"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[
            Wrong { code: "a:hovered { color: red }\n", at: &["1:2"], fixed: None },
            Wrong { code: "p::befor { content: \"\" }\n", at: &["1:2"], fixed: None },
        ],
        right: &[
            "a:hover, a:not(.b):first-child, p::before, p:before { color: red }\n",
            "input::-webkit-search-button, input:-moz-ui-invalid { color: red }\n",
            ":global(.a), :deep(.b), ::v-deep(.c), :root { color: red }\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::PseudoSelector], check),
};

/// What older drafts and tools that put style sheets together have.
const OTHERS: &[&str] = &[
    "corner-present",
    "decrement",
    "double-button",
    "end",
    "horizontal",
    "increment",
    "no-button",
    "single-button",
    "start",
    "vertical",
    "window-inactive",
    "any",
    "matches",
    "global",
    "local",
    "deep",
    "v-deep",
    "slotted",
    "export",
    "import",
    "contains",
    "content",
    "shadow",
    "past",
    "future",
];

fn check(context: &mut Context, selector: NodeRef) {
    let file = context.file();
    let Some(name) = selector.child(Role::Name) else { return };
    let written = file.node_text(name).to_ascii_lowercase();
    if written.starts_with('-') || written.contains('\\') || OTHERS.contains(&&*written) {
        return;
    }
    let marks = &file.node_text(selector)[..(name.span().start - selector.span().start) as usize];
    let whole = format!("{marks}{written}");
    // The pseudo-elements of the first standard have one colon or two.
    if PSEUDO.has(&whole) {
        return;
    }
    let meant = PSEUDO.meant_by(&whole).or_else(|| {
        Some(&whole[1..])
            .filter(|single| PSEUDO.has(single))
            .and_then(|single| PSEUDO.names().find(|name| *name == single))
    });
    let advice = did_you_mean(meant, "browsers leave the whole rule out");
    context.report(selector.span(), format!("there is no {whole}")).advice(advice);
}
