//! Values as JSON, for those who read no other form.

use std::fmt;

use serde_json::{Map, Number, Value as Json};

use super::{Scalar, Shape, Steps, Value};

/// A value that would grow past a bound: its aliases stand for more than is in the file.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct TooLarge {
    /// The bound, in values.
    pub most: usize,
}

impl fmt::Display for TooLarge {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(out, "with its aliases resolved this has more than {} values", self.most)
    }
}

impl std::error::Error for TooLarge {}

/// A value as JSON, as far as so many levels. Numbers that JSON has no form for are null; of equal keys the last counts.
pub(super) fn to_json(value: Value<'_, '_>, levels: usize, steps: &Steps) -> Result<Json, TooLarge> {
    convert(value, levels, steps).ok_or(TooLarge { most: steps.most })
}

fn convert(value: Value<'_, '_>, levels: usize, steps: &Steps) -> Option<Json> {
    steps.take()?;
    Some(match value.shape() {
        Shape::Object if levels == 0 => Json::Object(Map::new()),
        Shape::List if levels == 0 => Json::Array(Vec::new()),
        Shape::Object => {
            let mut object = Map::new();
            for child in value.children() {
                object.insert(child.key().unwrap_or_default().to_string(), convert(child, levels - 1, steps)?);
            }
            Json::Object(object)
        }
        Shape::List => {
            let elements: Option<Vec<Json>> = value.children().map(|child| convert(child, levels - 1, steps)).collect();
            Json::Array(elements?)
        }
        Shape::Scalar => value.scalar().map_or(Json::Null, scalar),
        Shape::Unknown => Json::Null,
    })
}

fn scalar(scalar: Scalar) -> Json {
    match scalar {
        Scalar::Null => Json::Null,
        Scalar::Boolean(value) => Json::Bool(value),
        Scalar::Whole(value) => match (u64::try_from(value), i64::try_from(value)) {
            (Ok(value), _) => Json::Number(value.into()),
            (_, Ok(value)) => Json::Number(value.into()),
            _ => Number::from_f64(value as f64).map_or(Json::Null, Json::Number),
        },
        Scalar::Real(value) => Number::from_f64(value).map_or(Json::Null, Json::Number),
        Scalar::String(value) => Json::String(value),
    }
}
