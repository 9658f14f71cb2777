//! Finds the ids and labels of a page.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::{Tag, Value};
use crate::interface::{File, Page};

/// The ids and labels of a page.
pub(crate) fn page_of(file: File<'_>) -> &Page {
    file.page(|| {
        let mut page = Page::default();
        for node in file.tree.nodes() {
            match node.kind() {
                Kind::TemplatePart => page.is_filled_in = true,
                Kind::Element => add(&mut page, file, node),
                _ => {}
            }
        }
        page
    })
}

fn add(page: &mut Page, file: File<'_>, element: NodeRef<'_>) {
    // Most elements have no attributes.
    if element.child(Role::Start).is_none_or(|start| start.child(Role::Attribute).is_none()) {
        return;
    }
    let Some(tag) = Tag::of(file, element) else { return };
    match tag.value("id") {
        Value::Text(id) => page.ids.entry(id.into_owned()).or_default().push(element.id()),
        Value::Unknown => page.is_filled_in = true,
        Value::Absent => {}
    }
    if tag.name == "label"
        && let Value::Text(id) = tag.value("for")
    {
        page.labels.entry(id.into_owned()).or_default().push(element.id());
    }
}
