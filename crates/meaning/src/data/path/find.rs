//! Follows a path.

use super::super::{Shape, Steps, Value};
use super::compare::compared;
use super::function::matches;
use super::item::Item;
use super::{Comparable, Logical, Path, Query, Segment, Selector, TooManySteps};

/// The values that a path leads to; through references, if a document is given in which they are followed.
pub(super) fn find<'d, 't>(
    path: &Path,
    root: Value<'d, 't>,
    references_in: Option<Value<'d, 't>>,
    steps: &Steps,
) -> Result<Vec<Value<'d, 't>>, TooManySteps> {
    Search { root, references_in, steps }.path(path, root)
}

/// One search, with the steps that it may still take.
pub(super) struct Search<'s, 'd, 't> {
    root: Value<'d, 't>,
    references_in: Option<Value<'d, 't>>,
    steps: &'s Steps,
}

impl<'d, 't> Search<'_, 'd, 't> {
    fn step(&self) -> Result<(), TooManySteps> {
        self.steps.take().ok_or(self.too_many())
    }

    fn too_many(&self) -> TooManySteps {
        TooManySteps { most: self.steps.most }
    }

    fn path(&self, path: &Path, from: Value<'d, 't>) -> Result<Vec<Value<'d, 't>>, TooManySteps> {
        let mut found = vec![from];
        for segment in &path.segments {
            let mut next = Vec::new();
            for value in found {
                self.segment(segment, value, &mut next)?;
            }
            found = next;
        }
        Ok(found)
    }

    /// What a filter's query leads to from a value.
    pub(super) fn query(&self, query: &Query, at: Value<'d, 't>) -> Result<Vec<Value<'d, 't>>, TooManySteps> {
        let from = if query.is_absolute { self.root } else { at };
        self.path(&query.path, from)
    }

    fn segment(
        &self,
        segment: &Segment,
        value: Value<'d, 't>,
        next: &mut Vec<Value<'d, 't>>,
    ) -> Result<(), TooManySteps> {
        if !segment.is_descendant {
            return self.selectors(segment, value, next);
        }
        // Each value before what is in it, without recursion: aliases may nest without end.
        let mut waiting = vec![value];
        while let Some(value) = waiting.pop() {
            self.selectors(segment, value, next)?;
            for child in value.children().rev() {
                self.step()?;
                waiting.push(child);
            }
        }
        Ok(())
    }

    fn selectors(
        &self,
        segment: &Segment,
        value: Value<'d, 't>,
        next: &mut Vec<Value<'d, 't>>,
    ) -> Result<(), TooManySteps> {
        self.step()?;
        let value = self.references_in.and_then(|document| value.followed(document)).unwrap_or(value);
        for selector in &segment.selectors {
            match selector {
                Selector::Name(name) => next.extend(value.get(name)),
                Selector::Index(index) => next.extend(element(value, *index)),
                Selector::Slice { start, end, step } => self.slice(value, (*start, *end, *step), next)?,
                Selector::Wildcard => {
                    for child in value.children() {
                        self.step()?;
                        next.push(child);
                    }
                }
                Selector::Filter(filter) => {
                    for child in value.children() {
                        self.step()?;
                        if self.holds(filter, child)? {
                            next.push(child);
                        }
                    }
                }
            }
        }
        Ok(())
    }

    /// RFC 9535, 2.3.4.2.2
    fn slice(
        &self,
        value: Value<'d, 't>,
        (start, end, step): (Option<i64>, Option<i64>, i64),
        next: &mut Vec<Value<'d, 't>>,
    ) -> Result<(), TooManySteps> {
        if value.shape() != Shape::List || step == 0 {
            return Ok(());
        }
        let length = value.children().len() as i64;
        let normal = |index: i64| if index >= 0 { index } else { length + index };
        let (from, to) = if step > 0 {
            (normal(start.unwrap_or(0)).clamp(0, length), normal(end.unwrap_or(length)).clamp(0, length))
        } else {
            let last = start.map_or(length - 1, normal).clamp(-1, length - 1);
            (last, end.map_or(-1, normal).clamp(-1, length - 1))
        };
        let mut index = from;
        while step > 0 && index < to || step < 0 && index > to {
            self.step()?;
            next.extend(value.index(index as usize));
            index += step;
        }
        Ok(())
    }

    /// Whether a filter holds for a value.
    fn holds(&self, filter: &Logical, at: Value<'d, 't>) -> Result<bool, TooManySteps> {
        Ok(match filter {
            Logical::Or(all) => {
                for one in all {
                    if self.holds(one, at)? {
                        return Ok(true);
                    }
                }
                false
            }
            Logical::And(all) => {
                for one in all {
                    if !self.holds(one, at)? {
                        return Ok(false);
                    }
                }
                true
            }
            Logical::Not(inner) => !self.holds(inner, at)?,
            Logical::Exists(query) => !self.query(query, at)?.is_empty(),
            Logical::Compare(left, comparison, right) => {
                let (left, right) = (self.item(left, at)?, self.item(right, at)?);
                compared(&left, *comparison, &right, self.steps).ok_or(self.too_many())?
            }
            Logical::Matches { text, pattern, is_whole } => {
                let (text, pattern) = (self.item(text, at)?, self.item(pattern, at)?);
                matches(&text, &pattern, *is_whole)
            }
        })
    }

    /// What a part of a comparison comes to.
    fn item(&self, comparable: &Comparable, at: Value<'d, 't>) -> Result<Item<'d, 't>, TooManySteps> {
        Ok(match comparable {
            Comparable::Literal(scalar) => Item::of_scalar(scalar.clone()),
            Comparable::Single(query) | Comparable::ValueOf(query) => match self.query(query, at)?[..] {
                [only] => Item::of(only),
                _ => Item::Nothing,
            },
            Comparable::Count(query) => Item::Number(self.query(query, at)?.len() as f64),
            Comparable::Length(inner) => match self.item(inner, at)? {
                Item::String(text) => Item::Number(text.chars().count() as f64),
                Item::Inner(value) => Item::Number(value.children().len() as f64),
                _ => Item::Nothing,
            },
        })
    }
}

/// An element by its index, from the end where that is below zero.
fn element<'d, 't>(value: Value<'d, 't>, index: i64) -> Option<Value<'d, 't>> {
    let length = value.children().len() as i64;
    let index = if index >= 0 { index } else { length + index };
    usize::try_from(index).ok().and_then(|index| value.index(index))
}
