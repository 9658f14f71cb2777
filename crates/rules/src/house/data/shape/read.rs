//! Reads the parts that a JSON Schema (draft 2020-12) describes.

use std::collections::BTreeMap;
use std::sync::Arc;

use regex::Regex;
use serde_json::{Map, Value as Json};
use sieve_meaning::data;

use super::{Choice, Condition, Node, NodeId, ROOT, Shape};

/// Schemas nest no deeper.
const DEEPEST: usize = 100;

type Read<T> = Result<T, String>;

impl Shape {
    /// Reads a schema. References to other schemas than its own definitions lead to no parts.
    ///
    /// # Errors
    /// In words: when a reference leads to nothing, or a condition is none that distinguishes parts.
    pub(in crate::house::data) fn read(schema: &Json) -> Read<Shape> {
        let definitions = schema.get("$defs").and_then(Json::as_object);
        let mut reader = Reader { shape: Shape { nodes: vec![Node::default()], definitions: BTreeMap::new() } };
        for name in definitions.into_iter().flat_map(Map::keys) {
            let name: Arc<str> = Arc::from(name.as_str());
            let id = reader.add(Node { name: Some(Arc::clone(&name)), ..Node::default() });
            reader.shape.definitions.insert(name, id);
        }
        for (name, definition) in definitions.into_iter().flatten() {
            reader.fill(reader.shape.definitions[name.as_str()], definition, 0)?;
        }
        reader.fill(ROOT, schema, 0)?;
        Ok(reader.shape)
    }
}

struct Reader {
    shape: Shape,
}

impl Reader {
    fn add(&mut self, node: Node) -> NodeId {
        self.shape.nodes.push(node);
        self.shape.nodes.len() - 1
    }

    /// A schema within another one: a node of its own, but where it is no more than a reference to a definition.
    fn inner(&mut self, schema: &Json, depth: usize) -> Read<NodeId> {
        if let Json::Object(keys) = schema
            && keys.len() == 1
            && let Some(reference) = schema.get("$ref")
            && let Some(id) = self.definition(reference)?
        {
            return Ok(id);
        }
        let id = self.add(Node::default());
        self.fill(id, schema, depth + 1)?;
        Ok(id)
    }

    /// Adds to a node what a schema says.
    fn fill(&mut self, id: NodeId, schema: &Json, depth: usize) -> Read<()> {
        let Json::Object(schema) = schema else { return Ok(()) };
        if depth > DEEPEST {
            return Err(format!("schemas are within each other, more than {DEEPEST} of them"));
        }
        for (key, value) in schema {
            match key.as_str() {
                "$ref" => {
                    let target = self.definition(value)?;
                    self.shape.nodes[id].also.extend(target);
                }
                "properties" => {
                    for (name, inner) in value.as_object().into_iter().flatten() {
                        let inner = self.inner(inner, depth)?;
                        self.shape.nodes[id].keys.insert(name.clone(), inner);
                    }
                }
                "patternProperties" => {
                    for (pattern, inner) in value.as_object().into_iter().flatten() {
                        let regex = Regex::new(pattern).map_err(|error| format!("{pattern}: {error}"))?;
                        let inner = self.inner(inner, depth)?;
                        self.shape.nodes[id].patterns.push((regex, inner));
                    }
                }
                "additionalProperties" => self.shape.nodes[id].rest = Some(self.inner(value, depth)?),
                "items" => self.shape.nodes[id].elements = Some(self.inner(value, depth)?),
                "allOf" | "anyOf" | "oneOf" => {
                    for inner in value.as_array().into_iter().flatten() {
                        let inner = self.inner(inner, depth)?;
                        self.shape.nodes[id].also.push(inner);
                    }
                }
                "if" => {
                    let condition = condition(value)?;
                    let then = schema.get("then").map(|inner| self.inner(inner, depth)).transpose()?;
                    let otherwise = schema.get("else").map(|inner| self.inner(inner, depth)).transpose()?;
                    self.shape.nodes[id].choices.push(Choice { condition, then, otherwise });
                }
                _ => {}
            }
        }
        Ok(())
    }

    /// The definition that a reference leads to; nothing for a reference to another schema.
    fn definition(&self, reference: &Json) -> Read<Option<NodeId>> {
        let reference = reference.as_str().unwrap_or_default();
        let Some(pointer) = reference.strip_prefix('#') else { return Ok(None) };
        if pointer.is_empty() {
            return Ok(Some(ROOT));
        }
        let known = pointer.strip_prefix("/$defs/").and_then(|name| self.shape.definitions.get(name));
        known.copied().map(Some).ok_or_else(|| format!("{reference} leads to no definition under $defs"))
    }
}

/// What an `if` asks.
fn condition(schema: &Json) -> Read<Condition> {
    let none = || {
        "parts are told apart by `type: object` or `type: array`, by keys that are required, and by `const` or `enum` of such keys: `if` asks for something else"
            .to_string()
    };
    let mut condition = Condition::default();
    for (key, value) in schema.as_object().ok_or_else(none)? {
        match key.as_str() {
            "type" if value == "object" => condition.shape = Some(data::Shape::Object),
            "type" if value == "array" => condition.shape = Some(data::Shape::List),
            "required" => {
                let keys = value.as_array().into_iter().flatten();
                condition.keys.extend(keys.filter_map(Json::as_str).map(str::to_string));
            }
            "properties" => {
                for (name, inner) in value.as_object().into_iter().flatten() {
                    let allowed = match (inner.get("const"), inner.get("enum").and_then(Json::as_array)) {
                        (Some(one), None) => vec![one.clone()],
                        (None, Some(all)) => all.clone(),
                        _ => return Err(none()),
                    };
                    condition.values.push((name.clone(), allowed));
                }
            }
            _ => return Err(none()),
        }
    }
    let is_required = |(name, _): &(String, Vec<Json>)| condition.keys.contains(name);
    if condition.keys.is_empty() && condition.shape.is_none() || !condition.values.iter().all(is_required) {
        Err(none())
    } else {
        Ok(condition)
    }
}
