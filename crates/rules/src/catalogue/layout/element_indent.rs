use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::habit::{begins_line, indent_at, is_clear, line_at};
use crate::indent::all_shifted;
use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, Rule, Wrong};
use crate::markup::Tag;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "element-indent",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Html],
    fix: Some(FixKind::Review),
    what: "an element that does not begin below the ones beside it, and an end tag that is not below its start tag",
    why: "Readers see by the indentation what is in what: an end tag in another column seems to close another element.",
    silent: "Elements that do not begin their lines; those among words, with parts of templates beside them, and within `pre` and `textarea`; elements of which no two of three begin in the same column.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::Html,
        wrong: &[
            Wrong {
                code: "<ul>\n  <li>low</li>\n   <li>high</li>\n  <li>none</li>\n</ul>\n",
                at: &["3:4"],
                fixed: Some("<ul>\n  <li>low</li>\n  <li>high</li>\n  <li>none</li>\n</ul>\n"),
            },
            Wrong {
                code: "<div>\n  <p>\n    low\n    </p>\n</div>\n",
                at: &["4:5"],
                fixed: Some("<div>\n  <p>\n    low\n  </p>\n</div>\n"),
            },
        ],
        right: &[
            "<ul>\n  <li>low\n  <li>high\n</ul>\n",
            "<div>\n  words and\n  <b>more</b>\n    <i>of them</i>\n</div>\n",
            "<pre>\n  <b>low</b>\n<i>high</i>\n <i>none</i></pre>\n",
            "<ul>\n  <li>a</li>\n  {% if low %}\n    <li>b</li>\n  {% endif %}\n  <li>c</li>\n</ul>\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Element], check),
};

fn check(context: &mut Context, element: NodeRef) {
    let file = context.file();
    let Some(tag) = Tag::of(file, element) else { return };
    on_end_tag(context, element);
    on_children(context, &tag);
}

/// Elements whose whitespace is shown as it is (CSS in the standard's own style sheet, "15.3.3 Flow content").
fn keeps_whitespace(name: &str) -> bool {
    matches!(name, "pre" | "textarea" | "listing" | "xmp" | "plaintext")
}

fn on_end_tag(context: &mut Context, element: NodeRef) {
    let file = context.file();
    let Some(end) = element.child(Role::End) else { return };
    let (first, last) = (element.span().start, end.span().start);
    if !begins_line(file, first) || !begins_line(file, last) {
        return;
    }
    let (wanted, found) = (indent_at(file, first), indent_at(file, last));
    if wanted == found || is_mixed(wanted, found) || is_in_shown_whitespace(file, element) {
        return;
    }
    let start = last - found.len() as u32;
    context
        .report(
            end.span(),
            format!("this end tag is in column {}, its element begins in {}", found.len() + 1, wanted.len() + 1),
        )
        .fix_to_review(Some(vec![Edit::replace(Span::new(start, last), wanted)]));
}

fn on_children(context: &mut Context, tag: &Tag) {
    let file = context.file();
    let parts: Vec<NodeRef> = tag.children().collect();
    let is_plain = |part: &NodeRef| {
        part.kind() == Kind::Element || part.kind() == Kind::MarkupText && file.node_text(*part).trim().is_empty()
    };
    if parts.len() < 2 || !parts.iter().all(is_plain) || keeps_whitespace(&tag.name) {
        return;
    }
    let elements = parts.iter().filter(|part| part.kind() == Kind::Element);
    let first: Vec<NodeRef> = elements.filter(|part| begins_line(file, part.span().start)).copied().collect();
    let Some(wanted) = usual(file, &first) else { return };
    for element in first {
        let found = indent_at(file, element.span().start);
        if found == wanted || is_mixed(wanted, found) {
            continue;
        }
        if is_in_shown_whitespace(file, element) {
            return;
        }
        let message =
            format!("this element begins in column {}, those beside it in {}", found.len() + 1, wanted.len() + 1);
        let by = wanted.len() as i64 - found.len() as i64;
        let edits = may_move(file, element).then(|| all_shifted(file, whole_lines(file, element), by, |_| false));
        let head = Tag::of(file, element).map_or(element.span(), |tag| tag.head());
        context.report(head, message).fix_to_review(edits);
    }
}

/// The indentation that two of three elements have.
fn usual<'f>(file: File<'f>, elements: &[NodeRef]) -> Option<&'f str> {
    let mut all: Vec<&str> = elements.iter().map(|element| indent_at(file, element.span().start)).collect();
    if all.windows(2).all(|pair| pair[0] == pair[1]) {
        return None;
    }
    all.sort_unstable();
    let most = all.chunk_by(|one, next| one == next).max_by_key(|same| same.len())?;
    (most.len() > 1 && is_clear(most.len(), all.len())).then_some(most[0])
}

/// Whether one of two has tabs: how wide those are is not known.
fn is_mixed(one: &str, other: &str) -> bool {
    one.contains('\t') != other.contains('\t') && !one.is_empty() && !other.is_empty()
}

fn is_in_shown_whitespace(file: File<'_>, element: NodeRef) -> bool {
    let around = std::iter::once(element).chain(element.ancestors()).filter(|around| around.kind() == Kind::Element);
    around.into_iter().filter_map(|around| Tag::of(file, around)).any(|tag| keeps_whitespace(&tag.name))
}

/// Whether the lines of an element can be moved: each begins with spaces, and none of them is in something that shows them.
fn may_move(file: File<'_>, element: NodeRef) -> bool {
    let inside = std::iter::once(element).chain(element.descendants());
    let holds_lines = |node: NodeRef| match node.kind() {
        Kind::TemplatePart => true,
        Kind::Element => Tag::of(file, node)
            .is_none_or(|tag| keeps_whitespace(&tag.name) || matches!(&*tag.name, "script" | "style")),
        _ => false,
    };
    let lines = file.text.slice(whole_lines(file, element));
    !inside.into_iter().any(holds_lines) && !lines.contains('\t') && !lines.contains("<!--")
}

fn whole_lines(file: File<'_>, element: NodeRef) -> Span {
    let span = element.span();
    Span::new(line_at(file, span.start).start, span.end)
}
