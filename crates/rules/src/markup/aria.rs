//! Roles, states and properties of WAI-ARIA 1.2.

use super::table::Table;

/// The roles there are, each with what it requires.
static ROLES: Table = Table::new(include_str!("../../data/roles.txt"));

/// The attributes there are, each with the type of its value and the words it may be.
static ATTRIBUTES: Table = Table::new(include_str!("../../data/aria.txt"));

/// Whether there is a role of this name, whatever its letters' case.
pub(crate) fn is_role(name: &str) -> bool {
    let name = name.to_ascii_lowercase();
    ROLES.has(&name) || TO_COME.contains(&&*name)
}

/// Roles that WAI-ARIA 1.3 adds, which browsers know already.
const TO_COME: &[&str] = &["comment", "image", "none", "sectionfooter", "sectionheader"];

/// The role that was probably meant.
pub(crate) fn role_meant_by(wrong: &str) -> Option<&'static str> {
    ROLES.meant_by(&wrong.to_ascii_lowercase())
}

/// The attributes without which a role says nothing. Those that the specification gives a value by itself are not among them.
pub(crate) fn required(role: &str) -> impl Iterator<Item = &'static str> + use<> {
    let has_value = matches!(role, "option" | "treeitem");
    let required = ROLES.get(role).unwrap_or_default();
    required.split_whitespace().filter(move |name| !has_value && *name != "aria-controls")
}

/// What an attribute may be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Values {
    /// True or false.
    Boolean,
    /// True, false or mixed.
    Tristate,
    /// A whole number.
    Integer,
    /// A number.
    Number,
    /// One of some words.
    Word(&'static str),
    /// Some of some words.
    Words(&'static str),
    /// Ids, or any text.
    Any,
}

impl Values {
    /// Whether a value is one of these.
    pub(crate) fn allow(self, value: &str) -> bool {
        let value = value.trim();
        let is_in = |list: &str, word: &str| list.split(' ').any(|one| one == word);
        match self {
            Values::Boolean => matches!(value, "true" | "false" | "undefined"),
            Values::Tristate => matches!(value, "true" | "false" | "mixed" | "undefined"),
            Values::Integer => value.parse::<i64>().is_ok(),
            Values::Number => value.parse::<f64>().is_ok(),
            Values::Word(list) => is_in(list, value),
            Values::Words(list) => value.split_whitespace().all(|word| is_in(list, word)),
            Values::Any => true,
        }
    }

    /// What may be there, in words.
    pub(crate) fn describe(self) -> String {
        match self {
            Values::Boolean => "true or false".into(),
            Values::Tristate => "true, false or mixed".into(),
            Values::Integer => "a whole number".into(),
            Values::Number => "a number".into(),
            Values::Word(list) => format!("one of {}", list.replace(' ', ", ")),
            Values::Words(list) => format!("words of {}", list.replace(' ', ", ")),
            Values::Any => "any text".into(),
        }
    }
}

/// What an attribute may be; nothing where there is none of this name.
pub(crate) fn values_of(attribute: &str) -> Option<Values> {
    let told = ATTRIBUTES.get(attribute)?;
    let (kind, words) = told.split_once(' ').unwrap_or((told, ""));
    Some(match kind {
        "boolean" => Values::Boolean,
        "tristate" => Values::Tristate,
        "integer" => Values::Integer,
        "number" => Values::Number,
        "token" => Values::Word(words),
        "tokenlist" => Values::Words(words),
        _ => Values::Any,
    })
}

/// The attribute that was probably meant.
pub(crate) fn attribute_meant_by(wrong: &str) -> Option<&'static str> {
    ATTRIBUTES.meant_by(wrong)
}
