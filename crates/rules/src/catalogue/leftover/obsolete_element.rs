use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::markup::Tag;
use crate::markup::elements::ELEMENTS;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "obsolete-element",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: None,
    what: "an element that is no longer to be used",
    why: "The standard asks browsers to show it for old pages alone. It says how something looks where style sheets do that, or was replaced.",
    silent: "Nowhere.",
    standards: &["HTML, section 16.2"],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong { code: "<center>Tides</center>\n", at: &["1:1"], fixed: None },
            Wrong { code: "<p><font color=\"red\">High</font></p>\n", at: &["1:4"], fixed: None },
        ],
        right: &["<p class=\"high\">High</p>\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Element], check),
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::of(context.file(), element) else { return };
    let is_obsolete = ELEMENTS.get(&tag.name) == Some("obsolete");
    // These move, which another rule tells.
    if is_obsolete && !matches!(&*tag.name, "marquee" | "blink") {
        let advice = match &*tag.name {
            "tt" => "use <code>, <kbd> or <samp>",
            "acronym" => "use <abbr>",
            "strike" => "use <s> or <del>",
            "dir" => "use <ul>",
            "frame" | "frameset" | "noframes" => "use <iframe>, or put the page together on the server",
            "applet" => "use <object> or <iframe>",
            "listing" | "xmp" | "plaintext" => "use <pre> and <code>",
            "keygen" | "isindex" => "use a <form>",
            _ => "say in the style sheet how it looks",
        };
        context.report(tag.head(), format!("<{}> is no longer to be used", tag.name)).advice(advice);
    }
}
