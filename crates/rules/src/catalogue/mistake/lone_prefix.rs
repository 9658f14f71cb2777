use rustc_hash::FxHashSet;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::style::declarations;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "lone-prefix",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: &[Language::Css],
    fix: None,
    what: "a property with the prefix of a browser, without the property that all browsers know",
    why: "The prefix was for a time when the property was new. Browsers that never knew it, and those that no longer do, leave the declaration out.",
    silent: "Where the property with its plain name is in the same block, or a declaration with another prefix is that may stand for a fallback elsewhere. In what only one browser knows: its own pseudo-elements, `@supports` and keyframes with a prefix.",
    standards: &["CSS Snapshot 2024, section 3.2.1"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[
            Wrong { code: ".quay { -webkit-transform: rotate(3deg) }\n", at: &["1:9"], fixed: None },
            Wrong {
                code: ".quay {\n  -moz-box-sizing: border-box;\n  -webkit-box-sizing: border-box;\n}\n",
                at: &["2:3"],
                fixed: None,
            },
        ],
        right: &[
            ".quay { -webkit-transform: rotate(3deg); transform: rotate(3deg) }\n",
            ".quay { -webkit-line-clamp: 3; -webkit-font-smoothing: antialiased }\n",
            ".quay::-webkit-slider-thumb { -webkit-transform: none }\n",
            "@-webkit-keyframes turn { from { -webkit-transform: none } }\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Block], check),
};

fn check(context: &mut Context, block: NodeRef) {
    let file = context.file();
    let all = declarations(file, block);
    let names: FxHashSet<&str> = all.iter().map(|one| &*one.property).collect();
    let mut told: FxHashSet<&str> = FxHashSet::default();
    let mut only_one_browser = None;
    for (declaration, plain) in all.iter().filter_map(|one| Some((one, plain_name(&one.property)?))) {
        if names.contains(plain) || !told.insert(plain) {
            continue;
        }
        if *only_one_browser.get_or_insert_with(|| is_for_one_browser(file, block)) {
            return;
        }
        context
            .report(declaration.name.span(), format!("only some browsers know {}", declaration.property))
            .advice(format!("set {plain} too, behind it"));
    }
}

/// The prefixes of browsers.
const PREFIXES: [&str; 4] = ["-webkit-", "-moz-", "-ms-", "-o-"];

/// The name of a property without its prefix, where all browsers know it so, with the same values.
fn plain_name(property: &str) -> Option<&str> {
    let plain = PREFIXES.iter().find_map(|prefix| property.strip_prefix(prefix))?;
    PLAIN.binary_search(&plain).is_ok().then_some(plain)
}

/// Properties that had prefixes once, and mean the same without one.
const PLAIN: [&str; 35] = [
    "animation",
    "animation-delay",
    "animation-direction",
    "animation-duration",
    "animation-fill-mode",
    "animation-iteration-count",
    "animation-name",
    "animation-play-state",
    "animation-timing-function",
    "backdrop-filter",
    "background-size",
    "border-bottom-left-radius",
    "border-bottom-right-radius",
    "border-radius",
    "border-top-left-radius",
    "border-top-right-radius",
    "box-shadow",
    "box-sizing",
    "clip-path",
    "column-count",
    "column-gap",
    "column-rule",
    "column-width",
    "columns",
    "flex-direction",
    "hyphens",
    "justify-content",
    "perspective",
    "tab-size",
    "transform",
    "transform-origin",
    "transition",
    "transition-delay",
    "transition-duration",
    "user-select",
];

/// Whether what is around a block is known to one browser alone.
fn is_for_one_browser(file: File<'_>, block: NodeRef) -> bool {
    block.ancestors().any(|around| match around.kind() {
        Kind::StyleRule => around.child(Role::Selector).is_some_and(|list| has_prefix(file.node_text(list))),
        Kind::AtRule => {
            let prelude = around.children().take_while(|part| part.kind() != Kind::Block);
            prelude.into_iter().any(|part| has_prefix(file.node_text(part)))
        }
        _ => false,
    })
}

fn has_prefix(text: &str) -> bool {
    PREFIXES.iter().any(|prefix| text.contains(prefix))
}
