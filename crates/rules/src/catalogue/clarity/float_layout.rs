use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "float-layout",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Css],
    fix: None,
    what: "parts of a page that are put beside each other by floating",
    why: "What floats leaves its place, and every part below needs to be cleared of it. Grids and flexible boxes put parts beside each other and keep their places.",
    silent: "For text that flows around a picture, as far as the selector names one. It is on only where settings name it: old pages are built so.",
    standards: &["CSS 2.2, section 9.5", "CSS Grid Layout Level 1"],
    options: &[],
    examples: &[Examples {
        language: Language::Css,
        wrong: &[Wrong { code: ".tides { float: left; width: 50% }\n", at: &["1:10"], fixed: None }],
        right: &[".tides { float: none }\n.tide img { float: right }\nfigure { float: inline-start }\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::StyleDeclaration], check),
};

/// Elements that text flows around.
const PICTURES: [&str; 6] = ["img", "figure", "picture", "svg", "video", "blockquote"];

fn check(context: &mut Context, declaration: NodeRef) {
    let file = context.file();
    let is_float = declaration.child(Role::Name).is_some_and(|name| file.node_text(name).eq_ignore_ascii_case("float"));
    let floats = |value: NodeRef| {
        let word = file.node_text(value).to_ascii_lowercase();
        matches!(word.as_str(), "left" | "right" | "inline-start" | "inline-end")
    };
    if !is_float || !declaration.children_in(Role::Value).any(floats) {
        return;
    }
    let rule = declaration.ancestors().find(|around| around.kind() == Kind::StyleRule);
    let head = rule.and_then(|rule| rule.children().next()).map_or("", |selectors| file.node_text(selectors));
    let mut words = head.split(|sign: char| !sign.is_alphanumeric() && sign != '-');
    if !words.any(|word| PICTURES.contains(&word)) {
        context.report(declaration.span(), "this floats beside what comes next").advice("use a grid or a flexible box");
    }
}
