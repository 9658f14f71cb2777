use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::slip::did_you_mean;
use crate::style::{DESCRIPTORS, Declaration, PROPERTIES, in_known_rules};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unknown-property",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "a property that there is not",
    why: "Browsers leave the declaration out without a word.",
    silent: "For properties with the prefix of a browser, custom ones, and where a rule of another language may be meant.",
    standards: &["the index of CSS properties of the W3C"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[
            Wrong { code: ".quay { colr: red }\n", at: &["1:9"], fixed: None },
            Wrong { code: ".quay { backgroud-color: red }\n", at: &["1:9"], fixed: None },
        ],
        right: &[
            "p { mso-hide: all }\n",
            ".quay { color: red; -webkit-line-clamp: 3; --gap: 1px; *zoom: 1; _height: 1px }\n",
            "@font-face { src: url(a.woff); font-display: swap }\n",
            "@page { size: a4; margin: 1cm }\n@counter-style a { system: cyclic; symbols: \"a\" }\n",
            "@property --x { syntax: \"<length>\"; inherits: false }\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::StyleDeclaration], check),
};

/// Properties of older drafts and of single browsers, which there were.
const OLDER: &[&str] = &[
    "app-region",
    "azimuth",
    "behavior",
    "box-align",
    "box-direction",
    "box-flex",
    "box-orient",
    "box-pack",
    "buffered-rendering",
    "clip",
    "color-profile",
    "color-rendering",
    "cue",
    "cue-after",
    "cue-before",
    "elevation",
    "enable-background",
    "font-effect",
    "font-smooth",
    "font-smoothing",
    "glyph-orientation-horizontal",
    "glyph-orientation-vertical",
    "grid-column-gap",
    "grid-gap",
    "grid-row-gap",
    "hyphenate-character",
    "ime-mode",
    "image-rendering",
    "kerning",
    "layout-flow",
    "line-break",
    "mso-line-height-rule",
    "mso-table-lspace",
    "mso-table-rspace",
    "offset-rotation",
    "page-break-after",
    "page-break-before",
    "page-break-inside",
    "pause",
    "pause-after",
    "pause-before",
    "pitch",
    "pitch-range",
    "play-during",
    "richness",
    "scroll-snap-coordinate",
    "scroll-snap-destination",
    "scrollbar-3dlight-color",
    "scrollbar-arrow-color",
    "scrollbar-base-color",
    "scrollbar-darkshadow-color",
    "scrollbar-face-color",
    "scrollbar-highlight-color",
    "scrollbar-shadow-color",
    "scrollbar-track-color",
    "speak",
    "speak-header",
    "speak-numeral",
    "speak-punctuation",
    "speech-rate",
    "stress",
    "tap-highlight-color",
    "text-autospace",
    "text-decoration-blink",
    "text-justify-trim",
    "text-kashida-space",
    "text-size-adjust",
    "user-drag",
    "user-modify",
    "user-select",
    "voice-family",
    "volume",
    "word-wrap",
    "writing-mode",
    "zoom",
];

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let Some(declaration) = Declaration::of(file, node) else { return };
    let name = &*declaration.property;
    let is_odd = declaration.is_custom()
        || name.starts_with(['-', '*', '_', '$', '@'])
        || name.contains('\\')
        || name.starts_with("mso-");
    if is_odd || PROPERTIES.has(name) || DESCRIPTORS.has(name) || OLDER.binary_search(&name).is_ok() {
        return;
    }
    if !in_known_rules(file, node) {
        return;
    }
    let advice = did_you_mean(PROPERTIES.meant_by(name), "browsers leave it out");
    context.report(declaration.name.span(), format!("there is no property {name}")).advice(advice);
}
