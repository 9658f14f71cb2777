use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::OF_ELEMENTS;
use crate::interface::{Certainty, Check, Context, Examples, File, Rule, Wrong};
use crate::style::colour::Colour;
use crate::style::value::pixels;
use crate::style::{Declaration, declarations};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "contrast",
    certainty: Certainty::Probable,
    languages: &[Language::Css],
    what: "a text in a colour that differs too little from its background",
    why: "People who see little, and everybody in the sun, cannot read it. To see it, look at the page in grey, or measure both colours: texts need 4.5, large \
          ones 3.",
    silent: "Where not both colours are set together and written out, or something shines through. Between 3 and 4.5, where the size is not set with them: \
             large texts need no more. For what cannot be used at the moment, what is put before or behind an element, and where the text is moved out of sight, or a picture is drawn.",
    standards: &["WCAG 2.2 AA, 1.4.3 Contrast (Minimum)"],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[
            Wrong { code: ".tide { color: #aaa; background: #fff }\n", at: &["1:9"], fixed: None },
            Wrong {
                code: ".tide {\n  background-color: rgb(255, 255, 255);\n  font-size: 14px;\n  color: #888;\n}\n",
                at: &["4:3"],
                fixed: None,
            },
        ],
        right: &[
            ".tide { color: #888; background: white }\n.low { color: #333; background: #fff }\n",
            ".tide { color: #aaa; background: #fff url(wave.png) }\n.tide:disabled { color: #aaa; background: #fff }\n",
            ".tide { color: #fff; background: #fff }\n.fare { color: #fff; background: #ff0; stroke: #000 }\n.low { color: #aaa }\n.high { background: rgba(255, 255, 255, 0.5); color: #fff }\n",
        ],
    }],
    check: Check::Nodes(&[Kind::Block, Kind::File], check),
    ..OF_ELEMENTS
};

/// Large texts need this ratio, and all others more.
const LARGE: f64 = 3.0;

/// What texts of a usual size need.
const USUAL: f64 = 4.5;

/// Texts of at least so many pixels may be large, if they are bold: 14 points.
const LARGEST_USUAL: f64 = 14.0 * 4.0 / 3.0;

/// What differs less is meant to be seen by nobody.
const UNSEEN: f64 = 1.05;

fn check(context: &mut Context, block: NodeRef) {
    let file = context.file();
    let all = declarations(file, block);
    let last = |names: &[&str]| all.iter().rev().find(|one| names.contains(&&*one.property));
    let Some((text, below)) = last(&["color"]).zip(last(&["background", "background-color"])) else { return };
    let Some((colour, ground)) = colour_of(file, text).zip(colour_of(file, below)) else { return };
    let size = last(&["font-size"]).and_then(|size| pixels(file, size.only_component()?));
    // What is drawn with a line or a filling of its own is no text.
    let is_no_text = last(&["text-indent", "stroke", "fill"]).is_some() || size == Some(0.0);
    let ratio = colour.contrast(ground);
    let is_small = size.is_some_and(|size| size < LARGEST_USUAL);
    let too_little = ratio < LARGE || is_small && ratio < USUAL;
    if !too_little || ratio < UNSEEN || is_no_text || need_not_be_read(file, block) {
        return;
    }
    let needed = if is_small { "4.5" } else { "3, or 4.5 if it is not large," };
    // Rounded down: what is too little is not to look as if it were enough.
    let shown = (ratio * 10.0).floor() / 10.0;
    context
        .report(text.node.span(), format!("this text has a contrast of {shown} to its background"))
        .related(below.node.span(), "its background")
        .advice(format!("it needs {needed} to be read"));
}

/// The colour that a declaration sets, if it sets nothing else.
fn colour_of(file: File<'_>, declaration: &Declaration<'_>) -> Option<Colour> {
    Colour::of(file, declaration.only_component()?)
}

/// Whether a block is about what need not be read: it cannot be used at the moment, or is put beside an element to be looked at.
fn need_not_be_read(file: File<'_>, block: NodeRef) -> bool {
    let selector = block.parent().and_then(|rule| rule.child(Role::Selector));
    selector.is_some_and(|selector| {
        let text = file.node_text(selector).to_ascii_lowercase();
        ["disabled", ":before", ":after"].iter().any(|word| text.contains(word))
    })
}
