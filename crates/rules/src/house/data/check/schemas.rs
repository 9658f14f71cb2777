//! Places held against schemas.

use serde_json::Value as Json;
use sieve_meaning::data::Value;

use super::{Complaint, Places, TooMuch};
use crate::schema::{MOST, Schema};

/// A schema with how many levels of a value it looks at.
pub(in crate::house::data) struct PlaceSchema {
    schema: Schema,
    levels: usize,
}

impl PlaceSchema {
    pub(super) fn new(schema: &Json) -> Result<PlaceSchema, String> {
        Ok(PlaceSchema { schema: Schema::new(schema)?, levels: levels(schema) })
    }
}

/// What the schema of its kind has against the document.
pub(super) fn structure<'d, 't>(places: &Places<'_, 'd, 't>) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let Some(kind) = places.kind else { return Ok(Vec::new()) };
    problems(places.document, &kind.schema, usize::MAX)
}

/// What a schema has against the places.
pub(super) fn must<'d, 't>(
    places: &Places<'_, 'd, 't>,
    schema: &PlaceSchema,
) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let mut found = Vec::new();
    for place in places.list.iter().filter_map(|place| places.value(*place)) {
        found.extend(problems(place, &schema.schema, schema.levels)?);
    }
    Ok(found)
}

/// Places that satisfy a schema, and should not.
pub(super) fn must_not<'d, 't>(
    places: &Places<'_, 'd, 't>,
    schema: &PlaceSchema,
) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let mut found = Vec::new();
    for place in places.list.iter().filter_map(|place| places.value(*place)) {
        if schema.schema.holds(place, schema.levels, MOST)? {
            found.push(Complaint::about_whole(place));
        }
    }
    Ok(found)
}

fn problems<'d, 't>(place: Value<'d, 't>, schema: &Schema, levels: usize) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let problems = schema.problems_within(place, levels, MOST)?.into_iter();
    Ok(problems.map(|problem| Complaint { span: problem.span, ..Complaint::about(place, problem.message) }).collect())
}

/// How many levels below a value a schema looks at: what is deeper need not be read to decide.
fn levels(schema: &Json) -> usize {
    let Json::Object(schema) = schema else { return 0 };
    let deepest = |values: &mut dyn Iterator<Item = &Json>| values.map(levels).max().unwrap_or(0);
    let one = |(key, value): (&String, &Json)| match key.as_str() {
        "$schema" | "title" | "description" | "$comment" | "type" | "minLength" | "maxLength" | "pattern"
        | "minimum" | "maximum" | "exclusiveMinimum" | "exclusiveMaximum" | "multipleOf" | "format" => 0,
        "required" | "minProperties" | "maxProperties" | "minItems" | "maxItems" | "propertyNames"
        | "dependentRequired" => 1,
        "properties" | "patternProperties" => {
            let inner = value.as_object().map_or(0, |all| deepest(&mut all.values()));
            inner.saturating_add(1)
        }
        "additionalProperties" | "items" | "contains" => levels(value).saturating_add(1),
        "allOf" | "anyOf" | "oneOf" => value.as_array().map_or(0, |all| deepest(&mut all.iter())),
        "not" | "if" | "then" | "else" => levels(value),
        // A value of which nothing is left out is held against what is to be equal.
        "const" if !value.is_array() && !value.is_object() => 0,
        "enum" if value.as_array().is_some_and(|all| !all.iter().any(|one| one.is_array() || one.is_object())) => 0,
        _ => usize::MAX,
    };
    schema.iter().map(one).max().unwrap_or(0)
}
