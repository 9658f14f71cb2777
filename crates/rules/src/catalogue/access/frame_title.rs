use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::{OF_ELEMENTS, is_named};
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::Tag;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "frame-title",
    what: "a frame without a title",
    why: "A screen reader says \"frame\" and the address, and asks people to decide whether to go in. To see it, let a screen reader list the frames.",
    silent: "Where attributes are spread or filled in, and for frames that are hidden or that no key reaches.",
    standards: &["WCAG 2.2 A, 4.1.2 Name, Role, Value", "WCAG 2.2 A, 2.4.1 Bypass Blocks"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[
                Wrong { code: "<iframe src=\"/map\"></iframe>\n", at: &["1:1"], fixed: None },
                Wrong { code: "<iframe src=\"/map\" title=\" \"></iframe>\n", at: &["1:1"], fixed: None },
            ],
            right: &[
                "<iframe src=\"/map\" title=\"Map of the quays\"></iframe>\n",
                "<iframe src=\"/count\" style=\"display: none\"></iframe>\n<iframe src=\"/count\" hidden></iframe>\n",
                "<iframe src=\"/count\" tabindex=\"-1\" width=\"0\" height=\"0\"></iframe>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong { code: "const map = <iframe src={map} />;\n", at: &["1:13"], fixed: None }],
            right: &["const map = <iframe src={map} title={t(\"map\")} />;\nconst other = <iframe {...frame} />;\n"],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let is_frame = |tag: &Tag| matches!(&*tag.name, "iframe" | "frame");
    let Some(tag) = Tag::shown(context, element).filter(is_frame) else { return };
    let is_tiny = ["width", "height"].iter().any(|side| tag.value(side).is("0") || tag.value(side).is("1"));
    let is_left_out = is_tiny || tag.value("tabindex").is("-1") || tag.is_presentational();
    if is_left_out || is_named(context, &tag) {
        return;
    }
    context.report(tag.head(), "this frame has no title").advice("say in title=\"…\" what is in it");
}
