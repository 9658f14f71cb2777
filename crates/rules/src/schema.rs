//! Values held against a JSON Schema, with the smallest place that is wrong.

use std::fmt;

use jsonschema::error::{TypeKind, ValidationErrorKind};
use jsonschema::{PatternOptions, ValidationError, Validator};
use serde_json::Value as Json;
use sieve_meaning::data::{Steps, TooLarge, Value};
use sieve_syntax::text::Span;

/// A schema, ready to be used. Nothing it refers to is fetched from anywhere.
pub struct Schema(Validator);

impl fmt::Debug for Schema {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        out.write_str("Schema")
    }
}

/// What is wrong with a value.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Problem {
    /// The smallest value or key that it concerns; for a key that is missing, the key of the object that lacks it.
    pub span: Span,
    /// What is wrong, in words.
    pub message: String,
}

/// More problems of one value are of no use.
const MOST_PROBLEMS: usize = 1_000;

/// How many values of a document are looked at, aliases resolved, and how many steps a path may take in it.
pub const MOST: usize = 4_000_000;

/// Why a document past that bound is not decided.
pub const TOO_LARGE: &str = "this document is too large, or its aliases stand for too much, to be checked to its end";

/// Longer values are cut in messages, in characters.
const LONGEST: usize = 60;

impl Schema {
    /// Makes a schema of JSON, of the draft that its `$schema` names, or else the newest.
    ///
    /// # Errors
    /// When it is none, in words.
    pub fn new(schema: &Json) -> Result<Schema, String> {
        // No expression looks back: each is matched in time that grows with the value alone.
        let options = jsonschema::options().with_pattern_options(PatternOptions::regex());
        options.build(schema).map(Schema).map_err(|error| {
            let at = error.instance_path().to_string();
            if at.is_empty() { error.to_string() } else { format!("at {at}: {error}") }
        })
    }

    /// Whether a value satisfies it, of which no more than so many levels are looked at.
    ///
    /// # Errors
    /// When the value takes more steps than are left, aliases resolved.
    pub(crate) fn holds(&self, value: Value<'_, '_>, levels: usize, steps: &Steps) -> Result<bool, TooLarge> {
        Ok(self.0.is_valid(&value.to_json_within(levels, steps)?))
    }

    /// What is wrong with a value, one problem for a place, in the order of the text.
    ///
    /// # Errors
    /// When the value is larger than a bound, aliases resolved.
    pub fn problems(&self, value: Value<'_, '_>, most: usize) -> Result<Vec<Problem>, TooLarge> {
        self.problems_within(value, usize::MAX, &Steps::new(most))
    }

    /// The same, of a value of which no more than so many levels are looked at.
    ///
    /// # Errors
    /// When the value takes more steps than are left, aliases resolved.
    pub(crate) fn problems_within(
        &self,
        value: Value<'_, '_>,
        levels: usize,
        steps: &Steps,
    ) -> Result<Vec<Problem>, TooLarge> {
        let json = value.to_json_within(levels, steps)?;
        if self.0.is_valid(&json) {
            return Ok(Vec::new());
        }
        let mut problems: Vec<Problem> = Vec::new();
        for error in self.0.iter_errors(&json).take(MOST_PROBLEMS) {
            add_problems(value, &error, &mut problems);
        }
        problems.sort_by_key(|problem| problem.span);
        problems.dedup_by_key(|problem| problem.span);
        Ok(problems)
    }
}

/// Adds the problems that an error within a value stands for.
fn add_problems(root: Value<'_, '_>, error: &ValidationError<'_>, problems: &mut Vec<Problem>) {
    if let ValidationErrorKind::AnyOf { context } | ValidationErrorKind::OneOfNotValid { context } = error.kind()
        && let Some(only) = only_form(error, context)
    {
        return only.iter().for_each(|inner| add_problems(root, inner, problems));
    }
    let place = root.at(error.instance_path().as_str()).unwrap_or(root);
    problems.extend(told(place, error.kind(), &|| error.masked().to_string(), error.instance()));
}

/// The only one of several forms that a value can have been meant to have: it is of another type than all others ask for, or has
/// another word where they ask for theirs.
fn only_form<'e>(
    error: &ValidationError<'_>,
    forms: &'e [Vec<ValidationError<'static>>],
) -> Option<&'e [ValidationError<'static>]> {
    let at = error.instance_path().as_str();
    let is_ruled_out = |inner: &ValidationError<'_>| match inner.kind() {
        ValidationErrorKind::Type { .. } => inner.instance_path().as_str() == at,
        ValidationErrorKind::Constant { .. } | ValidationErrorKind::Enum { .. } => {
            inner.instance_path().as_str().strip_prefix(at).is_some_and(|rest| rest.matches('/').count() <= 1)
        }
        _ => false,
    };
    let mut possible = forms.iter().filter(|form| !form.iter().any(is_ruled_out));
    possible.next().filter(|_| possible.next().is_none()).map(Vec::as_slice)
}

/// The problems that an error stands for.
fn told(
    place: Value<'_, '_>,
    kind: &ValidationErrorKind,
    otherwise: &dyn Fn() -> String,
    found: &Json,
) -> Vec<Problem> {
    let key_span = |name: &str| place.get(name).and_then(Value::key_span).unwrap_or_else(|| place.span());
    let one = |span: Span, message: String| vec![Problem { span, message }];
    let whole = if found.is_object() || found.is_array() { head_of(place) } else { place.span() };
    match kind {
        ValidationErrorKind::Required { property } => {
            let name = property.as_str().unwrap_or_default();
            one(head_of(place), format!("\"{name}\" is missing"))
        }
        ValidationErrorKind::AdditionalProperties { unexpected }
        | ValidationErrorKind::UnevaluatedProperties { unexpected } => unexpected
            .iter()
            .map(|name| Problem { span: key_span(name), message: format!("no \"{name}\" is known here") })
            .collect(),
        ValidationErrorKind::Type { kind } => one(whole, format!("this is {}, not {}", type_of(found), types(kind))),
        ValidationErrorKind::Enum { options } => {
            let known: Vec<String> = options.as_array().into_iter().flatten().map(short).collect();
            let near = nearest(found, options).map_or_else(String::new, |near| format!("; did you mean {near}?"));
            one(place.span(), format!("{} is none of {}{near}", short(found), known.join(", ")))
        }
        ValidationErrorKind::Constant { expected_value } => {
            one(place.span(), format!("{} is not {}", short(found), short(expected_value)))
        }
        ValidationErrorKind::Pattern { pattern } => {
            one(place.span(), format!("{} does not match {}", short(found), cut(pattern)))
        }
        ValidationErrorKind::Minimum { limit } => one(place.span(), format!("{} is less than {limit}", short(found))),
        ValidationErrorKind::Maximum { limit } => one(place.span(), format!("{} is more than {limit}", short(found))),
        ValidationErrorKind::ExclusiveMinimum { limit } => {
            one(place.span(), format!("{} is not more than {limit}", short(found)))
        }
        ValidationErrorKind::ExclusiveMaximum { limit } => {
            one(place.span(), format!("{} is not less than {limit}", short(found)))
        }
        ValidationErrorKind::MinLength { limit } => {
            one(place.span(), format!("{} has fewer characters than {limit}", short(found)))
        }
        ValidationErrorKind::MaxLength { limit } => {
            one(place.span(), format!("{} has more characters than {limit}", short(found)))
        }
        ValidationErrorKind::MinItems { limit } => {
            one(head_of(place), format!("this has {}, not at least {limit}", count(found, "element")))
        }
        ValidationErrorKind::MaxItems { limit } => {
            one(head_of(place), format!("this has {}, not at most {limit}", count(found, "element")))
        }
        ValidationErrorKind::MinProperties { limit } => {
            one(head_of(place), format!("this has {}, not at least {limit}", count(found, "key")))
        }
        ValidationErrorKind::MaxProperties { limit } => {
            one(head_of(place), format!("this has {}, not at most {limit}", count(found, "key")))
        }
        ValidationErrorKind::UniqueItems => one(head_of(place), "two elements of this are the same".to_string()),
        ValidationErrorKind::Format { format } => {
            one(place.span(), format!("{} is not in the form \"{format}\"", short(found)))
        }
        ValidationErrorKind::Not { .. } => one(whole, "this is what it may not be".to_string()),
        ValidationErrorKind::FalseSchema => one(place.key_or_own_span(), "nothing may be here".to_string()),
        ValidationErrorKind::AnyOf { .. } | ValidationErrorKind::OneOfNotValid { .. } => {
            one(whole, "this is none of the forms that are allowed here".to_string())
        }
        ValidationErrorKind::PropertyNames { error } => {
            let name = error.instance().as_str().unwrap_or_default().to_string();
            one(key_span(&name), format!("\"{}\" is no name that is allowed here", cut(&name)))
        }
        _ => one(place.span(), otherwise()),
    }
}

/// The string among options that another one was probably meant to be.
fn nearest(found: &Json, options: &Json) -> Option<String> {
    let found = found.as_str().filter(|found| found.len() <= LONGEST)?;
    let names = options.as_array()?.iter().filter_map(Json::as_str).filter(|name| name.len() <= LONGEST);
    let (distance, near) =
        names.map(|name| (strsim::damerau_levenshtein(found, name), name)).min_by_key(|(distance, _)| *distance)?;
    (distance <= (near.len() / 3).max(1)).then(|| Json::from(near).to_string())
}

/// The key of a value, or where it begins.
fn head_of(place: Value<'_, '_>) -> Span {
    place.key_span().unwrap_or_else(|| start_of(place))
}

/// How many elements or keys a value has, in words.
fn count(found: &Json, what: &str) -> String {
    let count = found.as_array().map_or_else(|| found.as_object().map_or(0, serde_json::Map::len), Vec::len);
    if count == 1 { format!("1 {what}") } else { format!("{count} {what}s") }
}

/// The beginning of a value without a key: the bracket, or the first key.
fn start_of(place: Value<'_, '_>) -> Span {
    let span = place.span();
    let first = place.children().next().and_then(Value::key_span);
    first.filter(|first| first.start == span.start).unwrap_or(Span::new(span.start, span.end.min(span.start + 1)))
}

fn type_of(value: &Json) -> &'static str {
    match value {
        Json::Null => "null",
        Json::Bool(_) => "a boolean",
        Json::Number(_) => "a number",
        Json::String(_) => "a string",
        Json::Array(_) => "a list",
        Json::Object(_) => "an object",
    }
}

fn types(kind: &TypeKind) -> String {
    match kind {
        TypeKind::Single(one) => type_in_words(&one.to_string()).to_string(),
        TypeKind::Multiple(all) => {
            let names: Vec<String> = all.iter().map(|one| one.to_string()).collect();
            types_in_words(names.iter().map(String::as_str))
        }
    }
}

/// The word in messages for a type of JSON Schema (2020-12, 6.1.1).
pub(crate) fn type_in_words(name: &str) -> &str {
    match name {
        "boolean" => "a boolean",
        "integer" => "a whole number",
        "number" => "a number",
        "array" => "a list",
        "object" => "an object",
        "string" => "a string",
        other => other,
    }
}

/// The same for several types, of which a value may have any.
pub(crate) fn types_in_words<'n>(names: impl Iterator<Item = &'n str>) -> String {
    names.map(type_in_words).collect::<Vec<_>>().join(" or ")
}

/// A value as it is shown in a message.
fn short(value: &Json) -> String {
    cut(&value.to_string())
}

/// The first line of a string, as far as it is shown in a message.
pub(crate) fn cut(text: &str) -> String {
    let line = text.lines().next().unwrap_or_default();
    if line.len() == text.len() && line.chars().count() <= LONGEST {
        return line.to_string();
    }
    line.chars().take(LONGEST).collect::<String>() + "…"
}
