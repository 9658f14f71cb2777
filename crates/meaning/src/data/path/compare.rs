//! Comparisons (RFC 9535, 2.3.5.2.2).

use super::super::{Shape, Steps, Value};
use super::Comparison;
use super::item::Item;

/// Whether a comparison holds; nothing where it takes more than the steps that are left.
pub(super) fn compared(left: &Item, comparison: Comparison, right: &Item, steps: &Steps) -> Option<bool> {
    let equal = || same(left, right, steps);
    Some(match comparison {
        Comparison::Equal => equal()?,
        Comparison::NotEqual => !equal()?,
        Comparison::Less => is_less(left, right),
        Comparison::Greater => is_less(right, left),
        Comparison::LessOrEqual => is_less(left, right) || equal()?,
        Comparison::GreaterOrEqual => is_less(right, left) || equal()?,
    })
}

fn is_less(left: &Item, right: &Item) -> bool {
    match (left, right) {
        (Item::Number(left), Item::Number(right)) => left < right,
        // By their code points, as UTF-8 sorts them.
        (Item::String(left), Item::String(right)) => left < right,
        _ => false,
    }
}

fn same(left: &Item, right: &Item, steps: &Steps) -> Option<bool> {
    Some(match (left, right) {
        (Item::Nothing, Item::Nothing) | (Item::Null, Item::Null) => true,
        (Item::Boolean(left), Item::Boolean(right)) => left == right,
        (Item::Number(left), Item::Number(right)) => left == right,
        (Item::String(left), Item::String(right)) => left == right,
        (Item::Inner(left), Item::Inner(right)) => same_inner(*left, *right, steps)?,
        _ => false,
    })
}

/// Whether two objects have the same keys with the same values, or two lists the same elements.
fn same_inner(left: Value, right: Value, steps: &Steps) -> Option<bool> {
    if left == right {
        return Some(true);
    }
    if left.shape() != right.shape() || left.children().len() != right.children().len() {
        return Some(false);
    }
    for (index, one) in left.children().enumerate() {
        steps.take()?;
        let other = match (left.shape(), one.key()) {
            (Shape::Object, Some(key)) => right.get(key),
            _ => right.index(index),
        };
        let Some(other) = other else { return Some(false) };
        if !same(&Item::of(one), &Item::of(other), steps)? {
            return Some(false);
        }
    }
    Some(true)
}
