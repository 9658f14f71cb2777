use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::OF_ELEMENTS;
use crate::interface::{Certainty, Check, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::markup::in_small_letters;
use crate::style::{Declaration, declarations};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "colour-only",
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Guess,
    languages: &[Language::Css, Language::Html],
    what: "links within text that only their colour tells from it, and words that refer to something by its colour alone",
    why: "People who do not tell colours apart do not find them. To see it, look at the page in grey.",
    silent: "Where something else marks the links: a line, a weight, a background; where they have a class of their own, or no paragraph is around them. For words beside which a sign or a shape is mentioned.",
    standards: &["WCAG 2.2 A, 1.4.1 Use of Color"],
    examples: &[
        Examples {
            language: Language::Css,
            wrong: &[Wrong { code: "p a { color: navy; text-decoration: none; }\n", at: &["1:20"], fixed: None }],
            right: &[
                "p a { color: navy; text-decoration: none; font-weight: bold; }\np a.quay { color: navy; text-decoration: none; }\n",
                "nav a { color: navy; text-decoration: none; }\np a:hover { color: navy; text-decoration: none; }\n",
            ],
        },
        Examples {
            language: Language::Html,
            wrong: &[Wrong {
                code: "<p>Sailings that are shown in red are cancelled.</p>\n",
                at: &["1:22"],
                fixed: None,
            }],
            right: &[
                "<p>Sailings that are shown in red and with a cross are cancelled.</p>\n<p>The quay is painted in red.</p>\n",
            ],
        },
    ],
    check: Check::Nodes(&[Kind::StyleRule, Kind::MarkupText], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, node: NodeRef) {
    match node.kind() {
        Kind::StyleRule => on_links(context, node),
        _ => on_words(context, node),
    }
}

/// Elements that hold running text.
const OF_TEXT: [&str; 4] = ["p", "blockquote", "dd", "figcaption"];

/// What tells a link from the text around it beside its colour.
const MARKS: [&str; 8] =
    ["font", "border", "background", "box-shadow", "outline", "text-shadow", "letter-spacing", "text-transform"];

/// Failure F73: a link that is evident by its colour alone.
fn on_links(context: &mut Context, rule: NodeRef) {
    let file = context.file();
    let (Some(selectors), Some(block)) = (rule.child(Role::Selector), rule.child(Role::Body)) else { return };
    if !selectors.children().any(|selector| selects_links_in_text(file, selector)) {
        return;
    }
    let all = declarations(file, block);
    let is_marked = |one: &Declaration| MARKS.iter().any(|mark| one.property.starts_with(mark));
    let has_colour = all.iter().any(|one| one.property == "color");
    let without_line = all.iter().rev().find(|one| one.property.starts_with("text-decoration"));
    let Some(line) = without_line.filter(|one| is_none(file, one)) else { return };
    if has_colour && !all.iter().any(is_marked) {
        context
            .report(line.node.span(), "only its colour tells this link from the text around it")
            .advice("keep its line, or mark it with something else: a weight, a border");
    }
}

fn is_none(file: File<'_>, declaration: &Declaration) -> bool {
    declaration.only_component().is_some_and(|only| file.node_text(only).eq_ignore_ascii_case("none"))
}

/// Whether a selector is of links within running text, and asks for no state or class of them: `p a`.
fn selects_links_in_text(file: File<'_>, selector: NodeRef) -> bool {
    let parts: Vec<NodeRef> = selector.children().collect();
    let is_type = |part: &NodeRef| part.kind() == Kind::TypeSelector;
    let name = |part: &NodeRef| in_small_letters(file.node_text(*part));
    let Some((last, before)) = parts.split_last() else { return false };
    // Beside its name the last one asks for nothing more of the element.
    let stands_alone = before.last().is_some_and(|other| other.span().end < last.span().start);
    let in_text = before.iter().filter(|part| is_type(part)).any(|part| OF_TEXT.contains(&&*name(part)));
    is_type(last) && name(last) == "a" && stands_alone && in_text
}

/// Colours by which texts refer to things.
const COLOURS: [&str; 8] = ["red", "green", "blue", "yellow", "orange", "grey", "gray", "purple"];

/// Words before `in red` that say how something is shown, or what.
const SHOWN: [&str; 10] =
    ["shown", "marked", "highlighted", "displayed", "printed", "written", "listed", "fields", "items", "rows"];

/// Words for what marks something beside a colour.
const SIGNS: [&str; 9] = ["asterisk", "*", "bold", "icon", "cross", "star", "underline", "sign", "symbol"];

/// Failures F14 and F81: `shown in red`, and nothing else that would tell.
fn on_words(context: &mut Context, text: NodeRef) {
    let file = context.file();
    let source = file.node_text(text);
    // The cheap test: most texts say nothing of the kind.
    if !source.contains(" in ") {
        return;
    }
    let words: Vec<(usize, &str)> = words(source).collect();
    let small = |word: &str| word.to_ascii_lowercase();
    let found = words.windows(3).find(|three| {
        let [(_, shown), (_, between), (_, colour)] = three else { return false };
        between == &"in" && SHOWN.contains(&&*small(shown)) && COLOURS.contains(&&*small(colour))
    });
    let Some([(start, _), _, (last, colour)]) = found else { return };
    let around = text.parent().map_or(source, |parent| file.node_text(parent)).to_ascii_lowercase();
    if SIGNS.iter().any(|sign| around.contains(sign)) {
        return;
    }
    let at = |offset: usize| text.span().start + offset as u32;
    let span = Span::new(at(*start), at(last + colour.len()));
    context
        .report(span, "this refers to something by its colour alone")
        .advice("say it with a sign or a word as well, and mention that");
}

/// The words of a text, without the signs beside them, each with its place.
fn words(text: &str) -> impl Iterator<Item = (usize, &str)> {
    let is_part = |letter: char| letter.is_alphanumeric();
    text.split_whitespace().filter_map(move |word| {
        let inner = word.trim_matches(|letter| !is_part(letter));
        let at = inner.as_ptr() as usize - text.as_ptr() as usize;
        (!inner.is_empty()).then_some((at, inner))
    })
}
