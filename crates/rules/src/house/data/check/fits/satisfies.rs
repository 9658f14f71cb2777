//! Whether a value satisfies a schema of its own document.
//!
//! Such schemas are in dialects: OpenAPI 3.0 and 2.0 have `nullable` and boolean `exclusiveMinimum`, and ignore what is beside a
//! reference; OpenAPI 3.1 has JSON Schema 2020-12. What they have in common is checked here, right where it is written, as an
//! example is small and the schemas around it are not. What a dialect leaves open is taken to be satisfied.

use regex::Regex;
use rustc_hash::FxHashMap;
use serde_json::Value as Json;
use sieve_meaning::data::{Scalar, Shape, Steps, Value};

use super::super::{TooMuch, head_of, start_of};
use crate::schema::{Problem, cut, type_in_words, types_in_words};

/// Schemas lead from one to the next no further for one value.
const DEEPEST: usize = 100;

/// Judges values, with the expressions that it met on the way.
pub(super) struct Judge<'j, 'd, 't> {
    document: Value<'d, 't>,
    patterns: FxHashMap<String, Option<Regex>>,
    steps: &'j Steps,
}

type Found = Result<Vec<Problem>, TooMuch>;

impl<'j, 'd, 't> Judge<'j, 'd, 't> {
    pub(super) fn new(document: Value<'d, 't>, steps: &'j Steps) -> Judge<'j, 'd, 't> {
        Judge { document, patterns: FxHashMap::default(), steps }
    }

    /// What a schema has against a value, in the order of the file.
    pub(super) fn problems(&mut self, value: Value<'d, 't>, schema: Value<'d, 't>) -> Found {
        let mut problems = self.judge(value.resolved(), schema, 0)?;
        problems.sort_by_key(|problem| problem.span);
        problems.dedup_by_key(|problem| problem.span);
        Ok(problems)
    }

    fn judge(&mut self, value: Value<'d, 't>, schema: Value<'d, 't>, depth: usize) -> Found {
        self.steps.take().ok_or(TooMuch)?;
        let Some(schema) = schema.followed(self.document).filter(|_| depth < DEEPEST) else { return Ok(Vec::new()) };
        if schema.scalar() == Some(Scalar::Boolean(false)) {
            return Ok(vec![problem(value, "nothing may be here".to_string())]);
        }
        if schema.shape() != Shape::Object || value.shape() == Shape::Unknown || is_allowed_null(value, schema) {
            return Ok(Vec::new());
        }
        if let Some(wrong) = wrong_type(value, schema) {
            return Ok(vec![wrong]);
        }
        let mut found = Vec::new();
        found.extend(self.wrong_choice(value, schema)?);
        match value.shape() {
            Shape::Object => found.extend(self.object(value, schema, depth)?),
            Shape::List => found.extend(self.list(value, schema, depth)?),
            _ => found.extend(self.wrong_scalar(value, schema)),
        }
        found.extend(self.composed(value, schema, depth)?);
        Ok(found)
    }

    /// `enum` and `const`
    fn wrong_choice(&mut self, value: Value<'d, 't>, schema: Value<'d, 't>) -> Result<Option<Problem>, TooMuch> {
        let (all, only) = (schema.get("enum"), schema.get("const"));
        if all.is_none() && only.is_none() {
            return Ok(None);
        }
        let json = value.to_json_within(usize::MAX, self.steps)?;
        let mut options = Vec::new();
        for option in all.into_iter().flat_map(Value::children).chain(only) {
            options.push(option.to_json_within(usize::MAX, self.steps)?);
        }
        if options.iter().any(|option| is_equal(option, &json)) {
            return Ok(None);
        }
        let known: Vec<String> = options.iter().map(|option| cut(&option.to_string())).collect();
        Ok(Some(problem(value, format!("{} is none of {}", cut(&json.to_string()), cut(&known.join(", "))))))
    }

    fn wrong_scalar(&mut self, value: Value<'d, 't>, schema: Value<'d, 't>) -> Option<Problem> {
        let wrong = match value.scalar()? {
            Scalar::String(text) => self.wrong_string(&text, schema),
            Scalar::Whole(number) => wrong_number(number as f64, schema),
            Scalar::Real(number) => wrong_number(number, schema),
            Scalar::Boolean(_) | Scalar::Null => None,
        };
        wrong.map(|message| problem(value, message))
    }

    fn wrong_string(&mut self, text: &str, schema: Value<'d, 't>) -> Option<String> {
        let shown = || cut(&Json::from(text).to_string());
        let length = text.chars().count() as f64;
        if let Some(least) = number(schema, "minLength").filter(|least| length < *least) {
            return Some(format!("{} has fewer characters than {least}", shown()));
        }
        if let Some(most) = number(schema, "maxLength").filter(|most| length > *most) {
            return Some(format!("{} has more characters than {most}", shown()));
        }
        let pattern = schema.get("pattern")?.as_str()?;
        // An expression that looks around, or that only another dialect knows, decides nothing.
        let known = self.patterns.entry(pattern).or_insert_with_key(|pattern| Regex::new(pattern).ok());
        let is_wrong = known.as_ref().is_some_and(|pattern| !pattern.is_match(text));
        is_wrong.then(|| format!("{} does not match the pattern of its schema", shown()))
    }

    fn object(&mut self, value: Value<'d, 't>, schema: Value<'d, 't>, depth: usize) -> Found {
        let mut found = Vec::new();
        let properties = schema.get("properties");
        let property = |name: &str| properties.and_then(|all| all.get(name));
        for name in schema.get("required").into_iter().flat_map(Value::children) {
            let Some(name) = name.as_str() else { continue };
            // Of a property for one direction only, the other knows nothing.
            let described = property(&name).and_then(|one| one.followed(self.document));
            let is_one_way = described.is_some_and(|one| is_true(one, "readOnly") || is_true(one, "writeOnly"));
            if value.get(&name).is_none() && !is_one_way {
                let span = value.key_span().unwrap_or_else(|| start_of(value.span()));
                found.push(Problem { span, message: format!("\"{name}\" is missing") });
            }
        }
        let patterns = schema.get("patternProperties").is_some();
        let rest = schema.get("additionalProperties").filter(|_| !patterns);
        for child in value.children() {
            let key = child.key().unwrap_or_default();
            let inner = match (property(key), rest) {
                (Some(inner), _) => inner,
                (None, Some(rest)) if rest.scalar() == Some(Scalar::Boolean(false)) => {
                    found.push(Problem {
                        span: child.key_or_own_span(),
                        message: format!("no \"{}\" is known here", cut(key)),
                    });
                    continue;
                }
                (None, Some(rest)) => rest,
                (None, None) => continue,
            };
            found.extend(self.judge(child.resolved(), inner, depth + 1)?);
        }
        Ok(found)
    }

    fn list(&mut self, value: Value<'d, 't>, schema: Value<'d, 't>, depth: usize) -> Found {
        let mut found = Vec::new();
        let length = value.children().len() as f64;
        if number(schema, "minItems").is_some_and(|least| length < least) {
            found.push(problem(value, "this has fewer elements than its schema asks for".to_string()));
        }
        if number(schema, "maxItems").is_some_and(|most| length > most) {
            found.push(problem(value, "this has more elements than its schema allows".to_string()));
        }
        let Some(items) = schema.get("items").filter(|_| schema.get("prefixItems").is_none()) else { return Ok(found) };
        for child in value.children() {
            found.extend(self.judge(child.resolved(), items, depth + 1)?);
        }
        Ok(found)
    }

    /// `allOf`, `anyOf`, `oneOf`, `not`
    fn composed(&mut self, value: Value<'d, 't>, schema: Value<'d, 't>, depth: usize) -> Found {
        let mut found = Vec::new();
        for inner in schema.get("allOf").into_iter().flat_map(Value::children) {
            found.extend(self.judge(value, inner, depth + 1)?);
        }
        for key in ["anyOf", "oneOf"] {
            let Some(choices) = schema.get(key) else { continue };
            let mut forms = Vec::new();
            for inner in choices.children() {
                forms.push(self.judge(value, inner, depth + 1)?);
            }
            if forms.is_empty() || forms.iter().any(Vec::is_empty) {
                continue;
            }
            // Where the value as a whole rules out all forms but one, what is wrong is of that one.
            forms.retain(|problems| !problems.iter().any(|problem| is_of_whole(problem, value)));
            match &mut forms[..] {
                [only] => found.append(only),
                _ => found.push(problem(value, "this is none of the forms that its schema allows".to_string())),
            }
        }
        if let Some(inner) = schema.get("not")
            && self.judge(value, inner, depth + 1)?.is_empty()
        {
            found.push(problem(value, "this is what its schema says it is not".to_string()));
        }
        Ok(found)
    }
}

/// Whether a problem is with the value itself, not with something in it.
fn is_of_whole(problem: &Problem, value: Value<'_, '_>) -> bool {
    problem.span == value.span() || problem.span == head_of(value)
}

fn problem(value: Value<'_, '_>, message: String) -> Problem {
    Problem { span: value.span(), message }
}

/// Whether a schema has `true` for a key.
fn is_true(schema: Value<'_, '_>, key: &str) -> bool {
    schema.get(key).and_then(Value::scalar) == Some(Scalar::Boolean(true))
}

/// Whether null is where a schema allows it in one of the ways there are.
fn is_allowed_null(value: Value<'_, '_>, schema: Value<'_, '_>) -> bool {
    value.scalar() == Some(Scalar::Null) && is_true(schema, "nullable")
}

/// A value of another type than the schema names.
fn wrong_type(value: Value<'_, '_>, schema: Value<'_, '_>) -> Option<Problem> {
    let named = schema.get("type")?;
    let names: Vec<String> = match named.as_str() {
        Some(one) => vec![one],
        None => named.children().filter_map(Value::as_str).collect(),
    };
    let found = type_of(value)?;
    let may_be = |name: &String| match name.as_str() {
        "integer" => found == "integer",
        "number" => matches!(found, "integer" | "number"),
        "null" | "boolean" | "object" | "array" | "string" => *name == found,
        _ => true,
    };
    if names.is_empty() || names.iter().any(may_be) {
        return None;
    }
    let span = if value.shape() == Shape::Scalar { value.span() } else { head_of(value) };
    Some(Problem {
        span,
        message: format!("this is {}, not {}", type_in_words(found), types_in_words(names.iter().map(String::as_str))),
    })
}

fn type_of(value: Value<'_, '_>) -> Option<&'static str> {
    Some(match value.shape() {
        Shape::Object => "object",
        Shape::List => "array",
        Shape::Unknown => return None,
        Shape::Scalar => match value.scalar()? {
            Scalar::Null => "null",
            Scalar::Boolean(_) => "boolean",
            Scalar::Whole(_) => "integer",
            Scalar::Real(number) if number.fract() == 0.0 => "integer",
            Scalar::Real(_) => "number",
            Scalar::String(_) => "string",
        },
    })
}

/// A number that a schema has for a key.
fn number(schema: Value<'_, '_>, key: &str) -> Option<f64> {
    match schema.get(key)?.scalar()? {
        Scalar::Whole(number) => Some(number as f64),
        Scalar::Real(number) => Some(number),
        _ => None,
    }
}

fn wrong_number(found: f64, schema: Value<'_, '_>) -> Option<String> {
    if let Some(least) = number(schema, "minimum") {
        if found < least {
            return Some(format!("{found} is less than {least}"));
        }
        if found == least && is_true(schema, "exclusiveMinimum") {
            return Some(format!("{found} is not more than {least}"));
        }
    }
    if let Some(most) = number(schema, "maximum") {
        if found > most {
            return Some(format!("{found} is more than {most}"));
        }
        if found == most && is_true(schema, "exclusiveMaximum") {
            return Some(format!("{found} is not less than {most}"));
        }
    }
    let least = number(schema, "exclusiveMinimum").filter(|least| found <= *least);
    let most = number(schema, "exclusiveMaximum").filter(|most| found >= *most);
    least
        .map(|least| format!("{found} is not more than {least}"))
        .or(most.map(|most| format!("{found} is not less than {most}")))
}

/// Whether two values are the same, where `1` is `1.0`.
fn is_equal(one: &Json, other: &Json) -> bool {
    match (one, other) {
        (Json::Number(one), Json::Number(other)) => one.as_f64() == other.as_f64(),
        _ => one == other,
    }
}
