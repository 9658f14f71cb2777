//! Elements as the rules for pages see them, whether they are in a page or among code: names, attributes, what they hold.

pub(crate) mod aria;
pub(crate) mod elements;
pub(crate) mod hidden;
pub(crate) mod name;
pub(crate) mod page;
pub(crate) mod table;

use std::borrow::Cow;

use sieve_syntax::html::attribute_value;
use sieve_syntax::html::template::{holds_expression, is_filled_in};
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Context, File};

/// What is known of an attribute.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Value<'f> {
    /// It is not there.
    Absent,
    /// Its value.
    Text(Cow<'f, str>),
    /// It may be there, or its value is computed.
    Unknown,
}

impl<'f> Value<'f> {
    /// The value, where it is known and there.
    pub(crate) fn text(&self) -> Option<&str> {
        match self {
            Value::Text(text) => Some(text),
            _ => None,
        }
    }

    pub(crate) fn is_unknown(&self) -> bool {
        *self == Value::Unknown
    }

    pub(crate) fn is_absent(&self) -> bool {
        *self == Value::Absent
    }

    /// Whether it is known to be one word, whatever its letters' case.
    pub(crate) fn is(&self, word: &str) -> bool {
        self.text().is_some_and(|text| text.trim().eq_ignore_ascii_case(word))
    }
}

/// A text in small letters, as far as they are of ASCII.
pub(crate) fn in_small_letters(text: &str) -> Cow<'_, str> {
    if text.bytes().any(|byte| byte.is_ascii_uppercase()) {
        Cow::Owned(text.to_ascii_lowercase())
    } else {
        Cow::Borrowed(text)
    }
}

/// Whether a text has nothing to see or to hear in it.
pub(crate) fn is_blank(text: &str) -> bool {
    text.chars().all(|letter| letter.is_whitespace() || matches!(letter, '\u{a0}' | '\u{200b}' | '\u{feff}'))
}

/// An element whose output is known.
#[derive(Debug, Clone)]
pub(crate) struct Tag<'f> {
    pub(crate) file: File<'f>,
    pub(crate) element: NodeRef<'f>,
    start: NodeRef<'f>,
    /// Its name, in small letters.
    pub(crate) name: Cow<'f, str>,
    /// It is a component that puts out this element.
    is_component: bool,
}

impl<'f> Tag<'f> {
    /// An element by its node; nothing for fragments, for components, and where a template gives the name.
    pub(crate) fn of(file: File<'f>, element: NodeRef<'_>) -> Option<Tag<'f>> {
        let tag = Tag::named_by(file, element, |name| {
            (name.kind() == Kind::TagName).then(|| in_small_letters(file.node_text(name)))
        })?;
        (!tag.name.contains(['{', '<'])).then_some(tag)
    }

    /// The same for a rule, which knows what the settings say of components; nothing where nobody is ever shown it: tests put together what
    /// they need.
    pub(crate) fn shown(context: &Context<'f>, element: NodeRef<'_>) -> Option<Tag<'f>> {
        let file = context.file();
        if file.is_test() && !file.traits.is_page {
            return None;
        }
        let put_out = |name| context.element_of(file.node_text(name)).map(Cow::Borrowed);
        let component = || Some(Tag { is_component: true, ..Tag::named_by(file, element, put_out)? });
        Tag::of(file, element).or_else(component)
    }

    fn named_by(
        file: File<'f>,
        element: NodeRef<'_>,
        name: impl FnOnce(NodeRef<'f>) -> Option<Cow<'f, str>>,
    ) -> Option<Tag<'f>> {
        let element = file.tree.node(element.id());
        let start = element.child(Role::Start)?;
        Some(Tag { file, element, start, name: name(start.child(Role::Name)?)?, is_component: false })
    }

    /// `<` and its name, where findings about all of it are.
    pub(crate) fn head(&self) -> Span {
        let start = self.start.span();
        self.start.child(Role::Name).map_or(start, |name| Span::new(start.start, name.span().end))
    }

    /// Its start tag.
    pub(crate) fn start(&self) -> NodeRef<'f> {
        self.start
    }

    /// Its attributes that are written out, with their names as HTML has them.
    pub(crate) fn attributes(&self) -> impl Iterator<Item = (Cow<'f, str>, NodeRef<'f>)> + use<'f> {
        let file = self.file;
        let written = self.start.children_in(Role::Attribute).filter(|part| part.kind() == Kind::Attribute);
        written.filter_map(move |attribute| Some((name_of(file, attribute)?, attribute)))
    }

    /// The node of an attribute.
    pub(crate) fn attribute(&self, name: &str) -> Option<NodeRef<'f>> {
        self.attributes().find(|(own, _)| own == name).map(|(_, attribute)| attribute)
    }

    /// The value of an attribute.
    pub(crate) fn value(&self, name: &str) -> Value<'f> {
        match self.attribute(name) {
            Some(attribute) => value_of(self.file, attribute),
            None if self.has_more() || self.binds(name) => Value::Unknown,
            // A component that puts out a link has its address by a name of its own.
            None if self.is_component && name == "href" => Value::Text(Cow::Borrowed("")),
            None => Value::Absent,
        }
    }

    /// Whether it may have attributes that are not written out.
    pub(crate) fn has_more(&self) -> bool {
        let is_written =
            |part: NodeRef| part.role() == Role::Name || matches!(part.kind(), Kind::Attribute | Kind::TypeArguments);
        self.start.children().any(|part| !is_written(part))
            || self.attributes().any(|(name, _)| SPREADS.contains(&&*name))
    }

    /// The names of its attributes as they are written, in small letters.
    fn written_names(&self) -> impl Iterator<Item = String> + use<'f> {
        let file = self.file;
        let names = self.start.children_in(Role::Attribute).filter_map(|attribute| attribute.child(Role::Name));
        names.map(move |name| file.node_text(name).to_ascii_lowercase())
    }

    /// Whether an attribute is set by a script that reads another one: `:alt`, `v-bind:alt`, `[alt]`, `[attr.alt]`, `ng-attr-alt`.
    fn binds(&self, name: &str) -> bool {
        let is_it = |written: &str| {
            let inner = written.trim_matches(|sign: char| !sign.is_ascii_alphanumeric());
            let before = inner.strip_suffix(name).filter(|_| written != name);
            before.is_some_and(|before| BINDINGS.contains(&before))
        };
        self.file.traits.is_page && self.written_names().any(|written| is_it(&written))
    }

    /// Whether a script that its attributes speak to may fill it in.
    pub(crate) fn is_filled_by_script(&self) -> bool {
        let speaks = |written: &str| {
            let own = written.strip_prefix("data-");
            let fills =
                ["bind", "i18n", "l10n", "text", "content", "translate", "icon", "lang", "label", "title", "tooltip"];
            written.starts_with(|first: char| !first.is_ascii_alphanumeric())
                || own.is_some_and(|own| fills.iter().any(|word| own.starts_with(word)))
                || own.is_none() && written.contains(['-', ':']) && !written.starts_with("aria-")
                || matches!(written, "i18n" | "translate")
        };
        self.file.traits.is_page && self.written_names().any(|written| speaks(&written))
    }

    /// Whether its role says that it means nothing.
    pub(crate) fn is_presentational(&self) -> bool {
        let role = self.value("role");
        role.is("presentation") || role.is("none")
    }

    /// What is in it, tags apart.
    pub(crate) fn children(&self) -> impl Iterator<Item = NodeRef<'f>> + use<'f> {
        self.element.children_in(Role::Child)
    }

    /// The elements around it whose output is known, the innermost first; with nothing where one is not.
    pub(crate) fn around(&self) -> impl Iterator<Item = Option<Tag<'f>>> + use<'f> {
        let file = self.file;
        let elements = self.element.ancestors().filter(|node| node.kind() == Kind::Element);
        elements.map(move |element| Tag::of(file, element))
    }

    /// The element directly around it.
    pub(crate) fn parent(&self) -> Option<Tag<'f>> {
        let parent = self.element.parent().filter(|parent| parent.kind() == Kind::Element)?;
        Tag::of(self.file, parent)
    }

    /// Its role: the first one that it names and that there is, or the one it has by itself. Nothing where that is not known.
    pub(crate) fn role(&self) -> Option<Cow<'f, str>> {
        match self.value("role") {
            Value::Unknown => None,
            Value::Text(roles) if !is_blank(&roles) => {
                let known = roles.split_whitespace().find(|role| aria::is_role(role)).map(str::to_ascii_lowercase);
                known.map(Cow::Owned).or_else(|| elements::own_role(self).map(Cow::Borrowed))
            }
            _ => elements::own_role(self).map(Cow::Borrowed),
        }
    }
}

/// What is before the name of an attribute that a script sets, signs apart.
const BINDINGS: &[&str] = &["", "v-bind:", "x-bind:", "bind:", "bind-", "attr.", "ng-attr-"];

/// Attributes whose value is a whole set of attributes, in pages that scripts fill in.
const SPREADS: &[&str] = &["v-bind", "x-bind", "ng-attrs"];

/// The name of an attribute as HTML has it; nothing where a template gives it.
fn name_of<'f>(file: File<'f>, attribute: NodeRef<'f>) -> Option<Cow<'f, str>> {
    let written = file.node_text(attribute.child(Role::Name)?);
    Some(match written {
        "className" => Cow::Borrowed("class"),
        "htmlFor" => Cow::Borrowed("for"),
        _ if written.contains(['{', '<']) => return None,
        _ => in_small_letters(written),
    })
}

/// The value of an attribute. One without a value is true among code, and empty in a page.
pub(crate) fn value_of<'f>(file: File<'f>, attribute: NodeRef<'_>) -> Value<'f> {
    let Some(value) = file.tree.node(attribute.id()).child(Role::Value) else {
        return Value::Text(Cow::Borrowed(if file.traits.is_page { "" } else { "true" }));
    };
    match value.kind() {
        Kind::String if file.traits.is_page && is_evaluated(file.node_text(value)) => Value::Unknown,
        Kind::String => Value::Text(attribute_value(file.node_text(value))),
        Kind::Interpolation => value.child(Role::Value).map_or(Value::Unknown, |value| literal(file, value)),
        _ => Value::Unknown,
    }
}

fn is_evaluated(value: &str) -> bool {
    is_filled_in(value) || holds_expression(value)
}

/// The value of an attribute that code gives.
fn literal<'f>(file: File<'f>, value: NodeRef<'f>) -> Value<'f> {
    let written = file.node_text(value);
    match value.kind() {
        Kind::String => file.language.string_value(written).map_or(Value::Unknown, |text| Value::Text(text.into())),
        Kind::FormatString if value.children().all(|part| part.kind() != Kind::Interpolation) => {
            Value::Text(written.trim_matches('`').into())
        }
        Kind::Number => Value::Text(written.into()),
        Kind::Unary if value.child(Role::Operand).is_some_and(|operand| operand.kind() == Kind::Number) => {
            Value::Text(written.into())
        }
        Kind::Boolean if written == "true" => Value::Text("true".into()),
        Kind::Boolean | Kind::Null => Value::Absent,
        Kind::Name if written == "undefined" => Value::Absent,
        _ => Value::Unknown,
    }
}
