//! Finds the ids, labels and anchors of a page.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::{Tag, Value};
use crate::interface::{File, Page};

/// The ids, labels and anchors of a page.
pub(crate) fn page_of(file: File<'_>) -> &Page {
    file.page(|| {
        let root = file.tree.root().children().find(|node| node.kind() == Kind::Element);
        let is_whole = root.and_then(|root| Tag::of(file, root)).is_some_and(|tag| tag.name == "html");
        let mut page = Page { is_whole, ..Page::default() };
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

/// Whether a page is what documentation puts at the head of a package: of it only the body is shown, in a page of its own ("Package Comment
/// Files", Documentation Comment Specification, Java 21).
pub(crate) fn is_package_comment(file: File<'_>) -> bool {
    file.path == "package.html" || file.path.ends_with("/package.html")
}

fn add(page: &mut Page, file: File<'_>, element: NodeRef<'_>) {
    let Some(tag) = Tag::of(file, element) else { return };
    page.has_scripts |= tag.name == "script";
    // Most elements have no attributes.
    if tag.start().child(Role::Attribute).is_none() {
        return;
    }
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
    if matches!(&*tag.name, "a" | "map")
        && let Value::Text(name) = tag.value("name")
    {
        page.anchors.insert(name.into_owned());
    }
}
