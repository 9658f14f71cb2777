//! What filters compare.

use super::super::{Scalar, Shape, Value};

/// What is compared.
#[derive(Debug)]
pub(super) enum Item<'d, 't> {
    Nothing,
    Null,
    Boolean(bool),
    Number(f64),
    String(String),
    /// An object or a list.
    Inner(Value<'d, 't>),
}

impl<'d, 't> Item<'d, 't> {
    pub(super) fn of(value: Value<'d, 't>) -> Item<'d, 't> {
        match value.shape() {
            Shape::Object | Shape::List => Item::Inner(value.resolved()),
            Shape::Scalar => value.scalar().map_or(Item::Nothing, Item::of_scalar),
            Shape::Unknown => Item::Nothing,
        }
    }

    pub(super) fn of_scalar(scalar: Scalar) -> Item<'d, 't> {
        match scalar {
            Scalar::Null => Item::Null,
            Scalar::Boolean(value) => Item::Boolean(value),
            Scalar::Whole(value) => Item::Number(value as f64),
            Scalar::Real(value) => Item::Number(value),
            Scalar::String(value) => Item::String(value),
        }
    }
}
