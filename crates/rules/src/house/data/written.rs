//! A data rule in words of its own, for those who read what it checks.

use super::DataDefinition;

/// The keys of a data rule with their values, a line each.
pub(crate) fn written(definition: &DataDefinition) -> String {
    let DataDefinition { when, at, must, must_not, unique, refers_to, listed_in, name_style } = definition;
    let json = |value: &Option<serde_json::Value>| value.as_ref().map(ToString::to_string);
    let lines = [
        ("when", when.clone()),
        ("at", Some(at.clone())),
        ("must", json(must)),
        ("must-not", json(must_not)),
        ("unique", unique.clone()),
        ("refers-to", refers_to.clone()),
        ("listed-in", listed_in.clone()),
        ("name-style", name_style.map(|style| style.word().to_string())),
    ];
    let line = |(key, value): (&str, Option<String>)| value.map(|value| format!("{key:<10} {value}\n"));
    lines.into_iter().filter_map(line).collect()
}
