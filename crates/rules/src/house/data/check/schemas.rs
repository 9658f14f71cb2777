//! Places held against schemas.

use serde_json::Value as Json;
use sieve_meaning::data::Value;

use super::{Complaint, Places, TooMuch};
use crate::schema::Schema;

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
    problems(places, places.document, &kind.schema, usize::MAX)
}

/// What a schema has against the places.
pub(super) fn must<'d, 't>(
    places: &Places<'_, 'd, 't>,
    schema: &PlaceSchema,
) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let mut found = Vec::new();
    for place in places.list.iter().filter_map(|place| places.value(*place)) {
        found.extend(problems(places, place, &schema.schema, schema.levels)?);
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
        if schema.schema.holds(place, schema.levels, &places.steps)? {
            found.push(Complaint::about_whole(place));
        }
    }
    Ok(found)
}

fn problems<'d, 't>(
    places: &Places<'_, 'd, 't>,
    place: Value<'d, 't>,
    schema: &Schema,
    levels: usize,
) -> Result<Vec<Complaint<'d, 't>>, TooMuch> {
    let problems = schema.problems_within(place, levels, &places.steps)?.into_iter();
    Ok(problems.map(|problem| Complaint::within(place, problem)).collect())
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

#[cfg(test)]
mod tests {
    use proptest::prelude::*;
    use serde_json::json;
    use sieve_meaning::data::{Data, Steps};
    use sieve_syntax::language::Language;
    use sieve_syntax::text::Text;

    use super::*;

    fn value() -> impl Strategy<Value = Json> {
        let leaf = prop_oneof![Just(json!(null)), Just(json!(3)), Just(json!("low")), Just(json!([])), Just(json!({}))];
        leaf.prop_recursive(3, 20, 3, |inner| {
            prop_oneof![
                proptest::collection::vec(inner.clone(), 0..3).prop_map(Json::from),
                proptest::collection::btree_map("[ab]", inner, 0..3).prop_map(|keys| json!(keys)),
            ]
        })
    }

    fn schema() -> impl Strategy<Value = Json> {
        let leaf = prop_oneof![
            Just(json!({ "type": "object" })),
            Just(json!({ "required": ["a"] })),
            Just(json!({ "minItems": 1 })),
            Just(json!({ "maxProperties": 1 })),
            Just(json!({ "enum": [3, "low"] })),
            Just(json!({ "const": {} })),
            Just(json!({ "enum": [[], {}] })),
            Just(json!({ "uniqueItems": true })),
            Just(json!({ "propertyNames": { "const": "a" } })),
        ];
        leaf.prop_recursive(3, 20, 3, |inner| {
            prop_oneof![
                inner.clone().prop_map(|one| json!({ "properties": { "a": one } })),
                inner.clone().prop_map(|one| json!({ "items": one })),
                inner.clone().prop_map(|one| json!({ "additionalProperties": one })),
                inner.clone().prop_map(|one| json!({ "contains": one })),
                inner.clone().prop_map(|one| json!({ "not": one })),
                (inner.clone(), inner.clone()).prop_map(|(one, other)| json!({ "anyOf": [one, other] })),
                (inner.clone(), inner).prop_map(|(one, other)| json!({ "if": one, "then": other, "else": false })),
            ]
        })
    }

    proptest! {
        #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::with_cases(2_000) })]

        /// What is below the levels that a schema looks at makes no difference.
        #[test]
        fn levels_that_are_left_out_decide_nothing(schema in schema(), value in value()) {
            let text = Text::new(value.to_string());
            let tree = Language::Json.parse(&text);
            let data = Data::of(Language::Json, &text, &tree);
            let root = data.root().expect("a value");
            let place = PlaceSchema::new(&schema).expect("a schema");
            let whole = place.schema.holds(root, usize::MAX, &Steps::new(10_000)).expect("it is small");
            let part = place.schema.holds(root, place.levels, &Steps::new(10_000)).expect("it is small");
            prop_assert_eq!(part, whole, "{} levels of {} by {}", place.levels, value, schema);
        }
    }
}
