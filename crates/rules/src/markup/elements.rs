//! What HTML says of its elements: their own roles, which take input, which can be reached with keys ("HTML Accessibility API Mappings"
//! and "Interactive content", HTML, 3.2.5.2.7).

use super::table::Table;
use super::{Tag, Value};

/// Elements of HTML; those that are not to be used are marked.
pub(crate) static ELEMENTS: Table = Table::new(include_str!("../../data/elements.txt"));

/// The attributes of each element, and under `*` those of all.
static ATTRIBUTES: Table = Table::new(include_str!("../../data/attributes.txt"));

/// The attributes that an element of HTML may have.
pub(crate) fn attributes_of(element: &str) -> impl Iterator<Item = &'static str> {
    let of = |name: &str| ATTRIBUTES.get(name).unwrap_or_default().split(' ');
    of(element).chain(of("*"))
}

/// The names of the elements of HTML.
pub fn element_names() -> impl Iterator<Item = &'static str> {
    ELEMENTS.names()
}

/// The role that an element has by itself; nothing where it has none, or where that depends on what is not known.
pub(crate) fn own_role(tag: &Tag<'_>) -> Option<&'static str> {
    Some(match &*tag.name {
        "a" | "area" => match tag.value("href") {
            Value::Text(_) => "link",
            Value::Absent => "generic",
            Value::Unknown => return None,
        },
        "article" => "article",
        "aside" => "complementary",
        "button" | "summary" => "button",
        "datalist" => "listbox",
        "dialog" => "dialog",
        "fieldset" | "details" | "optgroup" => "group",
        "figure" => "figure",
        "form" => "form",
        "h1" | "h2" | "h3" | "h4" | "h5" | "h6" => "heading",
        "hr" => "separator",
        "img" if tag.value("alt").is("") => "presentation",
        "img" => "img",
        "input" => return input_role(tag),
        "li" => "listitem",
        "main" => "main",
        "menu" | "ol" | "ul" => "list",
        "meter" => "meter",
        "nav" => "navigation",
        "option" => "option",
        "output" => "status",
        "progress" => "progressbar",
        "search" => "search",
        "select" => "combobox",
        "table" => "table",
        "tbody" | "tfoot" | "thead" => "rowgroup",
        "td" => "cell",
        "th" => "columnheader",
        "textarea" => "textbox",
        "tr" => "row",
        _ => return None,
    })
}

fn input_role(tag: &Tag<'_>) -> Option<&'static str> {
    Some(match input_type(tag)?.as_str() {
        "button" | "image" | "reset" | "submit" => "button",
        "checkbox" => "checkbox",
        "number" => "spinbutton",
        "radio" => "radio",
        "range" => "slider",
        "email" | "tel" | "text" | "url" => "textbox",
        "search" => "searchbox",
        _ => return None,
    })
}

/// The type of an `input`, in small letters; nothing where it is not known.
pub(crate) fn input_type(tag: &Tag<'_>) -> Option<String> {
    match tag.value("type") {
        Value::Text(kind) => Some(kind.trim().to_ascii_lowercase()),
        Value::Absent => Some("text".into()),
        Value::Unknown => None,
    }
}

/// Whether an element can be reached with the keys by itself; nothing where that is not known.
pub(crate) fn is_reached(tag: &Tag<'_>) -> Option<bool> {
    let reached = match &*tag.name {
        "a" | "area" => match tag.value("href") {
            Value::Unknown => return None,
            href => !href.is_absent(),
        },
        "input" => input_type(tag)? != "hidden",
        "button" | "select" | "textarea" | "iframe" | "summary" => true,
        "audio" | "video" => !tag.value("controls").is_absent(),
        _ => false,
    };
    if reached && matches!(&*tag.name, "input" | "button" | "select" | "textarea") {
        return match tag.value("disabled") {
            Value::Unknown => None,
            disabled => Some(disabled.is_absent()),
        };
    }
    Some(reached)
}

/// Whether an element may do something by itself when it is clicked or typed into.
pub(crate) fn is_interactive(name: &str) -> bool {
    matches!(
        name,
        "a" | "area"
            | "audio"
            | "button"
            | "details"
            | "embed"
            | "iframe"
            | "input"
            | "label"
            | "object"
            | "option"
            | "select"
            | "summary"
            | "textarea"
            | "video"
            | "dialog"
            | "form"
            | "body"
            | "html"
    )
}
