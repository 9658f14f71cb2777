//! Reads what a rule of a pack says about data: places, and what must hold for them.

use sieve_rules::NameStyle;
use sieve_rules::house::DataDefinition;
use toml::Spanned;
use toml::de::DeValue;

use crate::settings::reader::{Read, Reader};
use crate::settings::value::json;

type Value<'v> = Spanned<DeValue<'v>>;

/// The keys of what must hold; a rule has one of them at least.
const CHECKS: &[&str] = &["listed-in", "must", "must-not", "name-style", "refers-to", "unique"];

/// Whether a key belongs to a rule about data.
pub(super) fn is_key(key: &str) -> bool {
    matches!(key, "at" | "when") || CHECKS.contains(&key)
}

/// Where the keys of such a rule have their values.
#[derive(Default)]
pub(super) struct DataPlaces<'v>(Vec<(String, &'v Value<'v>)>);

impl<'v> DataPlaces<'v> {
    pub(super) fn note(&mut self, key: &str, value: &'v Value<'v>) {
        self.0.push((key.to_string(), value));
    }

    /// The value of a key.
    pub(super) fn of(&self, key: &str) -> Option<&'v Value<'v>> {
        self.0.iter().find(|(known, _)| known == key).map(|(_, value)| *value)
    }

    /// The path to the places.
    pub(super) fn at(&self) -> Option<&'v Value<'v>> {
        self.of("at")
    }
}

/// Reads one key.
pub(super) fn read(reader: &Reader<'_>, key: &str, value: &Value<'_>, data: &mut DataDefinition) -> Read<()> {
    let string = || reader.string(value).map(str::to_string);
    match key {
        "at" => data.at = string()?,
        "when" => data.when = Some(string()?),
        "must" => data.must = Some(json(value)),
        "must-not" => data.must_not = Some(json(value)),
        "unique" => data.unique = Some(string()?),
        "refers-to" => data.refers_to = Some(string()?),
        "listed-in" => data.listed_in = Some(string()?),
        _ => data.name_style = Some(reader.word(value, "a style", NameStyle::ALL, NameStyle::word)?),
    }
    Ok(())
}

/// Whether a rule says all it has to, and no more.
pub(super) fn check(
    reader: &Reader<'_>,
    entry: &Value<'_>,
    data: &DataDefinition,
    of_code: Option<&Value<'_>>,
) -> Read<()> {
    if let Some(value) = of_code {
        let message = "a rule about data has `at` instead of `find`, and no `fix`".to_string();
        return Err(reader.error(value.span(), message));
    }
    let DataDefinition { must, must_not, unique, refers_to, listed_in, name_style, at, .. } = data;
    let has_check = must.is_some()
        || must_not.is_some()
        || [unique, refers_to, listed_in].into_iter().any(Option::is_some)
        || name_style.is_some();
    if at.is_empty() || !has_check {
        let message = format!("a rule about data needs `at`, and one of {}", CHECKS.join(", "));
        return Err(reader.error(entry.span(), message));
    }
    Ok(())
}
