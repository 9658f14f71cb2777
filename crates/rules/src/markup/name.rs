//! The names that assistive technology reads out ("Accessible Name and Description Computation 1.2", and "HTML Accessibility API Mappings
//! 1.0", 4.1).

use std::cell::Cell;
use std::collections::BTreeMap;

use sieve_syntax::html::markup_text;
use sieve_syntax::tree::{Kind, NodeRef};

use super::elements::input_type;
use super::hidden::hides;
use super::page::page_of;
use super::{Tag, Value, is_blank};
use crate::interface::File;

/// The name of an element.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Name {
    /// It has none.
    None,
    /// What is read out.
    Is(String),
    /// It cannot be known.
    Unknown,
}

impl Name {
    fn of(text: &str) -> Name {
        let text: Vec<&str> = text.split_whitespace().collect();
        if text.is_empty() || text.iter().all(|word| is_blank(word)) { Name::None } else { Name::Is(text.join(" ")) }
    }

    /// This one, or another if there is none.
    fn or_else(self, other: impl FnOnce() -> Name) -> Name {
        if self == Name::None { other() } else { self }
    }
}

impl From<Value<'_>> for Name {
    fn from(value: Value<'_>) -> Name {
        match value {
            Value::Absent => Name::None,
            Value::Text(text) => Name::of(&text),
            Value::Unknown => Name::Unknown,
        }
    }
}

/// Elements within more others than these are not read for a name.
const DEEPEST: u32 = 64;

/// So many parts of elements are read for a name: elements refer to each other, and some are read for several.
const MOST_PARTS: u32 = 10_000;

/// How a name is read.
#[derive(Clone, Copy)]
struct Reading<'s> {
    /// Elements within more others than these are not read.
    deepest: u32,
    /// Whether what names an element elsewhere counts: not in what names another one (Accessible Name and Description Computation 1.2, 2B).
    follows: bool,
    /// How many parts may still be read.
    parts: &'s Cell<u32>,
}

impl<'s> Reading<'s> {
    /// A name that is read from its element on.
    fn of(deepest: u32, parts: &'s Cell<u32>) -> Reading<'s> {
        Reading { deepest, follows: true, parts }
    }

    /// The same for what names an element elsewhere.
    fn elsewhere(self) -> Reading<'s> {
        Reading { deepest: DEEPEST, follows: false, ..self }
    }

    /// The same one element further in; nothing where that is too far.
    fn within(self) -> Option<Reading<'s>> {
        let left = self.parts.get().checked_sub(1)?;
        self.parts.set(left);
        Some(Reading { deepest: self.deepest.checked_sub(1)?, ..self })
    }
}

/// The name of an element that may be named by what is in it.
pub(crate) fn name_with_content(tag: &Tag<'_>) -> Name {
    let parts = Cell::new(MOST_PARTS);
    let reading = Reading::of(DEEPEST, &parts);
    let own = given(tag, reading).or_else(|| native(tag, reading));
    let said = own.or_else(|| read(tag, reading)).or_else(|| tag.value("title").into());
    if said == Name::None && may_be_filled(tag) { Name::Unknown } else { said }
}

/// Roles that are named by what is in them ("WAI-ARIA 1.2", 5.2.8.5), of those that the rules about names look at.
const NAMED_BY_CONTENT: [&str; 3] = ["button", "link", "heading"];

/// The names of all elements, by where these begin, in bytes: empty where there is none. Elements whose name cannot be known are left out.
pub(crate) fn names_of_elements(file: File<'_>) -> BTreeMap<u32, String> {
    let tags = file.tree.nodes_of(Kind::Element).filter_map(|element| Tag::of(file, element));
    let named = tags.filter_map(|tag| {
        let by_content = tag.role().is_some_and(|role| NAMED_BY_CONTENT.contains(&&*role));
        let name = if by_content { name_with_content(&tag) } else { name_without_content(&tag) };
        let said = match name {
            Name::Is(said) => said,
            Name::None => String::new(),
            Name::Unknown => return None,
        };
        Some((tag.element.span().start, said))
    });
    named.collect()
}

/// Whether a script may fill in an element or what is in it.
fn may_be_filled(tag: &Tag<'_>) -> bool {
    let elements = tag.element.descendants().filter(|node| node.kind() == Kind::Element);
    tag.is_filled_by_script()
        || elements.filter_map(|inner| Tag::of(tag.file, inner)).any(|inner| inner.is_filled_by_script())
}

/// The name of an element that nothing in it names.
pub(crate) fn name_without_content(tag: &Tag<'_>) -> Name {
    let parts = Cell::new(MOST_PARTS);
    let reading = Reading::of(DEEPEST, &parts);
    given(tag, reading).or_else(|| native(tag, reading)).or_else(|| tag.value("title").into())
}

/// A name that is given for assistive technology alone: by other elements, or in words.
fn given(tag: &Tag<'_>, reading: Reading<'_>) -> Name {
    let by_others = match tag.value("aria-labelledby") {
        _ if !reading.follows => Name::None,
        Value::Unknown => return Name::Unknown,
        Value::Absent => Name::None,
        Value::Text(ids) => referred(tag, &ids, reading.elsewhere()),
    };
    by_others.or_else(|| tag.value("aria-label").into())
}

/// What the elements with some ids say. Among code, these may be anywhere.
fn referred(tag: &Tag<'_>, ids: &str, reading: Reading<'_>) -> Name {
    if is_blank(ids) {
        return Name::None;
    }
    let file = tag.file;
    if !file.traits.is_page {
        return Name::Unknown;
    }
    let page = page_of(file);
    let mut said = String::new();
    for id in ids.split_whitespace() {
        let Some(node) = page.by_id(id) else {
            if page.is_filled_in {
                return Name::Unknown;
            }
            continue;
        };
        let Some(other) = Tag::of(file, file.tree.node(node)) else { return Name::Unknown };
        // What is referred to is read even where it is hidden.
        let own: Name = Name::from(other.value("aria-label")).or_else(|| native(&other, reading));
        match own.or_else(|| read(&other, reading)) {
            Name::Is(text) => said = said + " " + &text,
            Name::None => {}
            Name::Unknown => return Name::Unknown,
        }
    }
    Name::of(&said)
}

/// The name that HTML gives an element by its own attributes or elements.
fn native(tag: &Tag<'_>, reading: Reading<'_>) -> Name {
    match &*tag.name {
        "img" | "area" => tag.value("alt").into(),
        "input" => native_of_input(tag, reading),
        "textarea" | "select" | "meter" | "progress" | "output" | "button" => labels(tag, reading),
        "svg" => first_child(tag, "title", reading),
        "fieldset" => first_child(tag, "legend", reading),
        "table" => first_child(tag, "caption", reading),
        "figure" => first_child(tag, "figcaption", reading),
        _ => Name::None,
    }
}

fn native_of_input(tag: &Tag<'_>, reading: Reading<'_>) -> Name {
    let Some(kind) = input_type(tag) else { return Name::Unknown };
    let value = || Name::from(tag.value("value"));
    labels(tag, reading).or_else(|| match kind.as_str() {
        "button" => value(),
        // Browsers write something on these by themselves.
        "submit" | "reset" => value().or_else(|| Name::Is(kind.clone())),
        "image" => Name::from(tag.value("alt")),
        _ => Name::from(tag.value("title")).or_else(|| tag.value("placeholder").into()),
    })
}

/// What the labels of a control say.
fn labels(tag: &Tag<'_>, reading: Reading<'_>) -> Name {
    if !reading.follows {
        return Name::None;
    }
    let (file, reading) = (tag.file, reading.elsewhere());
    for around in tag.around() {
        match around {
            Some(around) if around.name == "label" => return read(&around, reading),
            // A component may be a label.
            None => return Name::Unknown,
            Some(_) => {}
        }
    }
    let id = match tag.value("id") {
        Value::Absent => return Name::None,
        Value::Text(id) if file.traits.is_page => id,
        // Among code the label may be anywhere.
        _ => return Name::Unknown,
    };
    let page = page_of(file);
    let mut name = Name::None;
    for label in page.labels_for(&id) {
        let of_label = Tag::of(file, file.tree.node(*label)).map_or(Name::Unknown, |label| read(&label, reading));
        name = name.or_else(|| of_label);
    }
    if page.is_filled_in { name.or_else(|| Name::Unknown) } else { name }
}

fn first_child(tag: &Tag<'_>, name: &str, reading: Reading<'_>) -> Name {
    for child in tag.children() {
        match child.kind() {
            Kind::Element => match Tag::of(tag.file, child) {
                Some(child) if child.name == name => {
                    return reading.within().map_or(Name::Unknown, |reading| read(&child, reading));
                }
                Some(_) => {}
                None => return Name::Unknown,
            },
            Kind::TemplatePart | Kind::Interpolation => return Name::Unknown,
            _ => {}
        }
    }
    Name::None
}

/// What the content of an element says, as far as it is within so many others at most.
pub(crate) fn content(tag: &Tag<'_>, deepest: u32) -> Name {
    read(tag, Reading::of(deepest, &Cell::new(MOST_PARTS)))
}

fn read(tag: &Tag<'_>, reading: Reading<'_>) -> Name {
    let mut said = String::new();
    for child in tag.children() {
        match of_part(tag, child, reading) {
            Name::Is(text) => said = said + &text,
            Name::None => {}
            Name::Unknown => return Name::Unknown,
        }
        said.push(' ');
    }
    Name::of(&said)
}

fn of_part(tag: &Tag<'_>, part: NodeRef<'_>, reading: Reading<'_>) -> Name {
    let file = tag.file;
    match part.kind() {
        Kind::MarkupText => Name::of(&markup_text(file.node_text(file.tree.node(part.id())))),
        Kind::Element => match Tag::of(file, part).zip(reading.within()) {
            Some((inner, reading)) => of_element(&inner, reading),
            None => Name::Unknown,
        },
        // Braces that hold nothing but a comment.
        Kind::Interpolation if part.children().next().is_none() => Name::None,
        Kind::Interpolation | Kind::TemplatePart | Kind::Opaque => Name::Unknown,
        _ => Name::None,
    }
}

fn of_element(inner: &Tag<'_>, reading: Reading<'_>) -> Name {
    match hides(inner) {
        Some(true) => return Name::None,
        Some(false) => {}
        None => return Name::Unknown,
    }
    if inner.name == "slot" || inner.name.contains('-') {
        // Others fill in what is there.
        return Name::Unknown;
    }
    let own = given(inner, reading).or_else(|| match &*inner.name {
        // Within a name, the value of a control is read.
        "select" | "textarea" | "input" => Name::Unknown,
        _ => native(inner, reading),
    });
    let inside = own.or_else(|| read(inner, reading));
    inside.or_else(|| if inner.name == "img" { Name::None } else { inner.value("title").into() })
}
