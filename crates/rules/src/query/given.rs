//! Values that a query is given from outside: options of its rule, and lists beside its pack.

use std::collections::BTreeMap;

use super::error::QueryError;
use super::syntax::{Value, ValueKind};
use crate::interface::OptionValue;

/// What the values of a query may be given by, besides itself.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct Given<'g> {
    /// The options of its rule by name, as they are set.
    pub(crate) options: &'g [(&'g str, &'g OptionValue)],
    /// Lists by the names of their files; nothing where there can be none.
    pub(crate) lists: Option<&'g BTreeMap<String, Vec<String>>>,
}

impl Given<'_> {
    /// A value as it is without options and lists.
    pub(super) fn value(&self, value: &Value) -> Result<Value, QueryError> {
        let kind = match &value.kind {
            ValueKind::Option(name) => self.option(name).ok_or_else(|| {
                let message = format!("there is no option \"{name}\" here");
                let names = self.options.iter().map(|(known, _)| *known);
                QueryError::new(value.place.clone(), message).nearest(name, names)
            })?,
            ValueKind::Lines(path) => {
                let lines = self.lists.and_then(|lists| lists.get(path)).cloned();
                let message = "only a rule of a pack can ask for a list in a file";
                ValueKind::List(lines.ok_or_else(|| QueryError::new(value.place.clone(), message))?)
            }
            _ => return Ok(value.clone()),
        };
        Ok(Value { kind, place: value.place.clone() })
    }

    fn option(&self, name: &str) -> Option<ValueKind> {
        let (_, value) = self.options.iter().find(|(known, _)| *known == name)?;
        match value {
            OptionValue::Count(count) => Some(ValueKind::Number(f64::from(*count))),
            OptionValue::Word(word) => Some(ValueKind::String(word.clone())),
            OptionValue::Words(words) => Some(ValueKind::List(words.clone())),
            OptionValue::Numbers(_) | OptionValue::Flag(_) => None,
        }
    }
}
