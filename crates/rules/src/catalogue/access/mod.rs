//! Rules of the concern `access`: each says which criterion of WCAG 2.2 it serves, who is shut out, and how to see it without a program.

pub(super) mod button_text;
pub(super) mod colour_only;
pub(super) mod contrast;
pub(super) mod control_label;
pub(super) mod frame_title;
pub(super) mod heading_order;
pub(super) mod hidden_focusable;
pub(super) mod image_text;
pub(super) mod keyboard_handler;
pub(super) mod label_in_name;
pub(super) mod landmark_unique;
pub(super) mod link_text;
pub(super) mod list_structure;
pub(super) mod moving_media;
pub(super) mod page_language;
pub(super) mod page_title;
pub(super) mod positive_tabindex;
pub(super) mod redundant_role;
pub(super) mod role_attributes;
pub(super) mod role_known;
pub(super) mod table_headers;
pub(super) mod zoom_blocked;

use sieve_syntax::language::Language;
use sieve_syntax::tree::Kind;

use crate::interface::{Certainty, Check, Concern, Context, Level, Mesh, Rule};
use crate::markup::Tag;
use crate::markup::hidden::is_hidden;
use crate::markup::name::{Name, name_without_content};

/// What rules about elements have in common.
const OF_ELEMENTS: Rule = Rule {
    name: "",
    concern: Concern::Access,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_ELEMENTS,
    fix: None,
    what: "",
    why: "",
    silent: "",
    standards: &[],
    options: &[],
    examples: &[],
    needs_names: false,
    check: Check::Nodes(&[Kind::Element], |_, _| {}),
};

/// What rules about whole pages have in common.
const OF_PAGES: Rule =
    Rule { languages: &[Language::Html], check: Check::Nodes(&[Kind::Element], |_, _| {}), ..OF_ELEMENTS };

/// Whether something names an element that nothing in it can name, or it is hidden; where that is not known, the place is counted.
fn is_named(context: &mut Context, tag: &Tag<'_>) -> bool {
    let hidden = is_hidden(tag);
    match name_without_content(tag) {
        Name::Is(_) => true,
        _ if hidden == Some(true) => true,
        Name::None if hidden == Some(false) => false,
        _ => {
            context.unsure(tag.head(), "what is spread, filled in or around it may name it");
            true
        }
    }
}
