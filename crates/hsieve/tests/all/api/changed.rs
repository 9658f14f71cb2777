//! Descriptions with one thing changed, the same in each run.

use serde_json::{Value as Json, json};

use super::published::Description;

/// A row of numbers that look like chance.
struct Dice(u64);

impl Dice {
    fn below(&mut self, most: usize) -> usize {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        ((self.0 >> 33) as usize) % most.max(1)
    }
}

/// Keys that are put in: those of the specifications, and some of nobody.
const KEYS: &[&str] = &[
    "$ref",
    "x-quay",
    "type",
    "name",
    "in",
    "required",
    "schema",
    "content",
    "description",
    "get",
    "200",
    "default",
    "example",
    "examples",
    "items",
    "properties",
    "enum",
    "format",
    "style",
    "explode",
    "url",
    "title",
    "servers",
    "security",
    "scopes",
    "flows",
    "scheme",
    "summary",
    "nullable",
    "value",
    "operationId",
    "operationRef",
    "2XX",
    "700",
    "tide",
    "allOf",
    "oneOf",
    "not",
    "minimum",
    "minLength",
    "readOnly",
    "xml",
    "deprecated",
    "tags",
    "parameters",
    "responses",
    "consumes",
    "collectionFormat",
    "allowEmptyValue",
    "headers",
    "links",
    "callbacks",
    "encoding",
    "payload",
    "channel",
    "action",
    "messages",
    "location",
];

/// Values that are put in.
fn values() -> Vec<Json> {
    vec![
        json!(null),
        json!(true),
        json!(1),
        json!(-1),
        json!(1.5),
        json!("quay"),
        json!(""),
        json!("/quay"),
        json!([]),
        json!({}),
        json!(["a", "a"]),
        json!(["a"]),
        json!({"$ref": "#/quay"}),
        json!({"quay": 1}),
        json!("string"),
        json!("array"),
        json!([{}]),
        json!({"type": "string"}),
        json!("query"),
        json!("path"),
        json!("200"),
    ]
}

/// So many descriptions, each with one thing changed.
pub fn changed(valid: &[Description], count: usize) -> Vec<Description> {
    let (mut dice, values) = (Dice(2027), values());
    let one = |_| {
        let mut description = valid[dice.below(valid.len())].clone();
        let pointers = holders(&description.json);
        let at = &pointers[dice.below(pointers.len())];
        let donor = description.json.pointer(&pointers[dice.below(pointers.len())]).cloned().unwrap_or_default();
        let holder = description.json.pointer_mut(at).expect("it is there");
        description.path += at;
        change(holder, at.is_empty(), &mut dice, &values, donor);
        description
    };
    (0..count).map(one).collect()
}

/// Pointers to objects and lists that hold something.
fn holders(json: &Json) -> Vec<String> {
    let mut found = Vec::new();
    let mut waiting = vec![(String::new(), json)];
    while let Some((pointer, value)) = waiting.pop() {
        match value {
            Json::Object(keys) if !keys.is_empty() => {
                let escaped = |key: &str| key.replace('~', "~0").replace('/', "~1");
                waiting.extend(keys.iter().map(|(key, inner)| (format!("{pointer}/{}", escaped(key)), inner)));
            }
            Json::Array(elements) if !elements.is_empty() => {
                let inner = elements.iter().enumerate().map(|(index, inner)| (format!("{pointer}/{index}"), inner));
                waiting.extend(inner);
            }
            _ => continue,
        }
        found.push(pointer);
    }
    found
}

fn change(holder: &mut Json, is_root: bool, dice: &mut Dice, values: &[Json], donor: Json) {
    let value = values[dice.below(values.len())].clone();
    match holder {
        Json::Object(keys) => {
            let names: Vec<String> = keys.keys().cloned().collect();
            let name = names[dice.below(names.len())].clone();
            // What says the version stays: without it nobody looks.
            let is_version = is_root && matches!(name.as_str(), "openapi" | "swagger" | "asyncapi");
            let new = KEYS[dice.below(KEYS.len())].to_string();
            match dice.below(5) {
                0 if !is_version => drop(keys.remove(&name)),
                1 if !is_version => drop(keys.insert(name, value)),
                2 if !is_version => drop(keys.insert(name, donor)),
                3 if !is_version => {
                    let moved = keys.remove(&name).unwrap_or_default();
                    keys.insert(new, moved);
                }
                _ => drop(keys.insert(new, value)),
            }
        }
        Json::Array(elements) => {
            let index = dice.below(elements.len());
            match dice.below(3) {
                0 => elements[index] = value,
                1 => elements.push(elements[0].clone()),
                _ => elements[index] = donor,
            }
        }
        _ => {}
    }
}
