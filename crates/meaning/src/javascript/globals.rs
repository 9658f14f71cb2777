//! The names that exist in every file: those of the language, of browsers and workers as the web's standards name them, and of node.

use rustc_hash::FxHashSet;
use std::sync::LazyLock;

static VALUES: LazyLock<FxHashSet<&'static str>> = LazyLock::new(|| include_str!("values.txt").lines().collect());
static TYPES: LazyLock<FxHashSet<&'static str>> = LazyLock::new(|| include_str!("types.txt").lines().collect());

/// What every object has, and so the global one.
const OF_EVERY_OBJECT: &[&str] = &[
    "__defineGetter__",
    "__defineSetter__",
    "__lookupGetter__",
    "__lookupSetter__",
    "__proto__",
    "constructor",
    "hasOwnProperty",
    "isPrototypeOf",
    "propertyIsEnumerable",
    "toLocaleString",
    "toString",
    "valueOf",
];

/// Standards of the web whose many names all begin so: WebGPU and WebXR.
const FAMILIES: &[&str] = &["GPU", "XR"];

/// Whether a value of this name is there in some place where JavaScript runs.
pub(crate) fn is_value(name: &str) -> bool {
    let in_family = |family: &str| {
        name.strip_prefix(family).is_some_and(|rest| rest.starts_with(|first: char| first.is_ascii_uppercase()))
    };
    VALUES.contains(name) || OF_EVERY_OBJECT.contains(&name) || FAMILIES.iter().any(|family| in_family(family))
}

/// The same, or a type.
pub(crate) fn is_value_or_type(name: &str) -> bool {
    is_value(name) || TYPES.contains(name)
}

/// Whether a build or a tool may put a value in the place of a name: those in capitals and those that begin with two underscores.
pub(crate) fn may_be_brought(name: &str) -> bool {
    name.starts_with("__") || (name.len() > 1 && !name.contains(|letter: char| letter.is_lowercase()))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_of_language_browser_and_node_are_known() {
        for name in [
            "Map",
            "undefined",
            "document",
            "setTimeout",
            "process",
            "structuredClone",
            "arguments",
            "GPUMapMode",
            "toString",
        ] {
            assert!(is_value(name), "{name}");
        }
        assert!(!is_value("Partial") && is_value_or_type("Partial"));
        assert!(!is_value("ferry") && !is_value("GPUs"));
    }
}
