//! Reads what a rule of a pack says about data: places, and what must hold for them.

use sieve_rules::NameStyle;
use sieve_rules::house::{CONSISTENT, DataDefinition, Requirement};
use toml::Spanned;
use toml::de::DeValue;

use super::beside::Beside;
use crate::settings::error::nearest;
use crate::settings::reader::{Read, Reader};
use crate::settings::schemas;
use crate::settings::value::json;

type Value<'v> = Spanned<DeValue<'v>>;

/// The keys of what must hold; a rule has one of them at least.
const CHECKS: &[&str] = &[
    "fits",
    "has",
    "has-no",
    "key-listed-in",
    "listed-in",
    "matches-file",
    "must",
    "must-not",
    "name-style",
    "path-parameters",
    "refers-to",
    "resolves",
    "structure",
    "unique",
];

/// The keys that lead to places.
const LEADING: &[&str] = &["at", "each", "when", "where"];

/// Whether a key belongs to a rule about data.
pub(super) fn is_key(key: &str) -> bool {
    LEADING.contains(&key) || CHECKS.contains(&key)
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

    /// The value of one of them.
    pub(super) fn any(&self) -> Option<&'v Value<'v>> {
        self.0.first().map(|(_, value)| *value)
    }
}

/// Reads one key.
pub(super) fn read(
    reader: &Reader<'_>,
    beside: Beside<'_>,
    key: &str,
    value: &Value<'_>,
    data: &mut DataDefinition,
) -> Read<()> {
    let string = || reader.string(value).map(str::to_string);
    let requirement = match key {
        "at" => return paths(reader, value).map(|at| data.at = at),
        "when" => return string().map(|path| data.when = Some(path)),
        "each" => return string().map(|name| data.each = Some(name)),
        "where" => return string().map(|path| data.only_where = Some(path)),
        "structure" | "resolves" | "path-parameters" if !reader.flag(value)? => return Ok(()),
        "structure" => Requirement::Structure,
        "resolves" => Requirement::Resolves,
        "path-parameters" => Requirement::PathParameters,
        "must" => Requirement::Must(schema(reader, beside, value)?),
        "must-not" => Requirement::MustNot(schema(reader, beside, value)?),
        "has" => Requirement::Has(paths(reader, value)?),
        "has-no" => Requirement::HasNo(paths(reader, value)?),
        "unique" => Requirement::Unique(string()?),
        "matches-file" => Requirement::MatchesFile(string()?),
        "refers-to" => Requirement::RefersTo(string()?),
        "listed-in" => Requirement::ListedIn(paths(reader, value)?),
        "key-listed-in" => Requirement::KeyListedIn(paths(reader, value)?),
        "fits" => fits(reader, value)?,
        _ if value.get_ref().as_str() == Some(CONSISTENT) => Requirement::NameStyle(None),
        _ => {
            let style = reader.word(value, "a style", NameStyle::ALL, NameStyle::word)?;
            Requirement::NameStyle(Some(style))
        }
    };
    data.requirements.push(requirement);
    Ok(())
}

/// A path, or a list of them.
fn paths(reader: &Reader<'_>, value: &Value<'_>) -> Read<Vec<String>> {
    match value.get_ref() {
        DeValue::String(path) => Ok(vec![path.to_string()]),
        DeValue::Array(_) => reader.strings(value, "a path, or a list of paths"),
        _ => Err(reader.wrong(value, "a path, or a list of paths")),
    }
}

/// A schema as it is, or the name of the file beside the pack that it is in.
fn schema(reader: &Reader<'_>, beside: Beside<'_>, value: &Value<'_>) -> Read<serde_json::Value> {
    let Some(name) = value.get_ref().as_str() else { return Ok(json(value)) };
    let schema = beside(name).and_then(|bytes| schemas::json(name, bytes));
    schema.map_err(|message| reader.error(value.span(), format!("the schema {name}: {message}")))
}

/// `fits = { values = […], schema = "…" }`
fn fits(reader: &Reader<'_>, value: &Value<'_>) -> Read<Requirement> {
    let (mut values, mut schema) = (Vec::new(), None);
    for (key, value) in reader.table(value, "fits")? {
        match key.get_ref().as_ref() {
            "values" => values = paths(reader, value)?,
            "schema" => schema = Some(reader.string(value)?.to_string()),
            _ => return reader.no_key(key, "`fits` has no \"", &["schema", "values"]),
        }
    }
    match schema {
        Some(schema) if !values.is_empty() => Ok(Requirement::Fits { values, schema }),
        _ => Err(reader.error(value.span(), "`fits` needs `values` and `schema`".to_string())),
    }
}

/// Whether a rule says all it has to, and no more.
pub(super) fn check(
    reader: &Reader<'_>,
    entry: &Value<'_>,
    data: &DataDefinition,
    places: &DataPlaces<'_>,
    of_code: Option<&Value<'_>>,
) -> Read<()> {
    let error = |value: &Value<'_>, message: String| Err(reader.error(value.span(), message));
    if let Some(value) = of_code {
        return error(value, "a rule about data has `at` or `each` instead of `find`, and no `fix`".to_string());
    }
    let is_of_whole = data.requirements.contains(&Requirement::Structure);
    let leads = !data.at.is_empty() || data.each.is_some() || is_of_whole;
    if !leads || data.requirements.is_empty() {
        return error(entry, format!("a rule about data needs `at` or `each`, and one of {}", CHECKS.join(", ")));
    }
    if is_of_whole && data.documents.is_empty() {
        return error(entry, "`structure` is that of a [[document]] of the pack, and there is none".to_string());
    }
    match &data.each {
        Some(name) if !data.documents.iter().flat_map(|kind| kind.parts()).any(|part| part == name) => {
            let hint = nearest(name, data.documents.iter().flat_map(|kind| kind.parts()));
            let message = format!("no schema of a [[document]] defines \"{name}\"{hint}");
            error(places.of("each").unwrap_or(entry), message)
        }
        _ => Ok(()),
    }
}
