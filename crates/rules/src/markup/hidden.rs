//! Elements that are hidden from everyone, or from assistive technology.

use super::{Tag, Value};

/// Whether something is so; nothing where it is not known.
pub(crate) type Sure = Option<bool>;

/// Whether an element, or one around it, is hidden from assistive technology.
pub(crate) fn is_hidden(tag: &Tag<'_>) -> Sure {
    if hides(tag)? {
        return Some(true);
    }
    let mut is_sure = true;
    for around in tag.around() {
        // What a component does with its content is its own matter.
        match around.as_ref().and_then(hides) {
            Some(true) => return Some(true),
            Some(false) => {}
            None => is_sure = false,
        }
    }
    is_sure.then_some(false)
}

/// Whether an element hides itself and all in it.
pub(crate) fn hides(tag: &Tag<'_>) -> Sure {
    if matches!(&*tag.name, "template" | "noscript" | "script" | "style" | "head") {
        return Some(true);
    }
    let values = [tag.value("aria-hidden"), tag.value("hidden"), tag.value("style"), tag.value("inert")];
    let [aria, hidden, style, inert] = &values;
    let by_style = style.text().is_some_and(|style| {
        let style: String = style.chars().filter(|letter| !letter.is_whitespace()).collect();
        ["display:none", "visibility:hidden"].iter().any(|hides| style.to_ascii_lowercase().contains(hides))
    });
    if aria.is("true") || by_style || is_set(hidden) || is_set(inert) {
        return Some(true);
    }
    (!values.iter().any(Value::is_unknown)).then_some(false)
}

/// Whether an attribute that is there or not is there.
fn is_set(value: &Value<'_>) -> bool {
    value.text().is_some_and(|value| value != "false")
}
