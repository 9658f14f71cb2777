//! The names that exist in every file: those of the language, of browsers and workers as the web's standards name them, and of node.

use rustc_hash::FxHashSet;
use std::sync::LazyLock;

static VALUES: LazyLock<FxHashSet<&'static str>> = LazyLock::new(|| include_str!("values.txt").lines().collect());
static TYPES: LazyLock<FxHashSet<&'static str>> = LazyLock::new(|| include_str!("types.txt").lines().collect());

/// Whether a value of this name is there in some place where JavaScript runs.
pub(crate) fn is_value(name: &str) -> bool {
    VALUES.contains(name)
}

/// The same, or a type.
pub(crate) fn is_value_or_type(name: &str) -> bool {
    VALUES.contains(name) || TYPES.contains(name)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_of_language_browser_and_node_are_known() {
        for name in ["Map", "undefined", "document", "setTimeout", "process", "structuredClone", "arguments"] {
            assert!(is_value(name), "{name}");
        }
        assert!(!is_value("Partial") && is_value_or_type("Partial"));
        assert!(!is_value("ferry"));
    }
}
